import { beforeEach, describe, expect, test } from '@jest/globals'
import { ClockByHand } from './clock-by-hand'
import { Patience, Unreachable } from './patience'

let clock: ClockByHand
let isAnswered: boolean
let back: () => void
let pauses: boolean[]
let patience: Patience
const calledOff = new AbortController()
beforeEach(() => {
  clock = new ClockByHand()
  isAnswered = true
  pauses = []
  const line = {
    isAnswered: () => Promise.resolve(isAnswered),
    whenBack: (listener: () => void) => ((back = listener), () => (back = () => {})),
    clock,
  }
  patience = new Patience(new AbortController().signal, (isPausing) => pauses.push(isPausing), line)
})

/** Until it is known whether the server answers. */
const answered = () => new Promise((resolve) => setImmediate(resolve))

/** How often it is worth asking again, of so many times. */
async function timesOf(error: unknown, most: number): Promise<number> {
  for (let times = 0; times < most; times++) {
    const isWorthIt = patience.waits(error)
    await answered()
    await clock.pass(30_000)
    if (!(await isWorthIt)) return times
  }
  return most
}

describe('what was not answered', () => {
  test('is given up in the end where the server answers all the same', async () => {
    expect(await timesOf(new Unreachable(503), 20)).toBe(6)
    expect(await timesOf(new TypeError('network'), 20)).toBe(0)
  })

  test('is waited for without end where the line is down, or nobody is signed in', async () => {
    isAnswered = false
    expect(await timesOf(new TypeError('network'), 50)).toBe(50)
    expect(await timesOf(new Unreachable(401), 50)).toBe(50)
    isAnswered = true
    // A line that was down long is no reason to give up at once.
    expect(await timesOf(new Unreachable(401), 3)).toBe(3)
  })

  test('begins anew where some of it got through', async () => {
    expect(await timesOf(new Unreachable(500), 4)).toBe(4)
    patience.gained()
    expect(await timesOf(new Unreachable(500), 20)).toBe(6)
  })

  test('is asked for at once when the line is back', async () => {
    isAnswered = false
    await timesOf(new Unreachable(0), 10)
    const isWorthIt = patience.waits(new Unreachable(0))
    await answered()
    expect(pauses.at(-1)).toBe(true)
    back()
    expect(await isWorthIt).toBe(true)
    expect(pauses.at(-1)).toBe(false)
  })

  test('is asked for no more once it was called off', async () => {
    calledOff.abort()
    expect(await new Patience(calledOff.signal).waits(new Unreachable(500))).toBe(false)
  })
})
