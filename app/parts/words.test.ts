import { expect, test } from '@jest/globals'
import { count, duration, moment, size } from './format'
import { rippleReport, rippleWords } from './ripple-words'

const nothing = { movedCount: 0, linkCount: 0, addressCount: 0, brokenCount: 0, hidden: [] }

test('a ripple is told as the rest of a sentence', () => {
  expect(rippleWords(nothing)).toBe('no file changes its name and no link is touched')
  expect(rippleWords({ ...nothing, movedCount: 1 })).toBe('1 file changes name, no link is touched')
  expect(rippleWords({ movedCount: 2, linkCount: 1, addressCount: 1, brokenCount: 0, hidden: [] })).toBe(
    '2 files change name, 1 link is rewritten, 1 published address changes, and the old one forwards',
  )
  expect(rippleWords({ ...nothing, brokenCount: 3 })).toBe('3 links in other pages will lead nowhere')
  expect(rippleReport({ movedCount: 1, linkCount: 2, addressCount: 1, brokenCount: 0, hidden: [] })).toBe(
    '1 file has a new name, 2 links were rewritten, 1 forwarding page left behind.',
  )
})

test('numbers, sizes and times as a person says them', () => {
  expect([count(1, 'page'), count(50_000, 'page'), count(0, 'address', 'addresses')]).toEqual([
    '1 page',
    '50,000 pages',
    '0 addresses',
  ])
  expect([999, 1000, 99_949, 100_000, 1_000_000].map(size)).toEqual([
    '999 B',
    '1.0 KB',
    '99.9 KB',
    '100 KB',
    '1.0 MB',
  ])
  expect([1, 60, 90, 3600].map(duration)).toEqual(['a moment', '60 seconds', '2 minutes', '60 minutes'])
  const now = new Date(2026, 10, 25, 12, 0)
  expect(moment(new Date(2026, 10, 25, 9, 5), now)).toBe('today 09:05')
  expect(moment(new Date(2026, 5, 1, 9, 5), now)).toBe('1 Jun, 09:05')
  expect(moment(new Date(2025, 5, 1, 9, 5), now)).toBe('1 Jun 2025, 09:05')
})
