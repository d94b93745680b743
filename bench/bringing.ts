// How a site comes in that somebody made by hand: read, understood and compared in the thread that does so for the
// application, beside a parser that does nothing else with the same bytes.
import { MessageChannel } from 'node:worker_threads'
import { parse } from 'parse5'
import { threadsOf } from '#server/platform'
import type { UnderstandAnswer, UnderstandTask } from '../server/bringing/understand.worker'
import { handMade } from './sites'

const memory = () => Math.round(process.memoryUsage.rss() / 1e6)

for (const count of (process.env.BENCH_PAGES ?? '300 2700').split(' ').map(Number)) {
  let most = 0
  const watching = setInterval(() => (most = Math.max(most, memory())), 50)
  const before = memory()
  const begun = performance.now()
  let halfMs = 0
  const { port1, port2 } = new MessageChannel()
  port1.on('message', ({ done, all }: { done: number; all: number }) => {
    if (done * 2 <= all) halfMs = performance.now() - begun
  })
  const thread = threadsOf<UnderstandTask, UnderstandAnswer>('server/bringing/understand.worker.ts', {
    threads: 1,
    memoryMb: 1_500,
    waiting: 1,
  })
  const choices = { scheme: null, lifts: true, generates: true }
  const answer = await thread.run(
    { files: handMade(count), name: '', choices, into: null, year: 2031, port: port2 },
    { transferList: [port2] },
  )
  const allMs = performance.now() - begun
  clearInterval(watching)
  port1.close()
  await thread.destroy()
  if ('refusal' in answer) throw new Error(answer.refusal)
  if (answer.compared.some(({ outcome }) => outcome === 'otherwise'))
    throw new Error('Pages come out otherwise.')

  const files = handMade(count)
  const megabytes = files.reduce((sum, { text }) => sum + text.length, 0) / 1e6
  const parsed = performance.now()
  for (const { text } of files) parse(text, { sourceCodeLocationInfo: true })
  const parseMs = performance.now() - parsed
  const seconds = (ms: number) => `${(ms / 1000).toFixed(1)} s`
  console.log(
    `${count} pages by hand, ${megabytes.toFixed(0)} MB: read in ${seconds(halfMs)}, all in ${seconds(allMs)}; a bare parse ${seconds(parseMs)}, ` +
      `${(allMs / parseMs).toFixed(1)} times; memory ${before} MB before, ${most} MB at the most`,
  )
}
