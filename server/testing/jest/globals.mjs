/**
 * What tests import from `@jest/globals`. Jest itself gives it to files in a realm of their own alone; these run in Node.js as it
 * is (see `natively.mjs`), where the runner makes the same functions global.
 */
import { ModernFakeTimers } from '@jest/fake-timers'
import { ModuleMocker } from 'jest-mock'

const { expect, describe, beforeEach, afterEach, setTimeout, clearTimeout, setImmediate } = globalThis

/** Against a hang only, in milliseconds: how fast a shared machine is says nothing about a test. */
const usualLimit = 60_000

/** Ends the wait for what neither returns nor fails. @param limit a test's own, where it needs more than the usual one */
const within =
  (run, limit = usualLimit) =>
  (...given) => {
    let timer
    const late = new Promise((_, reject) => {
      timer = setTimeout(() => reject(new Error(`Did not end within ${limit / 1000} s.`)), limit)
    })
    return Promise.race([(async () => run(...given))(), late]).finally(() => clearTimeout(timer))
  }

/** What failed without anybody hearing of it, so far: a test may look at it a moment later. */
const unheard = new Map()
process.on('unhandledRejection', (reason, promise) => unheard.set(promise, reason))
process.on('rejectionHandled', (promise) => unheard.delete(promise))

/** A test fails with what fails beside it. */
const heard =
  (run) =>
  async (...given) => {
    await run(...given)
    await new Promise((resolve) => setImmediate(resolve))
    const [reason] = unheard.values()
    const isUnheard = unheard.size > 0
    unheard.clear()
    if (isUnheard) throw new Error(`Something failed, and nobody heard of it: ${reason?.stack ?? reason}`)
  }

const bounded = (register) => (name, run, limit) => register(name, heard(within(run, limit)))

const test = Object.assign(bounded(globalThis.test), {
  each: (table) => bounded(globalThis.test.each(table)),
  only: bounded(globalThis.test.only),
  skip: globalThis.test.skip,
})
const beforeAll = (run, limit) => globalThis.beforeAll(within(run, limit))
const afterAll = (run, limit) => globalThis.afterAll(within(run, limit))

// The runner's own has no timers that wait for what they set going.
const timers = new ModernFakeTimers({ config: { fakeTimers: {} }, global: globalThis })
const mocker = new ModuleMocker(globalThis)
const jest = {
  spyOn: mocker.spyOn.bind(mocker),
  restoreAllMocks: () => mocker.restoreAllMocks(),
  useFakeTimers: () => timers.useFakeTimers(),
  useRealTimers: () => timers.useRealTimers(),
  advanceTimersByTimeAsync: (milliseconds) => timers.advanceTimersByTimeAsync(milliseconds),
}

export { afterAll, afterEach, beforeAll, beforeEach, describe, expect, jest, test }
