import { createHash } from 'node:crypto'
import { existsSync, readFileSync, writeFileSync } from 'node:fs'
import { run } from './run.mjs'
import { Advice, say } from './say.mjs'

const isRoot = process.getuid?.() === 0
let listsFresh = false

/** Installs a Debian package when `present` finds that it is missing. */
export async function ensurePackage(name, present, why) {
  if (present()) return
  if (!isRoot || !existsSync('/usr/bin/apt-get'))
    throw new Advice(
      `${why} Install the Debian package “${name}” (apt-get install ${name}, as root) and start again.`,
    )
  say(`Installing ${name} …`)
  const apt = (...args) =>
    run('apt-get', ['-y', '-q', ...args], { env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' } })
  try {
    if (!listsFresh) await apt('update')
    listsFresh = true
    await apt('install', '--no-install-recommends', name)
  } catch (error) {
    throw new Advice(`${name} could not be installed. apt-get said:\n${error.output ?? error.message}`)
  }
  if (!present())
    throw new Advice(`${name} was installed, but what Rubricant needs of it is not where it was expected.`)
}

/** Installs the npm packages of the lockfile, when they are not what it says. */
export async function ensureNodeModules() {
  const [major] = process.versions.node.split('.').map(Number)
  if (major < 20) throw new Advice(`Rubricant needs Node.js 20 or later; this is ${process.versions.node}.`)
  const mark = 'node_modules/.rubricant-lock'
  const lock = createHash('sha256').update(readFileSync('package-lock.json')).digest('hex')
  if (existsSync(mark) && readFileSync(mark, 'utf8') === lock) return
  say('Installing npm packages …')
  try {
    await run('npm', ['ci', '--no-audit', '--no-fund'])
  } catch (error) {
    throw new Advice(`The npm packages could not be installed. npm said:\n${error.output ?? error.message}`)
  }
  writeFileSync(mark, lock)
}
