// npm run bench: the figures of docs/benchmarks.md, over a cluster and a practice host of its own. Parts are named
// after `--`: core, reading, bringing, deliveries, pages, keys, uploads, load.
import { buildBench, ensureBuild, ensureThreads } from './lib/build.mjs'
import { ensureChromium } from './lib/chromium.mjs'
import { ensureNodeModules } from './lib/install.mjs'
import { freePort, run } from './lib/run.mjs'
import { main } from './lib/say.mjs'
import { startChild, startOwnServices } from './lib/services.mjs'

const wanted = process.argv.slice(2)
const isWanted = (part) => wanted.length === 0 || wanted.includes(part)

process.chdir(new URL('..', import.meta.url).pathname)

await main(async () => {
  await ensureNodeModules()
  await ensureChromium('The figures of keys are taken in Chromium, which is not installed.')
  await ensureBuild()
  process.env.RUBRICANT_THREADS = await ensureThreads()
  const ofServer = [
    ['core', 'main'],
    ['reading', 'reading'],
    ['bringing', 'bringing'],
    ['deliveries', 'deliveries'],
  ].filter(([part]) => isWanted(part))
  const builtAt = ofServer.length > 0 ? await buildBench(ofServer.map(([, file]) => file)) : null
  const services = await startOwnServices('bench')
  try {
    for (const [, file] of ofServer)
      await run('node', [builtAt(file)], {
        show: true,
        // It sends to a practice host of its own, on loopback.
        env: { ...process.env, ...services.env, LOG_LEVEL: 'silent', RUBRICANT_PRIVATE_HOSTS: 'true' },
      })
    const app = await startChild('bin/server.mjs', { ...services.env, LOG_LEVEL: 'error' }, /server ready/)
    services.stops.push(app.stop)
    for (const part of ['pages', 'keys', 'uploads'].filter(isWanted))
      await run('node', ['--import', 'tsx', `bench/${part}.ts`], {
        show: true,
        env: { ...process.env, BENCH_ADDRESS: `http://127.0.0.1:${services.port}`, BENCH_PID: app.child.pid },
      })
    if (isWanted('load')) {
      const port = await freePort()
      const second = await startChild(
        'bin/server.mjs',
        { ...services.env, PORT: port, LOG_LEVEL: 'error' },
        /server ready/,
      )
      services.stops.push(second.stop)
      await run('node', ['--import', 'tsx', 'bench/load.ts'], {
        show: true,
        env: {
          ...process.env,
          ...services.env,
          LOG_LEVEL: 'silent',
          BENCH_ADDRESSES: `http://127.0.0.1:${services.port} http://127.0.0.1:${port}`,
          BENCH_PIDS: `${app.child.pid} ${second.child.pid}`,
        },
      })
    }
  } finally {
    await services.stop()
  }
})
