import { describe, expect, test } from '@jest/globals'
import { firstBytes, rangeAsked } from './byte-range'

describe('a range of bytes', () => {
  test.each([
    ['bytes=0-', { start: 0, end: 100 }],
    ['bytes=10-19', { start: 10, end: 20 }],
    ['bytes=99-500', { start: 99, end: 100 }],
    ['bytes=-30', { start: 70, end: 100 }],
    ['bytes=-300', { start: 0, end: 100 }],
    ['Bytes=5-5', { start: 5, end: 6 }],
    ['bytes=100-', 'unsatisfiable'],
    ['bytes=-0', 'unsatisfiable'],
    ['bytes=20-10', null],
    ['bytes=-', null],
    ['bytes=0-1,5-6', null],
    ['lines=0-1', null],
    [`bytes=${'9'.repeat(400)}-`, null],
    [null, null],
  ])('%s of a hundred', (header, range) => {
    expect(rangeAsked(header, 100)).toEqual(range)
  })

  test('of nothing cannot be had', () => {
    expect(rangeAsked('bytes=0-', 0)).toBe('unsatisfiable')
  })

  test('ends where it ends, wherever pieces do, and asks for no more of them', async () => {
    let given = 0
    async function* pieces() {
      for (const text of ['abc', 'def', 'ghi']) {
        given += 1
        yield Buffer.from(text)
      }
    }
    const taken: string[] = []
    for await (const piece of firstBytes(pieces(), 6)) taken.push(String(piece))
    expect([taken, given]).toEqual([['abc', 'def'], 2])
    taken.length = 0
    for await (const piece of firstBytes(pieces(), 1)) taken.push(String(piece))
    expect(taken).toEqual(['a'])
  })
})
