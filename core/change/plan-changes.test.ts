import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { namesOf } from '#core/naming'
import {
  branchOf,
  matchPlan,
  type MatchedLine,
  outlineOfSite,
  planSite,
  readOutline,
  treeOf,
  writeOutline,
} from '#core/plan'
import { applyDiff, diffSites, type Page, reverseDiff, type Site } from '#core/site'
import { change, editWhole, outlines, pageCalled, siteFrom, testId, TextStore } from '#core/testing'
import { type Change, planEdit, plannedFrom, understandPlan, type WantedPlan } from './index'

const store = new TextStore()
const plan = 'Chapel\n  Visit\n    Getting here\n  The building\n    The bell\n  Contact'
const text = (site: Site) => writeOutline(outlineOfSite(site))

/** The change that a text typed over the plan of `seen` asks for. */
function planned(seen: Site, edited: string): Change {
  const understood = understandPlan(seen, { text: edited, format: 'text', fixed: new Map() }, testId)
  if ('refusal' in understood) throw new Error(understood.refusal.reason)
  return { kind: 'replacePlan', ...planEdit(seen, understood), content: store.put('') }
}
const apply = (site: Site, edited: string): Site => change(site, store, planned(site, edited))
const refusalOf = (site: Site, what: Change) => {
  const edited = editWhole(site, what)
  return 'refusal' in edited ? edited.refusal : null
}

/** The plan of a site as it is, with one page renamed. */
function wantedOf(site: Site, renamed: string): WantedPlan {
  const { home, top } = planSite({ nodes: outlineOfSite(site), notes: [] }, site.name)
  const known = matchPlan(site, top).lines.map((line) =>
    line.pageId === renamed ? { ...line, node: { ...line.node, label: `${line.node.label} anew` } } : line,
  )
  return {
    home: renamed === site.homeId ? { ...home, label: `${home.label} anew` } : home,
    top: plannedFrom(known, testId),
  }
}

