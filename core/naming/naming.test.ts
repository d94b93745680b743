import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { type Change, correctOwnNames, planEdit } from '#core/change'
import { branchOf, treeOf } from '#core/plan'
import { type Arrangement, defaultScheme, type Scheme, type Site } from '#core/site'
import {
  arrangements,
  change,
  labels,
  pageCalled,
  siteFrom,
  sites,
  testId,
  TextStore,
  editWhole,
} from '#core/testing'
import {
  checkOwnName,
  checkOwnNameOf,
  clashKey,
  explainName,
  type HostKind,
  nameLabel,
  namesOf,
  remarksOfHost,
  ownPathOf,
} from './index'

const store = new TextStore()
describe('a label becomes a name', () => {
  const name = (label: string, scheme: Partial<Scheme> = {}, language = 'en') =>
    nameLabel(label, { ...defaultScheme, ...scheme }, language).name

  test.each([
    ['Crossings & tides', 'crossings-and-tides'],
    ['Keepers, 1871–1983', 'keepers-1871-1983'],
    ['Keeper’s cottage', 'keepers-cottage'],
    ['Café & shop', 'cafe-and-shop'],
    ['東京 tower', 'dong-jing-tower'],
    ['../../etc/passwd', 'etc-passwd'],
    ['.htaccess', 'htaccess'],
    ['CON', 'con-page'],
    ['?!', 'page'],
    ['\u202eRTL\u0000', 'rtl'],
  ])('%s → %s', (label, expected) => expect(name(label)).toBe(expected))

  test('a language has its own spellings', () => {
    expect(name('Größe & Übersicht', {}, 'de')).toBe('groesse-und-uebersicht')
    expect(name('Größe', {}, 'sv')).toBe('grosse')
  })
  test('the parts of the scheme act', () => {
    expect(name('The light of the sea', { leaveOut: ['the', 'of'] })).toBe('light-sea')
    expect(name('The', { leaveOut: ['the'] })).toBe('the')
    expect(
      name('Visitor information', { shortForms: [{ word: 'information', short: 'info' }], gap: '_' }),
    ).toBe('visitor_info')
    expect(name('Café Größe', { letters: 'kept', letterCase: 'as-typed' })).toBe('Café-Größe')
    expect(name('one two three four', { longest: 9 })).toBe('one-two')
    expect(name('unreasonably', { longest: 6 })).toBe('unreas')
    expect(name('Minutes of the general assembly of 2024')).toBe('minutes-of-the-general')
    expect(name('Minutes taken down at the general assembly')).toBe('minutes-taken-down')
  })
  test('any label ends in letters, digits and gaps only', () => {
    fc.assert(
      fc.property(labels, (label) => {
        expect(name(label)).toMatch(/^[a-z0-9]+(-[a-z0-9]+)*$/)
      }),
    )
    expect(name('x'.repeat(10_000)).length).toBe(defaultScheme.longest)
  })
})

