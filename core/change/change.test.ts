import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { namesOf } from '#core/naming'
import { outlineOfSite, treeOf, writeOutline } from '#core/plan'
import { applyDiff, composeDiffs, defaultScheme, diffSites, reverseDiff } from '#core/site'
import { buildAll, change, outlines, pageCalled, siteFrom, testId, TextStore, editWhole } from '#core/testing'
import type { Change } from './index'

const plan = 'Saltpan Chapel\n  Visit\n    Tides\n    Ferry\n  Contact'
const setup = () => {
  const store = new TextStore()
  return { store, site: siteFrom(plan, store) }
}
const text = (site: ReturnType<typeof siteFrom>) => writeOutline(outlineOfSite(site))

describe('changes to the plan', () => {
  test('pages are added after a sibling, and first under a page', () => {
    const { store, site } = setup()
    const visit = pageCalled(site, 'Visit')
    const add = (parentId: string | null, after: string | null, label: string) =>
      text(
        change(site, store, {
          kind: 'addPages',
          parentId,
          after,
          pages: [{ id: testId(), label }],
          content: store.put(''),
        }),
      )
    expect(add(null, visit.id, 'Stay')).toBe(
      'Saltpan Chapel\n  Visit\n    Tides\n    Ferry\n  Stay\n  Contact\n',
    )
    expect(add(visit.id, null, 'Map')).toBe(
      'Saltpan Chapel\n  Visit\n    Map\n    Tides\n    Ferry\n  Contact\n',
    )
    expect(add(site.homeId, null, 'News')).toBe(
      'Saltpan Chapel\n  News\n  Visit\n    Tides\n    Ferry\n  Contact\n',
    )
  })

  test('pages move with all below them, never under themselves', () => {
    const { store, site } = setup()
    const [visit, tides, contact] = ['Visit', 'Tides', 'Contact'].map((label) => pageCalled(site, label))
    const moved = change(site, store, {
      kind: 'movePages',
      pageIds: [visit!.id],
      parentId: contact!.id,
      after: null,
    })
    expect(text(moved)).toBe('Saltpan Chapel\n  Contact\n    Visit\n      Tides\n      Ferry\n')
    expect(
      editWhole(site, { kind: 'movePages', pageIds: [visit!.id], parentId: tides!.id, after: null }),
    ).toMatchObject({
      refusal: { reason: 'invalid' },
    })
  })

  test('the second of two windows is told what the first did', () => {
    const { store, site } = setup()
    const { id } = pageCalled(site, 'Tides')
    const first = change(site, store, {
      kind: 'setPageText',
      pageId: id,
      field: 'label',
      value: 'High water',
      was: 'Tides',
    })
    expect(
      editWhole(first, { kind: 'setPageText', pageId: id, field: 'label', value: 'Low water', was: 'Tides' }),
    ).toMatchObject({
      refusal: { reason: 'changed-elsewhere', now: 'High water' },
    })
  })
})

