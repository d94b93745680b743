import { fork } from 'node:child_process'
import { randomBytes } from 'node:crypto'
import fs from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { noteOwner, startPostgres } from './postgres.mjs'
import { freePort, isFree } from './run.mjs'
import { Advice, say } from './say.mjs'

/** The program's settings from the environment, with what they are otherwise. */
export function settings(environment = process.env) {
  const port = (name, otherwise) => {
    const text = environment[name]
    if (text === undefined || text === '') return otherwise
    const value = Number(text)
    if (!Number.isInteger(value) || value < 1 || value > 65535)
      throw new Advice(`${name} has to be a port from 1 to 65535; it is “${text}”.`)
    return value
  }
  return {
    data: path.resolve(environment.RUBRICANT_DATA || '.data'),
    port: port('PORT', 4600),
    postgresPort: port('POSTGRES_PORT', 4632),
    sftpPort: port('PRACTICE_SFTP_PORT', 4622),
    webPort: port('PRACTICE_WEB_PORT', 4680),
    databaseUrl: environment.DATABASE_URL || null,
  }
}

const dataVersion = '1'

/** Makes the data folder, or says why it cannot be used. */
function openData(data) {
  try {
    fs.mkdirSync(data, { recursive: true })
    const file = path.join(data, 'version')
    if (!fs.existsSync(file)) fs.writeFileSync(file, dataVersion)
    const found = fs.readFileSync(file, 'utf8').trim()
    if (found !== dataVersion)
      throw new Advice(
        `The data in ${data} are of version ${found}; this Rubricant reads version ${dataVersion}. Start the Rubricant that made them, or set RUBRICANT_DATA to another folder to begin afresh.`,
      )
  } catch (error) {
    if (error.code === 'ENOSPC') throw new Advice(`The disk is full: make room for ${data} and start again.`)
    if (error.code === 'EACCES' || error.code === 'EROFS')
      throw new Advice(`The folder ${data} cannot be written. Set RUBRICANT_DATA to one that can.`)
    throw error
  }
}

/** The key that seals secrets: from the environment, else made once and kept with the data. */
function keyOf(data) {
  if (process.env.RUBRICANT_KEY) return process.env.RUBRICANT_KEY
  const file = path.join(data, 'key')
  if (!fs.existsSync(file)) fs.writeFileSync(file, randomBytes(32).toString('base64'), { mode: 0o600 })
  return fs.readFileSync(file, 'utf8').trim()
}

/** Starts what the application needs beside itself; everything ends with `stop`, in reverse order. */
export async function startServices(options) {
  openData(options.data)
  for (const [name, port] of [
    ['PORT', options.port],
    ['PRACTICE_SFTP_PORT', options.sftpPort],
    ['PRACTICE_WEB_PORT', options.webPort],
  ])
    if (!(await isFree(port)))
      throw new Advice(`Port ${port} is taken. Stop what uses it, or set ${name} to another.`)
  const stops = []
  const stop = async () => {
    while (stops.length > 0)
      await stops
        .pop()()
        .catch((error) => process.stderr.write(`${error.message}\n`))
  }
  try {
    let databaseUrl = options.databaseUrl
    let died = new Promise(() => {})
    if (!databaseUrl) {
      const postgres = await startPostgres({ data: options.data, port: options.postgresPort })
      noteOwner(options.data)
      stops.push(postgres.stop)
      databaseUrl = postgres.url
      died = postgres.died
    }
    const folder = path.join(options.data, 'practice-host')
    fs.mkdirSync(folder, { recursive: true })
    const host = await startChild(
      'practice-host/main.ts',
      { PRACTICE_FOLDER: folder, PRACTICE_SFTP_PORT: options.sftpPort, PRACTICE_WEB_PORT: options.webPort },
      /ready/,
      ['--import', 'tsx'],
    )
    stops.push(host.stop)
    const env = {
      PORT: options.port,
      DATABASE_URL: databaseUrl,
      RUBRICANT_KEY: keyOf(options.data),
      RUBRICANT_DEMO: 'true',
      PRACTICE_SFTP_PORT: options.sftpPort,
      PRACTICE_WEB_PORT: options.webPort,
      PRACTICE_PASSWORD: fs.readFileSync(path.join(folder, 'password'), 'utf8'),
    }
    return { env, stops, stop, died }
  } catch (error) {
    await stop()
    throw error
  }
}

/** Starts services of a run's own, on free ports over a folder that goes away with `stop`. */
export async function startOwnServices(purpose) {
  const data = fs.mkdtempSync(path.join(os.tmpdir(), `rubricant-${purpose}-`))
  // PostgreSQL's user has to get in, whoever made the folder.
  fs.chmodSync(data, 0o755)
  const [port, postgresPort, sftpPort, webPort] = [
    await freePort(),
    await freePort(),
    await freePort(),
    await freePort(),
  ]
  const services = await startServices({ data, port, postgresPort, sftpPort, webPort, databaseUrl: null })
  services.stops.unshift(async () => fs.rmSync(data, { recursive: true, force: true }))
  return { ...services, data, port, env: stringify(services.env) }
}

/** Starts one of our own programs and waits until it prints that it is ready. */
export async function startChild(file, env, ready, execArgv = []) {
  const child = fork(file, {
    execArgv,
    stdio: ['ignore', 'pipe', 'inherit', 'ipc'],
    env: { ...process.env, ...stringify(env) },
  })
  const ended = new Promise((resolve) => child.once('exit', (code, signal) => resolve(signal ?? code)))
  await new Promise((resolve, reject) => {
    let printed = ''
    child.stdout.on('data', (data) => {
      printed += data
      if (ready.test(printed)) resolve()
    })
    void ended.then((code) =>
      reject(new Advice(`${file} ended with ${code} before it was ready.\n${printed.slice(-2000)}`)),
    )
  })
  return {
    child,
    ended,
    async stop() {
      if (child.exitCode === null && child.signalCode === null) child.kill('SIGTERM')
      await Promise.race([ended, new Promise((resolve) => setTimeout(resolve, 10_000))])
      if (child.exitCode === null && child.signalCode === null) child.kill('SIGKILL')
    },
  }
}

const stringify = (env) =>
  Object.fromEntries(Object.entries(env).map(([name, value]) => [name, String(value)]))

/** Calls `stop` once when the program is asked to end, by Ctrl-C, SIGTERM or a closed terminal. */
export function stopOnSignals(stop) {
  let stopping = false
  const end = async (code) => {
    if (stopping) return
    stopping = true
    await stop()
    process.exit(code)
  }
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => void end(0))
  return (reason) => {
    if (stopping) return
    say(reason)
    void end(1)
  }
}
