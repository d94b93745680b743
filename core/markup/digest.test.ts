import { expect, test } from '@jest/globals'
import { digestOf } from './digest'

test('texts that differ in little have digests that differ in each half, and equal ones the same', () => {
  const texts = new Set<string>()
  for (let at = 0; at < 10_000; at++) {
    texts.add(`<p >text ${at}`)
    texts.add(`${at.toString(36)} the keeper wrote of the wind`)
    texts.add(String.fromCharCode(at & 0x3f, at >> 6))
  }
  const halves = [new Set<string>(), new Set<string>()]
  for (const text of texts) {
    const digest = digestOf(text)
    halves[0]!.add(digest.slice(0, 4))
    halves[1]!.add(digest.slice(3))
  }
  expect(halves.map(({ size }) => size)).toEqual([texts.size, texts.size])
  expect(digestOf('keeper'.repeat(2))).toBe(digestOf('keeperkeeper'))
})
