// npm run bench: the figures of docs/benchmarks.md, over a cluster and a practice host of its own.
import { ensureNodeModules } from './lib/install.mjs'
import { run } from './lib/run.mjs'
import { main } from './lib/say.mjs'
import { startOwnServices } from './lib/services.mjs'

process.chdir(new URL('..', import.meta.url).pathname)

await main(async () => {
  await ensureNodeModules()
  const services = await startOwnServices('bench')
  try {
    await run('node', ['--import', 'tsx', 'bench/main.ts'], {
      show: true,
      env: { ...process.env, ...services.env, LOG_LEVEL: 'silent' },
    })
  } finally {
    await services.stop()
  }
})
