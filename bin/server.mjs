// The application's own process in production: the built server, and a clean end.
import fs from 'node:fs'
import path from 'node:path'

process.chdir(new URL('..', import.meta.url).pathname)
process.env.NODE_ENV = 'production'
// Where they were not built, or not to the end, threads run the sources.
if (fs.existsSync('build/threads/.sources')) process.env.RUBRICANT_THREADS ??= path.resolve('build/threads')
const { serve, shutDown } = await import('../build/server/index.js')
let server = null
let ending = false
const end = async () => {
  if (ending) return
  ending = true
  // Whatever hangs, an end that was asked for comes.
  setTimeout(() => process.exit(1), 15_000 + 1_000 * (Number(process.env.RUBRICANT_NOTICE) || 0)).unref()
  await shutDown(server).catch((error) => console.error(error.message))
  process.exit(0)
}
for (const signal of ['SIGTERM', 'SIGINT']) process.on(signal, () => void end())
// Started with a channel to its parent, it ends when the parent is gone, however that ended.
process.once('disconnect', () => void end())
try {
  server = await serve('build/client')
  console.log('server ready')
} catch (error) {
  console.error(error.message)
  process.exit(1)
}