describe('names of a site', () => {
  const paths = (site: ReturnType<typeof siteFrom>) =>
    site.pages.map((page) => namesOf(site).pages.get(page.id)!.path)

  test('each arrangement puts pages where it says', () => {
    const site = siteFrom('Home\n  Visit\n    Tides\n  Contact', store)
    const inScheme = (arrangement: Arrangement) =>
      paths({ ...site, scheme: { ...defaultScheme, arrangement } })
    expect(inScheme(arrangements[0]!)).toEqual(['index.html', 'visit.html', 'contact.html', 'tides.html'])
    expect(inScheme(arrangements[1]!)).toEqual([
      'index.html',
      'visit/index.html',
      'contact.html',
      'visit/tides.html',
    ])
    expect(inScheme(arrangements[2]!)).toEqual([
      'index.html',
      'visit.html',
      'contact.html',
      'visit/tides.html',
    ])
    expect(inScheme(arrangements[3]!)).toEqual([
      'index.html',
      'pages/visit.html',
      'pages/contact.html',
      'pages/tides.html',
    ])
    expect(inScheme(arrangements[4]!)).toEqual([
      'index.html',
      'visit/index.html',
      'contact/index.html',
      'visit/tides/index.html',
    ])
  })

  test('are unique on every kind of host the scheme is made for, inside the site, and free of what hosts refuse', () => {
    fc.assert(
      fc.property(sites, (make) => {
        const site = make(store)
        const names = namesOf(site)
        const all = [...names.pages.values()].map((name) => name.path).concat(...names.files.values())
        const clashes = (kind: HostKind) =>
          remarksOfHost(site, kind).filter((remark) => remark.kind === 'clash')
        expect(new Set(all.map(clashKey)).size).toBe(all.length)
        expect(clashes('case-kept')).toEqual([])
        expect(clashes('case-folded')).toEqual([])
        if (site.scheme.longest <= 26) expect(clashes('oldest')).toEqual([])
        // A path of a file's own is written as it came.
        const asTheyCame = new Set(
          site.files.filter(({ label }) => ownPathOf(label) !== null).map(({ id }) => names.files.get(id)!),
        )
        for (const path of all)
          if (asTheyCame.has(path)) expect(path).not.toMatch(/(^|\/)\.{0,2}(\/|$)|^\.trial/)
          else expect(path).toMatch(/^(\.trial\/)?([^/.\s]+\/)*[^/.\s]+(\.[a-z]+|\.HTM)?$/u)
      }),
      { numRuns: 1000 },
    )
  })

  test('of two pages that want one name the older keeps it; the other takes its section’s, then a number', () => {
    const together = (plan: string) => {
      const site = siteFrom(plan, store)
      return { ...site, scheme: { ...defaultScheme, arrangement: arrangements[0]! } }
    }
    expect(paths(together('Home\n  Terns\n  Birds\n    Terns\n    Terns')).slice(1)).toEqual([
      'terns.html', 'birds.html', 'birds-terns.html', 'birds-terns-2.html',
    ]) // prettier-ignore
    const site = siteFrom('Home\n  Birds\n    Terns\n    TERNS', store)
    expect(namesOf(site).pages.get(site.pages[3]!.id)).toMatchObject({
      path: 'birds/terns-2.html',
      clash: { wanted: 'terns' },
    })
  })

  test('adding, removing, moving, renaming or naming a page renames no unrelated page', () => {
    fc.assert(
      fc.property(sites, labels, fc.nat(), fc.nat(4), (make, label, pick, what) => {
        const texts = new TextStore()
        const made = make(texts)
        // Numbers in plan order follow the order: that is what they are asked for.
        const before = { ...made, scheme: { ...made.scheme, numbered: false } }
        const others = before.pages.filter((page) => page.id !== before.homeId)
        const page = others[pick % Math.max(1, others.length)]
        if (!page || !/[^\s\p{C}\p{Z}]/u.test(label)) return
        const at = { parentId: null, after: null }
        const pages = [{ id: testId(), label }]
        const pageIds = [page.id]
        const changes: Change[] = [
          { kind: 'addPages', ...at, pages, content: texts.put('') },
          { kind: 'removePages', pageIds },
          { kind: 'movePages', pageIds, ...at },
          { kind: 'setPageText', pageId: page.id, field: 'label', value: label, was: page.label },
          { kind: 'setPageText', pageId: page.id, field: 'ownName', value: 'visit', was: page.ownName },
        ]
        const edited = editWhole(before, changes[what]!)
        if ('refusal' in edited) return
        const after = edited.site
        const touched = what < 2 ? [] : branchOf(treeOf(before), page.id)
        for (const one of after.pages) {
          const was = namesOf(before).pages.get(one.id)
          // A trial page has a name for the preview only, where it may change.
          if (!was || touched.some(({ id }) => id === one.id) || treeOf(before).placeOf.get(one.id)?.trial)
            continue
          expect([one.label, namesOf(after).pages.get(one.id)!.stem]).toEqual([one.label, was.stem])
        }
      }),
      { numRuns: 500 },
    )
  })

  test('a name held still does not let a third page slip into the one it leaves', () => {
    const texts = new TextStore()
    const scheme = { ...defaultScheme, arrangement: arrangements[0]! }
    const before = { ...siteFrom('Home\n  Terns\n  Terns\n    Terns', texts), scheme }
    const stems = (site: typeof before) => site.pages.map((page) => namesOf(site).pages.get(page.id)!.stem)
    expect(stems(before)).toEqual(['index', 'terns', 'terns-2', 'terns-terns'])
    const after = change(before, texts, { kind: 'removePages', pageIds: [before.pages[1]!.id] })
    expect(stems(after)).toEqual(['index', 'terns-2', 'terns-terns'])
  })

  test.each([
    ['together', 'visit.html'],
    ['folder-a-page', 'visit/index.html'],
  ])(
    'a trial page with a path of its own, put in among the others, pushes none away from it: %s',
    (kind, path) => {
      const texts = new TextStore()
      const made = siteFrom('Home\n  Visit\n  Draft (trial page)\n    Tides', texts)
      const arrangement = arrangements.find((one) => one.kind === kind)!
      const plan = { ...made, scheme: { ...defaultScheme, arrangement } }
      const [, visit, draft, tides] = plan.pages
      const before = {
        ...plan,
        pages: plan.pages.map((page) => (page === tides ? { ...page, ownName: '/visit' } : page)),
      }
      const paths = (of: Site) => [visit, tides].map((page) => namesOf(of).pages.get(page!.id)!.path)
      expect(paths(before)).toEqual([path, '.trial/visit.html'])
      const moved = change(before, texts, { kind: 'movePages', pageIds: [tides!.id], parentId: null, after: null }) // prettier-ignore
      expect(paths(moved)).toEqual([path, 'visit-2.html'])
      const real = change(before, texts, { kind: 'setPageFlag', pageIds: [draft!.id], flag: 'trial', value: false }) // prettier-ignore
      expect(paths(real)).toEqual([path, 'visit-2.html'])
    },
  )

  test('a name explains itself step by step', () => {
    const site = siteFrom('Home\n  The light\n    Keepers, 1871–1983', store)
    const steps = explainName(site, pageCalled(site, 'Keepers, 1871–1983').id)
    expect(steps).toEqual([
      { rule: 'label', text: 'Keepers, 1871–1983' },
      { rule: 'letters', text: 'Keepers, 1871-1983' },
      { rule: 'case', text: 'keepers, 1871-1983' },
      { rule: 'punctuation', text: 'keepers 1871 1983' },
      { rule: 'gap', text: 'keepers-1871-1983' },
      { rule: 'folder', text: 'the-light/keepers-1871-1983.html' },
    ])
  })
})

