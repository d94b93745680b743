import { describe, expect, test } from '@jest/globals'
import { treeOf } from '#core/plan'
import { pageCalled, siteFrom, TextStore } from '#core/testing'
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
