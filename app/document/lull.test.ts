import { beforeEach, expect, test } from '@jest/globals'
import { Lull } from './lull'

let now = 0
let due: { at: number; run: () => void }[] = []
let told: [at: number, revision: number][] = []
let lull: Lull
beforeEach(() => {
  now = 0
  due = []
  told = []
  lull = new Lull((revision) => told.push([now, revision]), {
    now: () => now,
    after(ms, run) {
      const one = { at: now + ms, run }
      due.push(one)
      return () => (due = due.filter((other) => other !== one))
    },
  })
})

/** Lets time pass, with all that is due in it. */
function pass(ms: number): void {
  const end = now + ms
  for (let next = due[0]; next && next.at <= end; next = due[0]) {
    due.shift()
    now = next.at
    next.run()
  }
  now = end
}

test('whoever types and pauses is told at once, however long it goes on', () => {
  for (let revision = 1; revision <= 20; revision += 1) {
    lull.note(revision)
    pass(700)
  }
  expect(told).toEqual(Array.from({ length: 20 }, (_, nth) => [nth * 700, nth + 1]))
})

test('a stream is told of every few seconds while it goes on, and when it ends', () => {
  for (let revision = 1; revision <= 200; revision += 1) {
    lull.note(revision)
    pass(50)
  }
  pass(1_000)
  // The first few are no stream yet; ten seconds of it are told of thrice, and its end.
  expect(told.slice(0, 7).map(([, revision]) => revision)).toEqual([1, 2, 3, 4, 5, 6, 7])
  const later = told.slice(7)
  expect(later.length).toBe(4)
  expect(later.at(-1)).toEqual([9_950 + 400, 200])
  for (const [nth, [at]] of later.slice(1, -1).entries())
    expect(at - later[nth]![0]).toBeLessThanOrEqual(3_050)
  // After it one by itself is told at once again.
  pass(2_000)
  lull.note(201)
  expect(told.at(-1)).toEqual([now, 201])
})
