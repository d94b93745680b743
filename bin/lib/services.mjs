import { fork } from 'node:child_process'
import { randomBytes } from 'node:crypto'
import fs from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { noteOwner, startPostgres } from './postgres.mjs'
import { becomesFree, freePort } from './run.mjs'
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
    ftpPort: port('PRACTICE_FTP_PORT', 4621),
    ftpsPort: port('PRACTICE_FTPS_PORT', 4690),
    mailPort: port('PRACTICE_MAIL_PORT', 4625),
    databaseUrl: secretOf('DATABASE_URL', environment),
  }
}

/** A setting that is a secret: itself, or what is in the file that `<name>_FILE` names; null where neither is set. */
function secretOf(name, environment = process.env) {
  if (environment[name]) return environment[name]
  const file = environment[`${name}_FILE`]
  if (!file) return null
  try {
    return fs.readFileSync(file, 'utf8').trim()
  } catch (error) {
    throw new Advice(`${name}_FILE names “${file}”, which cannot be read (${error.code}).`)
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
export function keyOf(data) {
  const set = secretOf('RUBRICANT_KEY')
  if (set) return set
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
    ['PRACTICE_FTP_PORT', options.ftpPort],
    ['PRACTICE_FTPS_PORT', options.ftpsPort],
    ['PRACTICE_MAIL_PORT', options.mailPort],
  ])
    if (!(await becomesFree(port)))
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
    if (!databaseUrl) {
      const start = async () => {
        const {
          url,
          stop: end,
          died,
        } = await startPostgres({
          data: options.data,
          port: options.postgresPort,
          settings: options.postgresSettings,
        })
        noteOwner(options.data)
        return { url, stop: end, ended: died }
      }
      const postgres = await keepRunning('The database', start)
      stops.push(postgres.stop)
      databaseUrl = postgres.first.url
    }
    const folder = path.join(options.data, 'practice-host')
    fs.mkdirSync(folder, { recursive: true })
    const ports = {
      PRACTICE_SFTP_PORT: options.sftpPort,
      PRACTICE_WEB_PORT: options.webPort,
      PRACTICE_FTP_PORT: options.ftpPort,
      PRACTICE_FTPS_PORT: options.ftpsPort,
      PRACTICE_MAIL_PORT: options.mailPort,
    }
    const settings = { PRACTICE_FOLDER: folder, ...ports }
    const host = await keepRunning('The practice host', () =>
      startChild('practice-host/main.ts', settings, /ready/, ['--import', 'tsx']),
    )
    stops.push(host.stop)
    const env = {
      PORT: options.port,
      DATABASE_URL: databaseUrl,
      RUBRICANT_KEY: keyOf(options.data),
      RUBRICANT_DEMO: 'true',
      // Letters go to the practice host, which shows them, unless a mail server is set.
      RUBRICANT_SMTP: process.env.RUBRICANT_SMTP || `smtp://127.0.0.1:${options.mailPort}`,
      ...ports,
      PRACTICE_PASSWORD: fs.readFileSync(path.join(folder, 'password'), 'utf8'),
      // A run of tests makes more accounts than a person.
      ...(options.signUps && { RUBRICANT_SIGN_UPS: options.signUps }),
    }
    return { env, stops, stop }
  } catch (error) {
    await stop()
    throw error
  }
}

/**
 * A cluster that goes away with its run need not outlive a failure of the machine (`fsync`), only of its
 * processes; and what tidies it up in the background would hold databases that a suite drops.
 */
const passing = { fsync: 'off', full_page_writes: 'off', autovacuum: 'off' }

/** Starts services of a run's own, on free ports over a folder that goes away with `stop`. */
export async function startOwnServices(purpose) {
  const data = fs.mkdtempSync(path.join(os.tmpdir(), `rubricant-${purpose}-`))
  // PostgreSQL's user has to get in, whoever made the folder.
  fs.chmodSync(data, 0o755)
  const ports = {}
  for (const name of ['port', 'postgresPort', 'sftpPort', 'webPort', 'ftpPort', 'ftpsPort', 'mailPort'])
    ports[name] = await freePort()
  const services = await startServices({
    data,
    ...ports,
    databaseUrl: null,
    postgresSettings: passing,
    signUps: 1_000,
  })
  services.stops.unshift(async () => fs.rmSync(data, { recursive: true, force: true }))
  return { ...services, data, port: ports.port, env: stringify(services.env) }
}

/** Pauses between attempts to start something again; one that ran for a minute begins with the first. */
const restartMs = [0, 500, 1_000, 2_000, 5_000, 10_000, 30_000]
const steadyMs = 60_000
const endingTogetherMs = 200
/** Set as soon as the program is asked to end. */
let ending = false

/**
 * Starts something and, whenever it ends by itself, starts it again, with growing pauses.
 * @param start resolves to what runs: `ended`, a promise for its end, and `stop`
 */
export async function keepRunning(name, start) {
  let running = await start()
  const first = running
  let stopping = false
  let wake = () => {}
  const pause = (ms) =>
    new Promise((resolve) => {
      const timer = setTimeout(resolve, ms)
      wake = () => {
        clearTimeout(timer)
        resolve()
      }
    })
  const watch = async () => {
    let failures = 0
    let startedAt = Date.now()
    while (!stopping) {
      const reason = await running.ended
      if (stopping) return
      if (Date.now() - startedAt > steadyMs) failures = 0
      // Ctrl-C reaches everything at once: what ends with it did not end by itself.
      await pause(endingTogetherMs)
      if (stopping || ending) return
      say(`${name} ended by itself (${reason}). It is started again.`)
      for (let isBack = false; !isBack && !stopping;) {
        await pause(restartMs[Math.min(failures++, restartMs.length - 1)])
        if (stopping) return
        try {
          running = await start()
          startedAt = Date.now()
          isBack = true
          say(`${name} is running again.`)
        } catch (error) {
          say(`${name} could not be started: ${error.message}`)
        }
      }
      // Asked to stop while it was being started.
      if (stopping) await running.stop()
    }
  }
  const watching = watch()
  return {
    first,
    current: () => running,
    async stop() {
      stopping = true
      wake()
      await running.stop()
      void watching
    },
  }
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
  const end = async () => {
    if (stopping) return
    stopping = true
    ending = true
    await stop()
    process.exit(0)
  }
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => void end())
}
