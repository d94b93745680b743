import { expect, test } from '@jest/globals'
import fc from 'fast-check'
import { writeOutline } from '#core/plan'
import { defaultScheme } from '#core/site'
import { outlines, schemes, siteFrom, TextStore } from '#core/testing'
import { namesOf, remarksOfHost, schemeForOldest } from './index'

const store = new TextStore()

test('the default scheme clashes nowhere, is refused nowhere and is shown as it is, but for the oldest rules', () => {
  fc.assert(
    fc.property(outlines, (nodes) => {
      const site = siteFrom(writeOutline(nodes), store)
      expect(remarksOfHost(site, 'case-kept')).toEqual([])
      expect(remarksOfHost(site, 'case-folded')).toEqual([])
      const others = remarksOfHost(site, 'oldest').filter(({ kind }) => kind !== 'clash' && kind !== 'cut')
      expect(others).toEqual([])
    }),
  )
})

test('names that are kept as typed are remarked on where a host alters them', () => {
  const scheme = {
    ...defaultScheme,
    letters: 'kept' as const,
    letterCase: 'as-typed' as const,
    extension: '.htm' as const,
  }
  const site = { ...siteFrom('Home\n  Café\n  Long name one\n  Long name two', store), scheme }
  expect(remarksOfHost(site, 'case-kept').map(({ path, kind }) => [path, kind])).toEqual([
    ['Café.htm', 'shown-otherwise'],
    ['index.htm', 'home'],
  ])
  expect(remarksOfHost(site, 'oldest').map(({ path, kind }) => [path, kind])).toEqual(
    expect.arrayContaining([
      ['Café.htm', 'refused'],
      ['Long-name-two.htm', 'clash'],
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
      const bad = (['case-kept', 'case-folded', 'oldest'] as const).flatMap((kind) =>
        remarksOfHost(site, kind).filter((remark) => remark.kind !== 'home'),
      )
      expect(bad).toEqual([])
    }),
    { numRuns: 300 },
  )
})

test('for the oldest hosts numbers and dates find room within eight letters', () => {
  const plan =
    'Home\n  Ringing log\n    14 June 2025, first\n    14 June 2025, second\n  Lantern room\n  Lantern gallery'
  const site = siteFrom(plan, store)
  const [, log] = site.pages
  const dated = {
    ...site,
    scheme: schemeForOldest(site.scheme),
    pages: site.pages.map((page) => (page === log ? { ...page, dated: true } : page)),
  }
  expect([...namesOf(dated).pages.values()].map(({ path }) => path)).toEqual([
    'index.htm', 'ringing/index.htm', 'lantern.htm', 'lanter-2.htm', 'ringing/20250614.htm', 'ringing/202506-2.htm',
  ]) // prettier-ignore
})
