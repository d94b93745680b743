import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { outlines, siteFrom, TextStore } from '#core/testing'
import { matchPlan, outlineOfSite, planSite, readOutline, writeOutline } from './index'

const store = new TextStore()
const old = siteFrom(
  'Chapel\n  Visit\n    Getting here\n    Opening days\n  The building\n    The bell\n    The ceiling\n  Concerts\n  Contact',
  store,
)

/** Each line of an edited plan as `label ← label of the page it is taken for`; new pages have none. */
function understood(text: string): { lines: string[]; removed: string[] } {
  const { lines, removed } = matchPlan(old, planSite(readOutline(text), 'Chapel').top)
  const label = (id: string) => old.pages.find((page) => page.id === id)!.label
  return {
    lines: lines.map(({ node, pageId }) =>
      pageId === null
        ? `${node.label} +`
        : label(pageId) === node.label
          ? node.label
          : `${node.label} ← ${label(pageId)}`,
    ),
    removed: removed.map(label),
  }
}

describe('an edited plan is understood by its tree', () => {
  test('what was renamed in place', () => {
    expect(
      understood(
        'Chapel\n  Come and see\n    Getting here\n    When we open\n  The building\n    The bell\n    The ceiling\n  Concerts\n  Contact',
      ),
    ).toEqual({
      lines: [
        'Come and see ← Visit',
        'Getting here',
        'When we open ← Opening days',
        'The building',
        'The bell',
        'The ceiling',
        'Concerts',
        'Contact',
      ],
      removed: [],
    })
  })
  test('what moved with all below it, and what was put under something else', () => {
    expect(
      understood(
        'Chapel\n  Concerts\n  The building\n    The ceiling\n  Visit\n    The bell\n    Getting here\n    Opening days\n  Contact',
      ),
    ).toEqual({
      lines: [
        'Concerts',
        'The building',
        'The ceiling',
        'Visit',
        'The bell',
        'Getting here',
        'Opening days',
        'Contact',
      ],
      removed: [],
    })
  })
  test('what is new and what is gone, without taking one for the other', () => {
    expect(
      understood(
        'Chapel\n  Visit\n    Getting here\n    Opening days\n    Zebra crossing\n  The building\n    The bell\n  Concerts\n  Contact',
      ),
    ).toEqual({
      lines: [
        'Visit',
        'Getting here',
        'Opening days',
        'Zebra crossing +',
        'The building',
        'The bell',
        'Concerts',
        'Contact',
      ],
      removed: ['The ceiling'],
    })
  })
  test('a section that moved and was renamed is known by its pages; an alike label by itself', () => {
    expect(
      understood(
        'Chapel\n  Contact us\n  Visit\n    Getting here\n    Opening days\n    Architecture\n      The bell\n      The ceiling\n  Concerts',
      ),
    ).toEqual({
      lines: [
        'Contact us ← Contact',
        'Visit',
        'Getting here',
        'Opening days',
        'Architecture ← The building',
        'The bell',
        'The ceiling',
        'Concerts',
      ],
      removed: [],
    })
  })
  test('the author’s word settles it', () => {
    const plan = planSite(
      readOutline(
        'Chapel\n  Visit\n    Getting here\n    Opening days\n  The building\n    The bell\n    The ceiling\n  Music\n  Contact',
      ),
      'Chapel',
    )
    const concerts = old.pages.find((page) => page.label === 'Concerts')!.id
    expect(matchPlan(old, plan.top).lines[6]).toMatchObject({ pageId: concerts })
    expect(matchPlan(old, plan.top, new Map([[6, null]]))).toMatchObject({ removed: [concerts] })
  })
  test('an unchanged plan is every page itself; no page is taken twice', () => {
    fc.assert(
      fc.property(outlines, outlines, (nodes, other) => {
        const site = siteFrom(writeOutline(nodes), store)
        const [home] = outlineOfSite(site)
        const same = matchPlan(site, home!.children)
        expect(same.removed).toEqual([])
        expect(
          same.lines.map(({ node, pageId }) => [
            node.label,
            site.pages.find((page) => page.id === pageId)?.label,
          ]),
        ).toEqual(same.lines.map(({ node }) => [node.label, node.label]))
        const { lines, removed } = matchPlan(site, other)
        const taken = [...lines.flatMap(({ pageId }) => pageId ?? []), ...removed]
        expect(new Set(taken).size).toBe(taken.length)
        expect(taken).toHaveLength(site.pages.length - 1)
      }),
    )
  })
})