describe('a whole plan put in the place of another', () => {
  test('keeps what a page holds when its line was renamed, moved or re-nested', () => {
    let site = siteFrom(plan, store)
    site = change(site, store, {
      kind: 'setContent',
      pageId: pageCalled(site, 'The bell').id,
      content: store.put('<a href="/visit/getting-here.html">x</a>'),
      was: store.put(''),
    })
    const after = apply(
      site,
      'Chapel\n  The building\n  Visit us\n    By boat\n    The bell\n  Contact\n  News',
    )
    expect(text(after)).toBe(
      'Chapel\n  The building\n  Visit us\n    By boat\n    The bell\n  Contact\n  News\n',
    )
    expect(pageCalled(after, 'The bell').id).toBe(pageCalled(site, 'The bell').id)
    expect(store.textOf(pageCalled(after, 'The bell').content)).toBe('<a href="/visit-us/by-boat.html">x</a>')
  })

  test('touches only the rows that differ', () => {
    const site = siteFrom(plan, store)
    const after = apply(site, 'Chapel\n  Visit\n    Getting here\n  Contact\n  The building\n    The bell\n')
    expect(Object.keys(diffSites(site, after).pages)).toHaveLength(1)
    expect(apply(site, plan)).toEqual(site)
  })

  describe('while another window works on the same site', () => {
    const site = siteFrom(plan, store)
    const [visit, getting, bell, contact] = ['Visit', 'Getting here', 'The bell', 'Contact'].map((label) =>
      pageCalled(site, label),
    )
    /** What the other window did since the plan was seen. */
    const there = (...changes: Change[]) => changes.reduce((now, one) => change(now, store, one), site)
    const label = (pageId: string, value: string): Change => ({
      kind: 'setPageText',
      pageId,
      field: 'label',
      value,
      was: site.pages.find((page) => page.id === pageId)!.label,
    })
    const mine = (edited: string) => planned(site, edited)

    test('its pages, moves, flags and labels stay, beside what the plan changes', () => {
      const now = there(
        { kind: 'addPages', parentId: visit!.id, after: null, pages: [{ id: testId(), label: 'Made there' }], content: store.put('') },
        { kind: 'movePages', pageIds: [bell!.id], parentId: null, after: null },
        { kind: 'setPageFlag', pageIds: [contact!.id], flag: 'inMenus', value: false },
        label(getting!.id, 'By boat'),
      ) // prettier-ignore
      const after = change(
        now,
        store,
        mine(plan.replace('Contact', 'Contact\n  News').replace('  Visit', '  Come')),
      )
      expect(text(after)).toBe(
        'Chapel\n  The bell\n  Come\n    Made there\n    By boat\n  The building\n  Contact (not in menus)\n  News\n',
      )
    })

    test('a page it removed stays removed, and its removal can still be undone', () => {
      const now = there({ kind: 'removePages', pageIds: [contact!.id] })
      const after = change(now, store, mine(plan.replace('The bell', 'The bells')))
      expect(text(after)).toBe('Chapel\n  Visit\n    Getting here\n  The building\n    The bells\n')
      const undone = applyDiff(after, reverseDiff(diffSites(site, now)))
      expect('site' in undone && text(undone.site)).toContain('Contact')
    })

    test.each<[string, Change[], string]>([
      ['renamed by both', [label(contact!.id, 'Write')], plan.replace('Contact', 'Call')],
      ['moved by both', [{ kind: 'movePages', pageIds: [bell!.id], parentId: null, after: null }], plan.replace('    The bell\n', '').replace('    Getting here', '    Getting here\n    The bell')],
      ['written in there and left out here', [{ kind: 'setContent', pageId: contact!.id, content: store.put('<p>x'), was: store.put('') }], plan.replace('\n  Contact', '')],
      ['flagged there and left out here', [label(bell!.id, 'Bells')], plan.replace('\n    The bell', '')],
    ])('a page %s is refused, and nothing is lost', (_, changes, edited) => {
      const now = there(...changes)
      expect(refusalOf(now, mine(edited))).toMatchObject({ reason: 'changed-elsewhere' })
    }) // prettier-ignore

    test('what is put under a page it removed, or would stand in a circle, is refused', () => {
      const removed = there({ kind: 'removePages', pageIds: [visit!.id] })
      const under = mine(plan.replace('    Getting here', '    Getting here\n    Map'))
      expect(refusalOf(removed, under)).toMatchObject({ reason: 'gone' })
      const building = pageCalled(site, 'The building')
      const nested = there({ kind: 'movePages', pageIds: [building.id], parentId: visit!.id, after: null })
      const other = mine('Chapel\n  The building\n    Visit\n      Getting here\n    The bell\n  Contact')
      expect(refusalOf(nested, other)).toMatchObject({ reason: 'invalid' })
    })

    test('both windows’ plans come out in either order when they touch other pages', () => {
      fc.assert(
        fc.property(outlines, fc.nat(), fc.nat(), (nodes, one, other) => {
          const seen = siteFrom(writeOutline(nodes), store)
          const pick = (at: number) => seen.pages[at % seen.pages.length]!
          const [a, b] = [pick(one), pick(other)]
          fc.pre(a.id !== b.id)
          const renamed = (page: Page): Change => {
            const to = planEdit(seen, wantedOf(seen, page.id))
            return { kind: 'replacePlan', ...to, content: store.put('') }
          }
          const both = [renamed(a), renamed(b)]
          const first = both.reduce((now, what) => change(now, store, what), seen)
          const second = both.reduceRight((now, what) => change(now, store, what), seen)
          // Of two that want one name the first to have it keeps it, so names alone depend on the order.
          const plain = (of: Site) => of.pages.map((page) => ({ ...page, keptName: null }))
          expect(plain(first)).toEqual(plain(second))
        }),
        { numRuns: 50 },
      )
    })
  })

  test('gives the plan that was typed, loses nothing that was not named, and is undone', () => {
    fc.assert(
      fc.property(outlines, outlines, (nodes, edited) => {
        const site = siteFrom(writeOutline(nodes), store)
        const typed = planSite(readOutline(writeOutline(edited)), 'Chapel')
        const { lines, removed } = matchPlan(site, typed.top)
        const wanted = { home: typed.home, top: plannedFrom(lines, testId) }
        const made = editWhole(site, {
          kind: 'replacePlan',
          ...planEdit(site, wanted),
          content: store.put(''),
        })
        if ('refusal' in made) throw new Error(made.refusal.message)
        const after = made.site
        expect(text(after)).toBe(text(siteFrom(writeOutline(edited), store, 'Chapel')))
        const gone = new Set(removed)
        const left = new Set(after.pages.map((page) => page.id))
        for (const page of site.pages)
          expect([page.label, left.has(page.id)]).toEqual([page.label, !gone.has(page.id)])
        const undone = applyDiff(after, reverseDiff(diffSites(site, after)))
        if (!('site' in undone)) throw new Error('conflict')
        expect(text(undone.site)).toBe(text(site))
      }),
    )
  })
})

