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
import { applyDiff, diffSites, reverseDiff, type Site } from '#core/site'
import { change, outlines, pageCalled, siteFrom, testId, TextStore } from '#core/testing'
import { edit, plannedFrom, understandPlan } from './index'

const store = new TextStore()
const plan = 'Chapel\n  Visit\n    Getting here\n  The building\n    The bell\n  Contact'
const text = (site: Site) => writeOutline(outlineOfSite(site))
const seenOf = (site: Site) => Object.fromEntries(site.pages.map((page) => [page.id, page.label]))

function apply(site: Site, edited: string, seen = seenOf(site)): Site {
  const understood = understandPlan(site, { text: edited, format: 'text', fixed: new Map() }, testId)
  if ('refusal' in understood) throw new Error(understood.refusal.reason)
  const { home, top } = understood
  return change(site, store, {
    kind: 'replacePlan',
    home,
    top,
    seen,
    content: store.put(''),
  })
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

  test('leaves a page alone that another window made meanwhile, and refuses where both renamed', () => {
    const site = siteFrom(plan, store)
    const seen = seenOf(site)
    const meanwhile = change(site, store, {
      kind: 'addPages',
      parentId: null,
      after: null,
      pages: [{ id: testId(), label: 'Made there' }],
      content: store.put(''),
    })
    const { home, top } = planSite(readOutline('Chapel\n  Visit\n  Contact'), 'Chapel')
    const planned = plannedFrom(matchPlan(site, top).lines, testId)
    const after = change(meanwhile, store, {
      kind: 'replacePlan',
      home,
      top: planned,
      seen,
      content: store.put(''),
    })
    expect(text(after)).toContain('Made there')
    const contact = pageCalled(site, 'Contact')
    const renamed = change(site, store, {
      kind: 'setPageText',
      pageId: contact.id,
      field: 'label',
      value: 'Write',
      was: 'Contact',
    })
    const mine = planSite(readOutline(plan.replace('Contact', 'Call')), 'Chapel')
    const lines = matchPlan(site, mine.top).lines
    expect(
      edit(renamed, { kind: 'replacePlan', home, top: plannedFrom(lines, testId), seen, content: '' }),
    ).toMatchObject({ refusal: { reason: 'changed-elsewhere', now: 'Write' } })
  })

  test('gives the plan that was typed, loses nothing that was not named, and is undone', () => {
    fc.assert(
      fc.property(outlines, outlines, (nodes, edited) => {
        const site = siteFrom(writeOutline(nodes), store)
        const typed = planSite(readOutline(writeOutline(edited)), 'Chapel')
        const { lines, removed } = matchPlan(site, typed.top)
        const made = edit(site, {
          kind: 'replacePlan',
          home: typed.home,
          top: plannedFrom(lines, testId),
          seen: seenOf(site),
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
              content: '',
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
    expect(edit(site, { kind: 'setHome', pageId: visit.id, was: testId() })).toMatchObject({
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
