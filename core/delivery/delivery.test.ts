import { describe, expect, test } from '@jest/globals'
import {
  compareDelivery,
  filesToSend,
  type ManifestFile,
  kindInStep,
  removalStep,
  sayTraits,
  stepOf,
  tooLongFor,
} from './index'

const file = (path: string, hash = path, sizeBytes = 10): ManifestFile => ({
  path,
  hash,
  sizeBytes,
  kind: path.endsWith('.html') ? 'page' : 'file',
  isHome: path === 'index.html',
})
const recorded = (path: string, hash = path) => ({ path, hash, sizeBytes: 10, modifiedSeconds: 5 })
const listed = (path: string, sizeBytes = 10, modifiedSeconds = 5) => ({ path, sizeBytes, modifiedSeconds })

describe('comparing with a destination', () => {
  test('tells every state apart', () => {
    const paths = ['new', 'same', 'changed', 'there', 'gone', 'unknown', 'other'].map((name) =>
      file(`${name}.html`),
    )
    const comparison = compareDelivery(
      paths,
      ['same', 'there', 'gone', 'old']
        .map((name) => recorded(`${name}.html`))
        .concat(recorded('changed.html', 'before')),
      [
        listed('same.html'),
        listed('changed.html'),
        listed('there.html', 10, 9),
        listed('unknown.html'),
        listed('other.html', 3),
        listed('old.html'),
        listed('stray.txt'),
      ],
    )
    expect(comparison.files.map((one) => one.state)).toEqual([
      'new',
      'same',
      'changed',
      'changed there',
      'gone there',
      'unknown',
      'other there',
    ])
    expect(comparison.leftovers.map((one) => one.state)).toEqual(['to remove', 'stray'])
    expect(filesToSend(comparison)).toHaveLength(6)
  })

  test('of an old file a listing tells the day alone: it is the same, unless it is another day', () => {
    const noon = Date.UTC(2026, 0, 5, 12, 34) / 1_000
    const state = (before: number | null, now: number | null) =>
      compareDelivery(
        [file('a.html')],
        [{ ...recorded('a.html'), modifiedSeconds: before }],
        [{ path: 'a.html', sizeBytes: 10, modifiedSeconds: now }],
      ).files[0]!.state
    const day = Date.UTC(2026, 0, 5) / 1_000
    expect([state(noon, day), state(noon, noon), state(null, null)]).toEqual(['same', 'same', 'same'])
    for (const [before, now] of [[noon, day + 86_400], [noon, day - 86_400], [noon, day + 60], [noon + 1, day], [day, noon], [noon, null], [null, noon]] as const)
      expect([before, now, state(before, now)]).toEqual([before, now, 'changed there']) // prettier-ignore
  })

  test('a host that does not tell case apart has one file where another has two: it is no leftover', () => {
    const [made, record] = [[file('about.html', 'new')], [recorded('About.html', 'old'), recorded('Gone.html')]]
    const there = [listed('About.html'), listed('Gone.html')]
    const { files, leftovers } = compareDelivery(made, record, there)
    expect([files[0]!.state, leftovers.map(({ path }) => path)]).toEqual(['new', ['About.html', 'Gone.html']])
    const folding = compareDelivery(made, record, there, { tellsCase: false })
    expect([folding.files[0]!.state, folding.leftovers]).toEqual(['changed', [{ path: 'Gone.html', sizeBytes: 10, state: 'to remove' }]])
    // Once it is sent under its new name, that is what counts.
    const sent = compareDelivery(made, [...record, recorded('about.html', 'new')], there, { tellsCase: false })
    expect(sent.files[0]!.state).toBe('same')
  }) // prettier-ignore

  test('says what a host does otherwise, and which names it cannot take', () => {
    expect(sayTraits({ tellsCase: true })).toEqual([])
    const odd = {
      tellsCase: false,
      replaces: false,
      opens: false,
      connections: 1,
      pipelines: false,
      longestName: 12,
    }
    expect(sayTraits(odd)).toHaveLength(6)
    expect(sayTraits({ connections: 3 })[0]).toContain('3 connections')
    expect(sayTraits({ setsTimes: true, showsHome: true, addsSlash: true, clockSeconds: 0 })).toEqual([])
    expect(sayTraits({ setsTimes: false, showsHome: false, addsSlash: false })).toHaveLength(3)
    for (const [clockSeconds, setsTimes, said] of [
      [180, true, '3 minutes ahead of the one here, so that files are given the time here as they are sent'],
      [
        -3_600,
        undefined,
        '1 hour behind the one here, so that files are given the time here as they are sent',
      ],
      [-172_800, false, '2 days behind the one here, so that files bear another time there'],
    ] as const)
      expect(sayTraits({ clockSeconds, setsTimes })).toEqual([`has a clock that is ${said}`])
    const paths = ['about.html', 'folder/opening-hours.html', 'a-long-folder/a.html', 'twelve-l.htm']
    expect(tooLongFor(odd, paths)).toEqual(paths.slice(1, 3))
    expect(tooLongFor({}, paths)).toEqual([])
  })

  test('pictures go before style sheets, these before pages, the home page last, then lists that name pages, and then what is removed', () => {
    const paths = ['feed-de.xml', 'sitemap.xml', 'robots.txt', 'index.html', 'a/index.html', 'styles/site.css', 'images/x.svg', 'data/feed.xml'] // prettier-ignore
    const steps = paths.map((path) => stepOf(file(path)))
    expect(steps).toEqual([4, 4, 4, 3, 2, 1, 0, 0])
    const kinds = paths.map((path) => ({ ...file(path), ...kindInStep(stepOf(file(path))) }))
    expect(kinds).toEqual(paths.map((path) => file(path)))
    expect(Math.max(...steps)).toBeLessThan(removalStep)
  })
})