test('what is put first after a plan was replaced stands right after the home page', () => {
  fc.assert(
    fc.property(outlines, outlines, fc.boolean(), (first, second, isMoved) => {
      // A plan whose every label is cleaned away is refused, as it should be.
      fc.pre(readOutline(writeOutline(second)).nodes.length > 0)
      const site = apply(siteFrom(writeOutline(first), store), writeOutline(second))
      const places = (of: Site) => treeOf(of).places.filter(({ trial }) => !trial)
      const other = places(site).at(-1)!.page
      const what = isMoved && other.id !== site.homeId ? other.id : testId()
      const at = { parentId: null, after: site.homeId }
      const after =
        what === other.id
          ? change(site, store, { kind: 'movePages', pageIds: [what], ...at })
          : change(site, store, {
              kind: 'addPages',
              pages: [{ id: what, label: 'News' }],
              content: store.put(''),
              ...at,
            })
      expect(places(after)[1]!.page.id).toBe(what)
    }),
  )
})

describe('copies and another home page', () => {
  test('a copy has all below it, names of its own, and stands after its original', () => {
    const site = siteFrom(plan, store)
    const visit = pageCalled(site, 'Visit')
    const newIds = Object.fromEntries(branchOf(treeOf(site), visit.id).map((page) => [page.id, testId()]))
    const after = change(site, store, { kind: 'duplicatePages', pageIds: [visit.id], newIds })
    expect(text(after)).toBe(
      'Chapel\n  Visit\n    Getting here\n  Visit (copy)\n    Getting here\n  The building\n    The bell\n  Contact\n',
    )
    expect(namesOf(after).pages.get(newIds[visit.id]!)!.path).toBe('visit-copy/index.html')
  })

  test('any page can be the home page; what stood under it moves up', () => {
    const site = siteFrom(plan, store)
    const visit = pageCalled(site, 'Visit')
    const after = change(site, store, { kind: 'setHome', pageId: visit.id, was: site.homeId })
    expect(namesOf(after).pages.get(visit.id)!.path).toBe('index.html')
    expect(text(after)).toBe('Visit\n  Chapel\n  Getting here\n  The building\n    The bell\n  Contact\n')
    expect(editWhole(site, { kind: 'setHome', pageId: visit.id, was: testId() })).toMatchObject({
      refusal: { reason: 'changed-elsewhere' },
    })
  })
})

test('matched lines become planned pages again, level by level', () => {
  const node = (label: string, children: MatchedLine['node'][] = []) => ({
    label,
    trial: false,
    inMenus: true,
    children,
  })
  const [leaf] = [node('Leaf')]
  const root = node('Root', [leaf!])
  const planned = plannedFrom([{ node: root, depth: 0, pageId: 'r' }, { node: leaf!, depth: 1, pageId: null }], () => 'new') // prettier-ignore
  expect(planned).toMatchObject([{ id: 'r', label: 'Root', children: [{ id: 'new', label: 'Leaf' }] }])
})
