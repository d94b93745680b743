import { spelling } from '#core/naming'
import { type Answering, answers, type Task, type ToWorker } from './questions'

// One program for all workers, told by its name what to answer: they share what they have in common.
// Messages are taken in order, also those that come while it is being fetched.

const ready = Promise.all([answers[self.name as Task](), spelling.load()])
let ground: unknown
let turn: Promise<void> = Promise.resolve()

addEventListener('message', ({ data }: MessageEvent<ToWorker<unknown, unknown>>) => {
  turn = turn.then(async () => {
    const [answer] = await ready
    if (data.kind === 'ground') ground = data.ground
    else postMessage(await (answer as Answering<unknown, unknown, unknown>)(ground, data.question))
  })
  // A failure is the window's to show: as an error of the worker.
  turn.catch((error: unknown) =>
    setTimeout(() => {
      throw error
    }),
  )
})