describe('an own name', () => {
  test.each(['a b', 'a/b', '', 'con', '.hidden', 'x.html', '-x', 'index', 'a?b', 'e\u0301'])(
    '%j is refused with one that works',
    (name) => {
      const refusal = checkOwnName(name, defaultScheme, 'en')!
      expect(refusal.reason).not.toBe('')
      if (name !== 'index') expect(checkOwnName(refusal.proposal, defaultScheme, 'en')).toBeNull()
    },
  )
  test('that another page has is refused, so that no page has to give way', () => {
    const site = siteFrom('Home\n  Visit\n    Tides\n  Contact\n  Stay\n    Tides', store)
    const [contact, tides] = [pageCalled(site, 'Contact'), pageCalled(site, 'Tides')]
    expect(checkOwnNameOf(site, contact.id, 'VISIT')).toEqual({
      reason: 'VISIT is the name of “Visit” already.',
      proposal: 'VISIT-2',
    })
    expect(checkOwnNameOf(site, contact.id, 'images')).toMatchObject({ proposal: 'images-2' })
    // Elsewhere, and where the page itself has it, it is free.
    expect(checkOwnNameOf(site, contact.id, 'tides')).toBeNull()
    expect(checkOwnNameOf(site, tides.id, 'tides')).toBeNull()
    const wanted: Change = {
      kind: 'setPageText',
      pageId: contact.id,
      field: 'ownName',
      value: 'visit',
      was: null,
    }
    expect(() => change(site, store, wanted)).toThrow('visit is the name of “Visit” already.')
  })

  test('from a plan is corrected and told, and never used as it came', () => {
    const site = siteFrom('Home\n  Visit', store)
    const line = (ownName: string) => ({
      label: 'Visit',
      trial: false,
      inMenus: true,
      details: { ownName },
      children: [],
    })
    const home = { label: 'Home', trial: false, inMenus: true, children: [] }
    const plan = correctOwnNames({ home, top: [line('../../etc'), line('fine')], notes: [] }, site)
    expect(plan.top.map(({ details }) => details?.ownName)).toEqual(['etc', 'fine'])
    expect(plan.notes).toEqual([
      'The own name “../../etc” of “Visit” is written etc. Folders come from the scheme; a path of its own begins with a slash.',
    ])
    const top = [{ ...line('../../etc'), id: testId() }]
    expect(() =>
      change(site, store, {
        kind: 'replacePlan',
        ...planEdit(site, { home: { label: 'Home', inMenus: true }, top }),
        content: store.put(''),
      }),
    ).toThrow('The own name of “')
  })

  test('gives way where its page is moved beside one that has the name, and is back when moved on', () => {
    const site = siteFrom('Home\n  Visit\n  Birds\n    Terns', store)
    const [, visit, , terns] = site.pages
    const own = change(site, store, { kind: 'setPageText', pageId: terns!.id, field: 'ownName', value: 'visit', was: null }) // prettier-ignore
    const moveTo = (from: Site, parentId: string | null) =>
      change(from, store, { kind: 'movePages', pageIds: [terns!.id], parentId, after: null })
    const paths = (of: Site) => [visit, terns].map((page) => namesOf(of).pages.get(page!.id)!.path)
    expect(paths(own)).toEqual(['visit.html', 'birds/visit.html'])
    const beside = moveTo(own, null)
    expect(paths(beside)).toEqual(['visit.html', 'visit-2.html'])
    expect(explainName(beside, terns!.id).map(({ rule }) => rule)).toContain('clash')
    const birds = site.pages[2]!.id
    expect(paths(moveTo(beside, birds))).toEqual(['visit.html', 'birds/visit.html'])
  })

  test('survives a new label and another scheme', () => {
    const site = siteFrom('Home\n  Visit', store)
    const id = site.pages[1]!.id
    const own = change(site, store, {
      kind: 'setPageText',
      pageId: id,
      field: 'ownName',
      value: 'come',
      was: null,
    })
    const renamed = change(own, store, {
      kind: 'setPageText',
      pageId: id,
      field: 'label',
      value: 'Getting here',
      was: 'Visit',
    })
    expect(namesOf(renamed).pages.get(id)!.path).toBe('come.html')
    const scheme = { ...defaultScheme, extension: '.htm' as const }
    expect(
      namesOf(change(renamed, store, { kind: 'setScheme', scheme, was: defaultScheme })).pages.get(id)!.path,
    ).toBe('come.htm')
  })
})

