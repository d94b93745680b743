import { expect, test } from '@jest/globals'
import { listedTime } from './listed-time'

const now = Date.UTC(2026, 10, 28, 23, 30)
const timeOf = (words: string, nowMs = now) => {
  const seconds = listedTime(words, nowMs)
  return seconds === null ? null : new Date(seconds * 1_000).toISOString().slice(0, 16)
}

test.each([
  ['Nov 28 23:12', '2026-11-28T23:12'],
  ['Jun  1 04:05', '2026-06-01T04:05'],
  // Last winter's, since this one's has not come.
  ['Dec 31 23:59', '2025-12-31T23:59'],
  ['Mar  5  2019', '2019-03-05T00:00'],
  ['5 Mar 2019', '2019-03-05T00:00'],
  ['28 Nov 23:12', '2026-11-28T23:12'],
  ['03-05-26  12:34PM', '2026-03-05T12:34'],
  ['03-05-99  12:04AM', '1999-03-05T00:04'],
  ['12-31-2024 23:59', '2024-12-31T23:59'],
  ['2024-12-31 23:59', '2024-12-31T23:59'],
])('%s is %s', (words, time) => expect(timeOf(words)).toBe(time))

test('a host in the east is a day ahead, also over the end of a year', () => {
  expect(timeOf('Nov 29 09:00')).toBe('2026-11-29T09:00')
  expect(timeOf('Jan  1 08:00', Date.UTC(2026, 11, 31, 20))).toBe('2027-01-01T08:00')
  expect(timeOf('Dec 31 20:00', Date.UTC(2027, 0, 1, 3))).toBe('2026-12-31T20:00')
})

test.each([
  '',
  'yesterday',
  'Nov 28',
  'Foo 12 10:00',
  'Nov 44 10:00',
  '13-01-26 10:00AM',
  'x'.repeat(10_000),
])('%.20s is no time', (words) => expect(listedTime(words, now)).toBeNull())
