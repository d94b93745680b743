import { expect, test } from '@jest/globals'
import { oneAtATime } from './one-at-a-time'

test('however often it is asked for meanwhile, it runs once more, and whoever asked waits for a run that began after', async () => {
  const ends: (() => void)[] = []
  let runs = 0
  let told = ''
  const ask = oneAtATime(() => {
    runs += 1
    return new Promise((end) => ends.push(end))
  })
  void ask().then(() => (told += 'first '))
  const others = [ask(), ask(), ask()].map((one) => one.then(() => (told += 'other ')))
  expect([runs, ask.underWay !== null]).toEqual([1, true])
  ends[0]!()
  while (ends.length < 2) await Promise.resolve()
  expect(told).toBe('first ')
  ends[1]!()
  await Promise.all(others)
  expect([runs, told, ask.underWay]).toEqual([2, 'first other other other ', null])
})

test('what fails is told to whoever asked for it, and the next is made all the same', async () => {
  let runs = 0
  const ask = oneAtATime(() => (++runs === 1 ? Promise.reject(new Error('away')) : Promise.resolve()))
  const [first, second] = await Promise.allSettled([ask(), ask()])
  expect([first.status, second.status, runs]).toEqual(['rejected', 'fulfilled', 2])
})