test('a file without an extension never has the name of a folder beside it', () => {
  const store = new TextStore()
  const site = siteFrom('Home\n  Visit\n    Tides\n  Contact', store)
  const file = (label: string, kind: 'document' | 'other', seq: number) => {
    return { id: testId(), kind, label, seq, hash: store.put('x'), sizeBytes: 1 }
  }
  const folders = { ...site.scheme.folders, document: '', other: '' }
  const files = [
    ...site.files,
    file('Visit', 'other', 90),
    file('images', 'document', 91),
    file('Contact', 'other', 92),
  ]
  const { byPath } = namesOf({ ...site, files, scheme: { ...site.scheme, folders } })
  const paths = [...byPath.keys()]
  for (const path of paths) expect(paths.filter((other) => other.startsWith(`${path}/`))).toEqual([])
  expect(paths).toEqual(expect.arrayContaining(['visit-2', 'images-2', 'contact']))
})

test.each(['a\u200bb', 'a\u202eb', '\u2066a', 'a\u00adb', 'a\ufe0f', 'a\u2028b'])(
  'an own name with a sign nobody sees is refused: %j',
  (name) => {
    const { scheme, language } = siteFrom('Home', new TextStore())
    expect(checkOwnName(name, scheme, language)).not.toBeNull()
  },
)

test('a label has one name, whether anybody looks at how it comes about or not', () => {
  const word = fc.constantFrom(
    'Tides',
    'a',
    'con',
    'COM',
    '1',
    '2',
    'Caf\u00e9',
    '&',
    "Keeper's",
    'the',
    'ringing',
    'İ',
    '-',
  )
  fc.assert(
    fc.property(
      fc.array(word, { maxLength: 6 }),
      fc.constantFrom(' ', '  ', ''),
      fc.record({
        gap: fc.constantFrom<Scheme['gap']>('-', '_', ''),
        longest: fc.constantFrom(1, 4, 9, 60),
        letterCase: fc.constantFrom<Scheme['letterCase']>('lower', 'as-typed'),
        letters: fc.constantFrom<Scheme['letters']>('ascii', 'kept'),
        leaveOut: fc.constantFrom([], ['the']),
      }),
      fc.constantFrom('en', 'de'),
      (words, joint, own, language) => {
        const scheme = { ...defaultScheme, ...own }
        const label = words.join(joint)
        expect(nameLabel(label, scheme, language)).toEqual(nameLabel(label, scheme, language, () => {}))
      },
    ),
    { numRuns: 2_000 },
  )
})
