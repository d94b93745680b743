// How a site comes in that somebody made by hand: read, understood and compared in the thread that does so for the
// application, beside a parser that does nothing else with the same bytes.
import { parse } from 'parse5'
import type { FileToRead } from '../server/bringing/brought-file'
import { endBringers, understandInThread } from '../server/bringing/in-thread'
import { handMade } from './sites'

const memory = () => Math.round(process.memoryUsage.rss() / 1e6)

/** Files as the application hands them to the thread: some at a time. */
async function* portionsOf(count: number): AsyncGenerator<FileToRead[]> {
  let some: FileToRead[] = []
  for (const { text, ...file } of handMade(count)) {
    some.push({ ...file, bytes: Buffer.from(text) })
    if (some.length < 100) continue
    yield some
    some = []
  }
  yield some
}

for (const count of (process.env.BENCH_PAGES ?? '300 2700').split(' ').map(Number)) {
  let most = 0
  const watching = setInterval(() => (most = Math.max(most, memory())), 50)
  const before = memory()
  const begun = performance.now()
  let halfMs = 0
  const choices = { scheme: null, lifts: true, generates: true }
  const answer = await understandInThread(
    { name: '', choices, into: null, year: 2031 },
    () => portionsOf(count),
    {
      tell: (done, all) => {
        if (done * 2 <= all) halfMs = performance.now() - begun
      },
    },
  )
  const allMs = performance.now() - begun
  clearInterval(watching)
  await endBringers()
  if ('refusal' in answer) throw new Error(answer.refusal)
  if (answer.compared.some(({ outcome }) => outcome === 'otherwise'))
    throw new Error('Pages come out otherwise.')

  let megabytes = 0
  let parseMs = 0
  for (const { text } of handMade(count)) {
    const parsed = performance.now()
    parse(text, { sourceCodeLocationInfo: true })
    parseMs += performance.now() - parsed
    megabytes += text.length / 1e6
  }
  const seconds = (ms: number) => `${(ms / 1000).toFixed(1)} s`
  console.log(
    `${count} pages by hand, ${megabytes.toFixed(0)} MB: read in ${seconds(halfMs)}, all in ${seconds(allMs)}; a bare parse ${seconds(parseMs)}, ` +
      `${(allMs / parseMs).toFixed(1)} times; memory ${before} MB before, ${most} MB at the most`,
  )
}
