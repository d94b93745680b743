import { beforeEach, expect, test } from '@jest/globals'
import { ClockByHand } from '../parts/clock-by-hand'
import { Lull } from './lull'

let clock: ClockByHand
let told: [at: number, revision: number][]
let lull: Lull
beforeEach(() => {
  clock = new ClockByHand()
  told = []
  lull = new Lull((revision) => told.push([clock.now(), revision]), clock)
})

test('whoever types and pauses is told at once, however long it goes on', async () => {
  for (let revision = 1; revision <= 20; revision += 1) {
    lull.note(revision)
    await clock.pass(700)
  }
  expect(told).toEqual(Array.from({ length: 20 }, (_, nth) => [nth * 700, nth + 1]))
})

test('a stream is told of every few seconds while it goes on, and when it ends', async () => {
  for (let revision = 1; revision <= 200; revision += 1) {
    lull.note(revision)
    await clock.pass(50)
  }
  await clock.pass(1_000)
  // The first few are no stream yet; ten seconds of it are told of thrice, and its end.
  expect(told.slice(0, 7).map(([, revision]) => revision)).toEqual([1, 2, 3, 4, 5, 6, 7])
  const later = told.slice(7)
  expect(later.length).toBe(4)
  expect(later.at(-1)).toEqual([9_950 + 400, 200])
  for (const [nth, [at]] of later.slice(1, -1).entries())
    expect(at - later[nth]![0]).toBeLessThanOrEqual(3_050)
  // After it one by itself is told at once again.
  await clock.pass(2_000)
  lull.note(201)
  expect(told.at(-1)).toEqual([clock.now(), 201])
})
