import { createHash } from 'node:crypto'
import fs from 'node:fs'
import path from 'node:path'
import { promisify } from 'node:util'
import zlib from 'node:zlib'
import { run } from './run.mjs'
import { say } from './say.mjs'

const sources = [
  'app',
  'core',
  'server',
  'demo/load.ts',
  'public',
  'package-lock.json',
  'package.json',
  'vite.config.ts',
  'react-router.config.ts',
  'tsconfig.json',
]

function* filesBelow(place) {
  if (!fs.statSync(place).isDirectory()) yield place
  else for (const name of fs.readdirSync(place).sort()) yield* filesBelow(path.join(place, name))
}

function stateOf(sources) {
  const hash = createHash('sha256')
  for (const place of sources)
    for (const file of filesBelow(place)) {
      if (/\.(test|spec)\.tsx?$/.test(file)) continue
      hash.update(file).update('\0').update(fs.readFileSync(file)).update('\0')
    }
  return hash.digest('hex')
}

/** What is text grows smaller when it is packed; fonts and pictures are packed already. */
const packable = /\.(js|css|svg|json|html|txt)$/
/** Smaller ones fit in one packet as they are. */
const leastBytes = 1_000
const brotli = promisify(zlib.brotliCompress)
const gzip = promisify(zlib.gzip)

/** Puts a Brotli and a gzip form beside each file, so that nothing is packed while somebody waits. */
async function packFiles(folder) {
  const files = [...filesBelow(folder)].filter((file) => packable.test(file))
  await Promise.all(
    files.map(async (file) => {
      const bytes = fs.readFileSync(file)
      if (bytes.length < leastBytes) return
      const params = { [zlib.constants.BROTLI_PARAM_SIZE_HINT]: bytes.length }
      fs.writeFileSync(`${file}.br`, await brotli(bytes, { params }))
      fs.writeFileSync(`${file}.gz`, await gzip(bytes, { level: 9 }))
    }),
  )
}

/** Windows that are open, and servers that run, go on asking for the parts that they are made of: so long, in milliseconds, and so many bytes of them. */
const keptFor = 30 * 24 * 60 * 60 * 1000
const mostKept = 50_000_000

/** Links parts of earlier builds into a new one, the newest first. Their names carry a hash of what they are. */
function keepEarlier(from, to) {
  if (!fs.existsSync(from)) return
  const files = fs
    .readdirSync(from)
    .map((name) => ({ name, ...fs.statSync(path.join(from, name)) }))
    .filter(({ name, mtimeMs }) => Date.now() - mtimeMs < keptFor && !fs.existsSync(path.join(to, name)))
    .sort((a, b) => b.mtimeMs - a.mtimeMs)
  let bytes = 0
  for (const { name, size } of files)
    if ((bytes += size) <= mostKept) fs.linkSync(path.join(from, name), path.join(to, name))
}

/** Where modules that threads run stand once they are built. */
const threads = path.resolve('build/threads')

/** Builds modules into a file each, and what they share, as the application is built. */
async function buildModules(modules, folder) {
  const { build } = await import('vite')
  // It sets what this process is run as, and who asked may go on to tests.
  const { NODE_ENV } = process.env
  await build({
    configFile: false,
    logLevel: 'warn',
    publicDir: false,
    build: {
      ssr: true,
      outDir: folder,
      emptyOutDir: true,
      target: 'node20',
      rolldownOptions: {
        input: Object.fromEntries(modules.map((file) => [path.basename(file, '.ts'), path.resolve(file)])),
        output: { entryFileNames: '[name].js', chunkFileNames: 'shared-[hash].js' },
      },
    },
  })
  if (NODE_ENV === undefined) delete process.env.NODE_ENV
  else process.env.NODE_ENV = NODE_ENV
}

/**
 * Builds what threads run: as sources, hundreds of modules are read and translated by each thread that starts, which takes it a
 * second or two.
 */
const buildThreads = () =>
  buildModules(
    [...filesBelow('server')].filter((file) => file.endsWith('.worker.ts')),
    threads,
  )

/**
 * Builds what figures are taken by, as the application is built: translated as it is run, each function is given its name again
 * whenever it is made, which costs a tenth of a build of a site.
 * @returns where a module stands
 */
export async function buildBench(names) {
  const folder = path.resolve('build/bench')
  await buildModules(
    names.map((name) => `bench/${name}.ts`),
    folder,
  )
  return (name) => path.join(folder, `${name}.js`)
}

/**
 * Builds what threads run when its sources differ from those of the last time.
 * @returns where it stands, as `RUBRICANT_THREADS` names it
 */
export async function ensureThreads() {
  const mark = path.join(threads, '.sources')
  const state = stateOf(['core', 'server', 'package-lock.json', 'package.json', 'bin/lib/build.mjs'])
  if (!fs.existsSync(mark) || fs.readFileSync(mark, 'utf8') !== state) {
    await buildThreads()
    fs.writeFileSync(mark, state)
  }
  return threads
}

/** Builds the application, its threads included, when its sources differ from those of the last build. */
export async function ensureBuild() {
  const mark = 'build/.sources'
  const state = stateOf(sources)
  if (!fs.existsSync(mark) || fs.readFileSync(mark, 'utf8') !== state) {
    say('Building …')
    // A program that runs meanwhile goes on: what it serves is replaced once all of the new one is there.
    const [next, before] = ['build/next', 'build/before']
    for (const folder of [next, before]) fs.rmSync(folder, { recursive: true, force: true })
    await run('npx', ['react-router', 'build'], {
      env: {
        ...process.env,
        NODE_ENV: 'production',
        RUBRICANT_BUILD: next,
        RUBRICANT_PROGRAM: state.slice(0, 16),
      },
    })
    await packFiles(`${next}/client`)
    for (const assets of ['client/assets', 'server/assets'])
      keepEarlier(`build/${assets}`, `${next}/${assets}`)
    fs.rmSync(mark, { force: true })
    fs.mkdirSync(before)
    for (const part of ['client', 'server']) {
      if (fs.existsSync(`build/${part}`)) fs.renameSync(`build/${part}`, `${before}/${part}`)
      fs.renameSync(`${next}/${part}`, `build/${part}`)
    }
    fs.writeFileSync(mark, state)
    for (const folder of [next, before]) fs.rmSync(folder, { recursive: true, force: true })
  }
  await ensureThreads()
}
