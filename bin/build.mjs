// npm run build: what the server and its threads run, and what browsers load, where the sources changed since the last time.
import { ensureBuild } from './lib/build.mjs'
import { main } from './lib/say.mjs'

process.chdir(new URL('..', import.meta.url).pathname)

await main(ensureBuild)
