import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { treeOf } from '#core/plan'
import { editWhole, pageCalled, siteFrom, TextStore } from '#core/testing'
import { dropAt } from './drop-at'
import { blockOf, indented, outdented, rowsOf, shifted } from './rows'

const site = siteFrom(
  'Home\n  Visit\n    Tides\n    Ferry\n  Bell\n  Contact\n  Sketch (trial page)',
  new TextStore(),
)
const tree = treeOf(site)
const id = (label: string) => pageCalled(site, label).id
const shape = (...args: Parameters<typeof rowsOf>) =>
  rowsOf(...args).map((row) => (row.kind === 'draft' ? `+${row.depth}` : row.place.page.label))

describe('rows of the register', () => {
  test('leave out what stands under a closed page', () => {
    expect(shape(tree, new Set([id('Visit')]), null)).toEqual(['Home', 'Visit', 'Bell', 'Contact', 'Sketch'])
  })
  test('show a new page where it would stand: behind its sibling’s branch, or first under a page', () => {
    expect(shape(tree, new Set(), { parentId: null, after: id('Visit') })).toEqual([
      'Home',
      'Visit',
      'Tides',
      'Ferry',
      '+0',
      'Bell',
      'Contact',
      'Sketch',
    ])
    expect(shape(tree, new Set(), { parentId: id('Visit'), after: null })[2]).toBe('+1')
  })
})

describe('places to move to', () => {
  test('one level in is the end of the sibling above; the first has none', () => {
    expect(indented(tree, site.homeId, { id: id('Bell'), parentId: null, after: null })).toEqual({
      parentId: id('Visit'),
      after: id('Ferry'),
    })
    expect(indented(tree, site.homeId, { id: id('Visit'), parentId: null, after: null })).toBeNull()
  })
  test('one level out is behind the parent; the top has none', () => {
    expect(outdented(tree, id('Visit'))).toEqual({ parentId: null, after: id('Visit') })
    expect(outdented(tree, null)).toBeNull()
  })
  test('a block passes its neighbour, never the home page or into the trial pages', () => {
    const block = blockOf(tree, [id('Bell'), id('Contact')])!
    expect(shifted(tree, site.homeId, block, -1)).toEqual({ parentId: null, after: null })
    expect(shifted(tree, site.homeId, block, 1)).toBeNull()
    expect(blockOf(tree, [id('Visit'), id('Contact')])).toBeNull()
  })
})

describe('where dragged pages are let go of', () => {
  const rows = rowsOf(tree, new Set(), null)
  const drop = (label: string, gap: number, level: number) =>
    dropAt(tree, site.homeId, rows, [id(label)], gap, level)
  test('the level is as wished between that of the row below and one under the row above', () => {
    // Home, Visit, Tides, Ferry, Bell, Contact, Sketch
    expect(drop('Contact', 3, 0)).toEqual({ gap: 3, depth: 1, parentId: id('Visit'), after: id('Tides') })
    expect(drop('Contact', 4, 0)).toEqual({ gap: 4, depth: 0, parentId: null, after: id('Visit') })
    expect(drop('Contact', 4, 1)).toEqual({ gap: 4, depth: 1, parentId: id('Visit'), after: id('Ferry') })
    expect(drop('Contact', 4, 9)).toEqual({ gap: 4, depth: 2, parentId: id('Ferry'), after: null })
    expect(drop('Contact', 0, 3)).toEqual({ gap: 1, depth: 0, parentId: null, after: null })
  })
  test('a branch is never put into itself, and what stands there already stays', () => {
    expect(drop('Visit', 3, 2)).toBeNull()
    expect(drop('Bell', 5, 0)).toBeNull()
    expect(drop('Bell', 5, 1)).toMatchObject({ parentId: id('Visit'), after: id('Ferry') })
    expect(drop('Home', 4, 0)).toBeNull()
  })
  test('behind what is folded away, and trial pages at the end', () => {
    const folded = rowsOf(tree, new Set([id('Visit')]), null)
    expect(dropAt(tree, site.homeId, folded, [id('Bell')], 2, 1)).toMatchObject({ after: id('Ferry') })
    expect(drop('Visit', 7, 0)).toEqual({ gap: 6, depth: 0, parentId: null, after: id('Contact') })
    expect(drop('Sketch', 2, 0)).toMatchObject({ parentId: id('Visit') })
    expect(drop('Sketch', 5, 0)).toBeNull()
  })
  test('whatever is dragged wherever stands where it was shown to, and the site stays whole', () => {
    const labels = site.pages.filter((page) => page.id !== site.homeId)
    fc.assert(
      fc.property(
        fc.subarray(labels, { minLength: 1, maxLength: 3 }),
        fc.subarray(labels),
        fc.integer({ min: -1, max: 9 }),
        fc.integer({ min: -2, max: 4 }),
        (chosen, closed, gap, level) => {
          const isUnder = (one: (typeof labels)[number]) => chosen.some((page) => page.id === one.parentId)
          const roots = tree.places.flatMap(({ page }) =>
            chosen.includes(page) && !isUnder(page) ? [page.id] : [],
          )
          const seen = rowsOf(tree, new Set(closed.map((page) => page.id)), null)
          const to = dropAt(tree, site.homeId, seen, roots, gap, level)
          if (!to) return
          const { parentId, after } = to
          const moved = editWhole(site, { kind: 'movePages', pageIds: roots, parentId, after })
          if ('refusal' in moved) throw new Error(moved.refusal.message)
          const then = treeOf(moved.site)
          expect(then.placeOf.get(roots[0]!)!.depth).toBe(to.depth)
          const shapeOf = ({ places }: typeof tree) => places.map(({ page, depth }) => `${page.id} ${depth}`)
          expect(shapeOf(then)).not.toEqual(shapeOf(tree))
        },
      ),
    )
  })
})
