import { expect, test } from '@jest/globals'
import fc from 'fast-check'
import { writeOutline } from '#core/plan'
import { defaultScheme } from '#core/site'
import { outlines, siteFrom, TextStore } from '#core/testing'
import { remarksOfHost } from './index'

const store = new TextStore()

test('the default scheme clashes nowhere, is refused nowhere and is shown as it is, but for the oldest rules', () => {
  fc.assert(
    fc.property(outlines, (nodes) => {
      const site = siteFrom(writeOutline(nodes), store)
      expect(remarksOfHost(site, 'case-kept')).toEqual([])
      expect(remarksOfHost(site, 'case-folded')).toEqual([])
      expect(remarksOfHost(site, 'oldest').filter((remark) => remark.kind !== 'clash')).toEqual([])
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
