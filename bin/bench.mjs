// npm run bench: the figures of docs/benchmarks.md, over a cluster and a practice host of its own.
import fs from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { ensureNodeModules } from './lib/install.mjs'
import { freePort, run } from './lib/run.mjs'
import { main } from './lib/say.mjs'
import { startServices } from './lib/services.mjs'

process.chdir(new URL('..', import.meta.url).pathname)

await main(async () => {
  await ensureNodeModules()
  const data = fs.mkdtempSync(path.join(os.tmpdir(), 'rubricant-bench-'))
  fs.chmodSync(data, 0o755)
  const [port, postgresPort, sftpPort, webPort] = [
    await freePort(),
    await freePort(),
    await freePort(),
    await freePort(),
  ]
  const services = await startServices({ data, port, postgresPort, sftpPort, webPort, databaseUrl: null })
  try {
    const env = Object.fromEntries(Object.entries(services.env).map(([name, value]) => [name, String(value)]))
    await run('node', ['--import', 'tsx', 'bench/main.ts'], {
      show: true,
      env: { ...process.env, ...env, LOG_LEVEL: 'silent' },
    })
  } finally {
    await services.stop()
    fs.rmSync(data, { recursive: true, force: true })
  }
})
