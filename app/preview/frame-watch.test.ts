import { beforeEach, expect, test } from '@jest/globals'
import { ClockByHand } from '../parts/clock-by-hand'
import { FrameWatch } from './frame-watch'

let clock: ClockByHand
let watch: FrameWatch
let isAnswered: boolean
let answersAsked: boolean
let loads: boolean
let done: string[]
beforeEach(() => {
  clock = new ClockByHand()
  isAnswered = true
  answersAsked = false
  loads = true
  done = []
  watch = new FrameWatch(
    {
      ask() {
        done.push('ask')
        if (answersAsked) watch.told()
      },
      load() {
        done.push('load')
        if (loads) clock.after(10, () => watch.loaded())
      },
      isAnswered: () => Promise.resolve(isAnswered),
      onLost: (isLost) => done.push(isLost ? 'lost' : 'there'),
    },
    clock,
  )
})

test('a frame that shows nothing while the line is down is told so, and loaded as soon as it is back', async () => {
  isAnswered = false
  watch.began()
  watch.loaded()
  await clock.pass(10_000)
  expect(done.slice(0, 2)).toEqual(['ask', 'lost'])
  expect(done).not.toContain('load')
  isAnswered = true
  loads = false
  await clock.pass(3_000)
  expect(done.at(-1)).toBe('load')
  watch.told()
  await clock.pass(60_000)
  expect(done.slice(-2)).toEqual(['load', 'there'])
})

test('a page whose word was not heard is asked and not loaded again, and what a link leads to need not tell anything', async () => {
  answersAsked = true
  watch.began(true)
  await clock.pass(60_000)
  expect(done).toEqual(['ask', 'there'])
  watch.loaded()
  await clock.pass(60_000)
  expect(done).toEqual(['ask', 'there'])
})

test('what fails although the server answers is loaded a few times and no more; what is woken once it is over does nothing', async () => {
  watch.began()
  watch.loaded()
  await clock.pass(600_000)
  expect(done.filter((one) => one === 'load')).toHaveLength(3)
  watch.end()
  watch.wake()
  await clock.pass(60_000)
  expect(done.filter((one) => one === 'load')).toHaveLength(3)
})

test('a page that is long on its way is not loaded anew, and the one before it is not asked in its stead', async () => {
  answersAsked = true
  watch.began()
  await clock.pass(60_000)
  expect(done).toEqual([])
  watch.loaded()
  await clock.pass(2_000)
  expect(done).toEqual(['ask', 'there'])
})
