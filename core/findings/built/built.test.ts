import { expect, test } from '@jest/globals'
import { pageCalled, siteFrom, TextStore } from '#core/testing'
import { type BuiltFault, builtFindings } from '../index'

test('what is wrong alike on several pages is told once, with how many have it', () => {
  const site = siteFrom('Home\n  A\n  B\n  C\n  D\n  E', new TextStore())
  const fault: BuiltFault = { rule: 'built-markup', code: 'content', what: 'A <div> stands in a <span>.', piece: '<div>' }
  const own: BuiltFault = { ...fault, piece: '<div class="own">' }
  const pages = ['A', 'B', 'C', 'D', 'E'].map((label) => ({ page: pageCalled(site, label), faults: label === 'B' ? [fault, own, own] : [fault] }))
  const [all, one, ...more] = builtFindings(pages)
  expect(more).toEqual([])
  expect(all!.what).toBe('A <div> stands in a <span>. So on “B”, “C”, “D” and 1 more.')
  expect([one!.what, one!.place.id]).toEqual(['A <div> stands in a <span>.', pageCalled(site, 'B').id])
}) // prettier-ignore