describe('references follow', () => {
  const linked = () => {
    const { store, site } = setup()
    const contact = pageCalled(site, 'Contact')
    const html =
      '<p  class=x><a href="/visit/tides.html#low">a</a> <a href=\'visit/ferry.html\'>b</a> <a href="/nowhere.html">c</a></p>'
    return {
      store,
      site: change(site, store, {
        kind: 'setContent',
        pageId: contact.id,
        content: store.put(html),
        was: contact.content,
      }),
    }
  }
  const contentOf = (site: ReturnType<typeof siteFrom>, store: TextStore, label: string) =>
    store.textOf(pageCalled(site, label).content)

  test('a renamed page takes the links to it along, and no other byte changes', () => {
    const { store, site } = linked()
    const visit = pageCalled(site, 'Visit')
    const after = change(site, store, {
      kind: 'setPageText',
      pageId: visit.id,
      field: 'label',
      value: 'Getting here',
      was: 'Visit',
    })
    expect(contentOf(after, store, 'Contact')).toBe(
      '<p  class=x><a href="/getting-here/tides.html#low">a</a> <a href=\'getting-here/ferry.html\'>b</a> <a href="/nowhere.html">c</a></p>',
    )
  })

  test('a page that moves keeps its own relative links right', () => {
    const { store, site } = linked()
    const [contact, visit] = [pageCalled(site, 'Contact'), pageCalled(site, 'Visit')]
    const after = change(site, store, {
      kind: 'movePages',
      pageIds: [contact.id],
      parentId: visit.id,
      after: null,
    })
    expect(contentOf(after, store, 'Contact')).toContain("href='ferry.html'")
  })

  test('a copied branch leads to its own copies, and elsewhere where the original does', () => {
    const { store, site } = linked()
    const [visit, tides, ferry] = ['Visit', 'Tides', 'Ferry'].map((label) => pageCalled(site, label))
    const written = change(site, store, {
      kind: 'setContent',
      pageId: visit!.id,
      content: store.put(
        '<a href="tides.html">t</a> <a href="/visit/ferry.html">f</a> <a href="../contact.html">c</a>',
      ),
      was: visit!.content,
    })
    const ids = [visit, tides, ferry].map((page) => page!.id)
    const copied = change(written, store, {
      kind: 'duplicatePages',
      pageIds: [visit!.id],
      newIds: Object.fromEntries(ids.map((id) => [id, `${id}-copy`])),
    })
    const copy = copied.pages.find((page) => page.id === `${visit!.id}-copy`)!
    expect(namesOf(copied).pages.get(copy.id)!.path).toBe('visit-copy/index.html')
    expect(store.textOf(copy.content)).toBe(
      '<a href="tides.html">t</a> <a href="/visit-copy/ferry.html">f</a> <a href="../contact.html">c</a>',
    )
  })

  test('with another home page the site’s own address still means home; a page named by its file is followed', () => {
    const { store, site } = linked()
    const [contact, ferry] = [pageCalled(site, 'Contact'), pageCalled(site, 'Ferry')]
    const written = change(site, store, {
      kind: 'setContent',
      pageId: ferry.id,
      content: store.put(
        '<a href="/">home</a> <a href="../index.html">chapel</a> <a href="/contact.html">c</a>',
      ),
      was: ferry.content,
    })
    const after = change(written, store, { kind: 'setHome', pageId: contact.id, was: site.homeId })
    expect(contentOf(after, store, 'Ferry')).toBe(
      '<a href="/">home</a> <a href="../saltpan-chapel.html">chapel</a> <a href="/index.html">c</a>',
    )
    expect(store.textOf(after.templates[0]!.source)).toContain('<a href="/">{site}</a>')
  })

  test('a new scheme takes template and content along', () => {
    const { store, site } = linked()
    const scheme = {
      ...defaultScheme,
      extension: '.htm' as const,
      arrangement: { kind: 'together' as const },
      folders: { ...defaultScheme.folders, style: 'css' },
    }
    const after = change(site, store, { kind: 'setScheme', scheme, was: defaultScheme })
    expect(store.textOf(after.templates[0]!.source)).toContain('href="/css/site.css"')
    expect(contentOf(after, store, 'Contact')).toContain(
      '<a href="/tides.htm#low">a</a> <a href=\'ferry.htm\'>b</a>',
    )
  })
})

describe('any sequence of changes', () => {
  const steps = fc.array(
    fc.record({
      what: fc.nat(5),
      pick: fc.nat(),
      other: fc.nat(),
      label: fc.constantFrom('Visit', 'Tides', 'Ä', '😀', 'Contact us', 'index'),
    }),
    { maxLength: 12 },
  )

  const changeFor = (
    site: ReturnType<typeof siteFrom>,
    store: TextStore,
    step: { what: number; pick: number; other: number; label: string },
  ): Change => {
    const { places } = treeOf(site)
    const page = places[step.pick % places.length]!.page
    const other = places[step.other % places.length]!.page
    switch (step.what) {
      case 0:
        return {
          kind: 'addPages',
          parentId: page.parentId,
          after: page.id,
          pages: [{ id: testId(), label: step.label }],
          content: store.put(''),
        }
      case 1:
        return { kind: 'setPageText', pageId: page.id, field: 'label', value: step.label, was: page.label }
      case 2:
        return {
          kind: 'movePages',
          pageIds: [page.id],
          parentId: other.parentId,
          after: other.id === page.id ? null : other.id,
        }
      case 3:
        return { kind: 'removePages', pageIds: [page.id] }
      case 4:
        return {
          kind: 'setPageFlag',
          pageIds: [page.id],
          flag: step.other % 2 ? 'trial' : 'inMenus',
          value: step.other % 3 === 0,
        }
      default:
        return {
          kind: 'setScheme',
          scheme: {
            ...site.scheme,
            arrangement: step.other % 2 ? { kind: 'together' } : { kind: 'folder-a-page' },
          },
          was: site.scheme,
        }
    }
  }
  const sorted = (site: ReturnType<typeof siteFrom>) => ({
    ...site,
    nextSeq: 0,
    pages: [...site.pages].sort((a, b) => (a.id < b.id ? -1 : 1)),
  })

  test('keeps links between pages alive, and is undone to the byte', () => {
    fc.assert(
      fc.property(outlines, steps, (nodes, sequence) => {
        const store = new TextStore()
        let site = siteFrom(writeOutline(nodes), store)
        // Every page links to every other, some rooted and some relative.
        const names = namesOf(site)
        const links = site.pages
          .map((page) => `<a href="/${encodeURI(names.pages.get(page.id)!.path)}">${page.id}</a>`)
          .join('\n')
        site = { ...site, pages: site.pages.map((page) => ({ ...page, content: store.put(links) })) }
        const states = [site]
        for (const step of sequence) {
          const edited = editWhole(site, changeFor(site, store, step))
          if ('refusal' in edited) continue
          site = change(site, store, changeFor(site, store, step))
          states.push(site)
        }
        const alive = new Map(site.pages.map((page) => [page.id, namesOf(site).pages.get(page.id)!.path]))
        for (const page of site.pages) {
          const content = store.textOf(page.content)
          for (const [, href, id] of content.matchAll(/href="\/([^"]*)">([^<]*)/g))
            if (alive.has(id!)) expect(decodeURI(href!)).toBe(alive.get(id!))
        }
        buildAll(site, store)
        for (let at = states.length - 1; at > 0; at--) {
          const undone = applyDiff(site, reverseDiff(diffSites(states[at - 1]!, states[at]!)))
          if (!('site' in undone)) throw new Error(JSON.stringify(undone))
          site = undone.site
          expect(sorted(site)).toEqual(sorted(states[at - 1]!))
        }
      }),
      { numRuns: 150 },
    )
  })
})

