import { expect, test } from '@jest/globals'
import fc from 'fast-check'
import { writeOutline } from '#core/plan'
import { defaultScheme } from '#core/site'
import { outlines, schemes, siteFrom, sites, TextStore } from '#core/testing'
import { fileTitle, type HostKind, hostKinds, namesOf, remarksOfHost, schemeForOldest } from './index'

const store = new TextStore()

const kinds = Object.keys(hostKinds) as HostKind[]

test('the default scheme clashes nowhere, is refused and cut nowhere, and is shown as it is', () => {
  fc.assert(
    fc.property(sites, (make) => {
      const made = make(store)
      // An author's own names are the author's.
      const pages = made.pages.map((page) => ({ ...page, ownName: null }))
      const files = made.files.map((file) => ({ ...file, label: fileTitle(file.label) }))
      const site = { ...made, pages, files, scheme: defaultScheme }
      for (const kind of kinds) expect(remarksOfHost(site, kind)).toEqual([])
    }),
    { numRuns: 500 },
  )
})

test('names that are kept as typed are remarked on where a host alters them', () => {
  const scheme = {
    ...defaultScheme,
    letters: 'kept' as const,
    letterCase: 'as-typed' as const,
    extension: '.htm' as const,
    longest: 60,
  }
  const site = {
    ...siteFrom(
      'Home\n  Café\n  Minutes of the general meeting in spring\n  Minutes of the general meeting in autumn',
      store,
    ),
    scheme,
  }
  expect(remarksOfHost(site, 'case-kept').map(({ path, kind }) => [path, kind])).toEqual([
    ['Café.htm', 'shown-otherwise'],
    ['index.htm', 'home'],
  ])
  expect(remarksOfHost(site, 'oldest').map(({ path, kind }) => [path, kind])).toEqual(
    expect.arrayContaining([
      ['Café.htm', 'refused'],
      ['Minutes-of-the-general-meeting-in-autumn.htm', 'cut'],
      ['Minutes-of-the-general-meeting-in-spring.htm', 'clash'],
    ]),
  )
  expect(
    remarksOfHost({ ...site, scheme: { ...scheme, homeName: 'start' } }, 'case-kept').at(-1),
  ).toMatchObject({ path: 'start.htm', kind: 'home' })
})

test('a scheme for the oldest hosts clashes on none, is cut and refused on none, whatever it was before', () => {
  fc.assert(
    fc.property(outlines, schemes, (nodes, before) => {
      const scheme = schemeForOldest(before)
      const site = { ...siteFrom(writeOutline(nodes), store), scheme }
      const bad = kinds.flatMap((kind) =>
        remarksOfHost(site, kind).filter((remark) => remark.kind !== 'home'),
      )
      expect(bad).toEqual([])
    }),
    { numRuns: 300 },
  )
})

test('in eight letters numbers and dates find room, and no two pages come to one name', () => {
  const plan =
    'Home\n  Ringing log\n    14 June 2025, first\n    14 June 2025, second\n  Lantern room\n  Lantern gallery'
  const site = siteFrom(plan, store)
  const [, log] = site.pages
  const dated = {
    ...site,
    scheme: { ...site.scheme, longest: 8 },
    pages: site.pages.map((page) => (page === log ? { ...page, dated: true } : page)),
  }
  expect([...namesOf(dated).pages.values()].map(({ path }) => path)).toEqual([
    'index.html', 'ringing/index.html', 'lantern.html', 'lanter-2.html', 'ringing/20250614.html', 'ringing/202506-2.html',
  ]) // prettier-ignore
})

test('a long extension leaves less room for the name before it', () => {
  const label = 'Everything that the keepers wrote down.webmanifest'
  const file = { id: 'f', seq: 99, label, kind: 'other' as const, hash: '', sizeBytes: 0 }
  const site = siteFrom('Home', store)
  expect(namesOf({ ...site, files: [file] }).files.get('f')).toBe('files/everything-that.webmanifest')
})
