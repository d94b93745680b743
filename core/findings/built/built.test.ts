import { expect, test } from '@jest/globals'
import { findPoorContrast } from '#core/colours'
import { applyEdits } from '#core/markup'
import { pageCalled, siteFrom, TextStore } from '#core/testing'
import { type BuiltFault, builtFindings, colourFault } from '../index'

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

test('a colour that cannot be read is told where it is written, and made one that can', () => {
  const store = new TextStore()
  const site = siteFrom('Home\n  A', store)
  const sheet = site.files.find(({ kind }) => kind === 'style')!
  const css = 'p { color: #999 }'
  const file = { ...sheet, hash: store.put(css) }
  const [found] = findPoorContrast({
    html: '<link rel="stylesheet" href="/site.css"><p>Tides</p>',
    path: 'index.html',
    sheetAt: () => css,
  })
  const pages = ['Home', 'A'].map((label) => ({ page: pageCalled(site, label), faults: [colourFault(found!, () => file.hash)] }))
  const [finding, ...more] = builtFindings(pages, new Map([['site.css', file]]))
  expect(more).toEqual([])
  expect(finding).toMatchObject({
    rule: 'built-colours',
    place: { kind: 'file', id: file.id, line: 1, column: 12 },
    colours: { text: '#999999', ground: '#ffffff', better: '#767676' },
    what: '“Tides” is #999999 on #ffffff: a contrast of 2.8, where letters of this size need 4.5. Seen on “Home”, “A”.',
  })
  const [mend] = finding!.mends
  expect(mend && 'edits' in mend && [mend.was, applyEdits(css, mend.edits)]).toEqual([file.hash, 'p { color: #767676 }'])
  // Where the sheet comes out otherwise than it is written, offsets into it mean nothing.
  const [elsewhere] = builtFindings(pages, new Map([['site.css', sheet]]))
  expect(elsewhere).toMatchObject({ place: { kind: 'page', id: pageCalled(site, 'Home').id, madeLine: 1 }, mends: [] })
}) // prettier-ignore
