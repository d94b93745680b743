import { expect, test } from '@jest/globals'
import fc from 'fast-check'
import { addedRuns } from './added-runs'

const shown = (a: string, b: string) =>
  addedRuns([...a], [...b])
    .map(({ text, added }) => (added ? `[${text}]` : text))
    .join('')

test.each([
  ['Keepers, 1871–1983', 'Keepers, 1871-1983', 'Keepers, 1871[-]1983'],
  ['keepers', 'keepers', 'keepers'],
  ['keepers-1871', 'light/keepers-1871.html', '[light/]keepers-1871[.html]'],
  ['Terns', 'terns', '[t]erns'],
  ['', 'page', '[page]'],
  ['Marrow Skerry Light', 'index.html', '[index.html]'],
])('%s → %s', (a, b, runs) => expect(shown(a, b)).toBe(runs))

test('the runs are the later text, and those that stayed stand in the earlier one in that order', () => {
  fc.assert(
    fc.property(fc.string({ maxLength: 30 }), fc.string({ maxLength: 30 }), (a, b) => {
      const runs = addedRuns([...a], [...b])
      expect(runs.map(({ text }) => text).join('')).toBe(b)
      let at = 0
      for (const sign of runs.filter(({ added }) => !added).flatMap(({ text }) => [...text])) {
        at = a.indexOf(sign, at) + 1
        expect(at).toBeGreaterThan(0)
      }
    }),
  )
})
