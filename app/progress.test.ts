import { expect, test } from '@jest/globals'
import { readProgress } from './parts/read-progress'
import { progressStream } from './progress.server'

const never = new AbortController().signal
const noError = (error: unknown) => {
  throw error
}

test('a work that has nothing new to tell is told of again, so that no proxy takes it for dead', async () => {
  const heard: string[] = []
  let enough: () => void
  const heardEnough = new Promise<void>((resolve) => (enough = resolve))
  const { body } = progressStream(
    never,
    async (_, tell) => {
      tell(3, 9)
      await heardEnough
      return 'all of it'
    },
    noError,
    5,
  )
  const ended = await readProgress(body!, (done, all) => {
    if (heard.push(`${done} of ${all}`) === 4) enough()
  })
  expect(heard.slice(0, 4)).toEqual(['3 of 9', '3 of 9', '3 of 9', '3 of 9'])
  expect(ended).toEqual({ end: true, result: 'all of it' })
})

test('whoever hangs up cancels the work', async () => {
  const gone = new AbortController()
  let isCancelled = false
  const { body } = progressStream(
    gone.signal,
    (signal) =>
      new Promise((_, reject) =>
        signal.addEventListener('abort', () => {
          isCancelled = true
          reject(signal.reason as Error)
        }),
      ),
    noError,
  )
  gone.abort()
  expect(await readProgress(body!, () => {})).toBeNull()
  expect(isCancelled).toBe(true)
})
