// npm run check:hosts: the contract of transports and whole deliveries against the servers that web hosts run, from Debian's
// packages, over one folder of an account that is made for it and removed again. Needs root.
import { execFileSync } from 'node:child_process'
import { randomBytes } from 'node:crypto'
import fs from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { ensureNodeModules } from './lib/install.mjs'
import { run } from './lib/run.mjs'
import { Advice, main, say } from './lib/say.mjs'
import { startOwnServices } from './lib/services.mjs'
import { startWebHosts } from './lib/web-hosts.mjs'

process.chdir(new URL('..', import.meta.url).pathname)

const account = 'rubricant-check'

await main(async () => {
  if (process.getuid?.() !== 0)
    throw new Advice(
      'npm run check:hosts makes an account and starts servers: run it as root, where nothing else runs.',
    )
  await ensureNodeModules()
  const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'rubricant-hosts-'))
  const password = randomBytes(12).toString('hex')
  const home = path.join(folder, 'home')
  const services = await startOwnServices('test')
  let hosts = null
  try {
    fs.mkdirSync(path.join(home, 'public'), { recursive: true })
    execFileSync('useradd', ['--home-dir', home, '--shell', '/bin/bash', '--no-create-home', account])
    execFileSync('chpasswd', { input: `${account}:${password}\n` })
    execFileSync('chown', ['-R', `${account}:${account}`, home])
    // Visitors are served by another account than the one that sends.
    for (let at = home; at !== os.tmpdir() && at !== '/'; at = path.dirname(at)) fs.chmodSync(at, 0o755)
    hosts = await startWebHosts({ folder, home, account })
    const { places, webPort } = hosts
    say(`To send to: ${places.map(({ name, port }) => `${name} at ${port}`).join(', ')}; nginx at ${webPort}`)
    await run('node', ['node_modules/jest/bin/jest.js', '--selectProjects', 'hosts', '--verbose', ...process.argv.slice(2)], {
      show: true,
      env: {
        ...process.env,
        ...services.env,
        LOG_LEVEL: 'silent',
        RUBRICANT_PRIVATE_HOSTS: 'true',
        REAL_HOSTS: JSON.stringify({ account, password, home, webPort, places }),
      },
    }) // prettier-ignore
  } finally {
    hosts?.stop()
    try {
      execFileSync('userdel', [account], { stdio: 'ignore' })
    } catch {
      // It was not made.
    }
    fs.rmSync(folder, { recursive: true, force: true })
    await services.stop()
  }
})
