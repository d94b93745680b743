import { expect, test } from '@jest/globals'
import { isSlip } from './slip'

test.each([
  ['terns', 'tern', true],
  ['terns', 'trens', true],
  ['Opening Times', 'opening_times', true],
  ['opening-times', 'openning-tmes', true],
  ['tide%20times', 'tidetimes', true],
  ['vist', 'visit', true],
  ['season-2024', 'season-2025', false],
  ['tides-2', 'tides', false],
  ['ab', 'ac', false],
  ['faq', 'xxxx', false],
  ['frm_japanese', 'but_frm_japanese', false],
  ['stay', 'story', false],
  ['x'.repeat(100_000), 'x'.repeat(100_001), false],
])('%.20s and %.20s: %s', (a, b, expected) => {
  expect(isSlip(a, b)).toBe(expected)
  expect(isSlip(b, a)).toBe(expected)
})
