// npm run admin: what whoever runs the server does by hand, with the settings of the server itself.
import { spawn } from 'node:child_process'
import { main } from './lib/say.mjs'
import { keyOf, settings } from './lib/services.mjs'
import { addressOf } from './lib/postgres.mjs'

process.chdir(new URL('..', import.meta.url).pathname)

await main(async () => {
  const options = settings()
  const env = {
    ...process.env,
    LOG_LEVEL: process.env.LOG_LEVEL ?? 'error',
    RUBRICANT_KEY: keyOf(options.data),
    DATABASE_URL: options.databaseUrl ?? addressOf(options.data, options.postgresPort),
    PORT: String(options.port),
  }
  const child = spawn(process.execPath, ['--import', 'tsx', 'server/admin.ts', ...process.argv.slice(2)], {
    stdio: 'inherit',
    env,
  })
  process.exitCode = await new Promise((resolve) => child.once('close', (code) => resolve(code ?? 1)))
})