test('two differences made one after the other are one', () => {
  fc.assert(
    fc.property(outlines, outlines, outlines, (one, two, three) => {
      const store = new TextStore()
      const first = siteFrom(writeOutline(one), store)
      const pagesOf = (of: typeof one) => siteFrom(writeOutline(of), store).pages
      // Any rows will do: pages of the three come, change and go.
      const middle = { ...first, name: 'Middle', pages: [...first.pages.slice(1), ...pagesOf(two)] }
      const last = { ...middle, name: 'Last', pages: middle.pages.map((page, at) => (at % 2 ? { ...page, title: 'x' } : page)).slice(at(three)) } // prettier-ignore
      const both = composeDiffs([diffSites(first, middle), diffSites(middle, last)])
      const applied = applyDiff(first, both)
      const sorted = (pages: typeof first.pages) => [...pages].sort((a, b) => (a.id < b.id ? -1 : 1))
      expect('site' in applied && sorted(applied.site.pages)).toEqual(sorted(last.pages))
      const back = applyDiff(last, reverseDiff(both))
      expect('site' in back && [back.site.name, sorted(back.site.pages)]).toEqual([
        first.name,
        sorted(first.pages),
      ])
    }),
    { numRuns: 60 },
  )
  function at(nodes: readonly unknown[]) {
    return nodes.length % 3
  }
})

test('addresses are added and taken away one by one, whatever else has become known', () => {
  const store = new TextStore()
  const site = siteFrom('Home\n  Visit', store)
  const { id } = pageCalled(site, 'Visit')
  const known = (...paths: string[]) =>
    change(site, store, { kind: 'noteAddresses', addresses: { [id]: paths } })
  const dropped = diffSites(known('a', 'b'), known('b'))
  const later = applyDiff(known('b', 'c'), reverseDiff(dropped))
  expect('site' in later && pageCalled(later.site, 'Visit').addresses).toEqual(['b', 'c', 'a'])
  const again = applyDiff(known('a', 'b', 'c'), dropped)
  expect('site' in again && pageCalled(again.site, 'Visit').addresses).toEqual(['b', 'c'])
})

test('no page comes to stand deeper than a path can be', () => {
  const store = new TextStore()
  const deep = Array.from({ length: 100 }, (_, depth) => '  '.repeat(depth) + `Level ${depth}`).join('\n')
  const site = siteFrom(`${deep}\nOther\n  Below`, store)
  const lowest = pageCalled(site, 'Level 99')
  expect(treeOf(site).placeOf.get(lowest.id)!.depth).toBe(99)
  const at = { parentId: lowest.id, after: null }
  const tooDeep = { refusal: { reason: 'invalid', message: expect.stringContaining('100 levels') } }
  expect(
    editWhole(site, { kind: 'movePages', pageIds: [pageCalled(site, 'Other').id], ...at }),
  ).toMatchObject(tooDeep)
  const pages = [{ id: testId(), label: 'New' }]
  expect(editWhole(site, { kind: 'addPages', pages, content: '', ...at })).toMatchObject(tooDeep)
})
