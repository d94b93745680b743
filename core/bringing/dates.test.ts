import { describe, expect, test } from '@jest/globals'
import { datesOf, namesOf } from '#core/naming'
import type { Site } from '#core/site'
import { bring } from '../testing/bringing'
import { change, pageCalled, TextStore } from '#core/testing'

/** A site brought in whose pages say no more than what they are called. */
function brought(pages: Readonly<Record<string, string>>): Site {
  const menu = Object.entries(pages).map(([path, label]) => `<li><a href="/${path}">${label}</a></li>`)
  const files = Object.entries({ 'index.html': 'Home', ...pages }).map(([path, label]) => [
    path,
    `<!DOCTYPE html>\n<html lang="en">\n<head><title>${label}</title></head>\n<body><ul>${menu.join('')}</ul><h1>${label}</h1><p>Of ${label}.</p></body>\n</html>\n`,
  ])
  return bring(Object.fromEntries(files) as Record<string, string>, new TextStore()).site
}
const toldBy = (site: Site) => datesOf(site).newest.map((page) => [page.label, datesOf(site).of(page)!.date])

describe('pages that are named with dates', () => {
  test('carry them, the newest first, and stay where they stood', () => {
    const pages = {
      'news/index.html': 'News',
      'news/2031-03-03-gale.html': 'Gale warning',
      'news/20300614_pier.html': 'The pier is mended, 14 June 2030',
      'news/2029-11.html': 'November',
      'news/archive.html': 'Archive',
    }
    const site = brought(pages)
    expect(toldBy(site)).toEqual([
      ['Gale warning', '2031-03-03'],
      ['The pier is mended, 14 June 2030', '2030-06-14'],
      ['November', '2029-11'],
    ])
    // Its label says it: that is what it is read from.
    expect(pageCalled(site, 'The pier is mended, 14 June 2030').date).toBe(null)
    for (const path of Object.keys(pages)) expect(namesOf(site).byPath.has(path)).toBe(true)
  })

  test('in folders of their own as well, and those that are added are named alike', () => {
    const store = new TextStore()
    const site = brought({ 'log/index.html': 'Log', 'log/2031-03-03/index.html': 'Gale', 'log/2031-04-01/index.html': 'Fog' })
    expect(toldBy(site)).toEqual([['Fog', '2031-04-01'], ['Gale', '2031-03-03']])
    const parentId = pageCalled(site, 'Log').id
    const added = change(site, store, { kind: 'addPages', pages: [{ id: 'new', label: 'Hail, 2 May 2031' }], parentId, after: null, content: store.put('') })
    expect(namesOf(added).pages.get('new')!.path).toMatch(/^log\/2031-05-02-hail\b/)
  }) // prettier-ignore

  test.each([
    ['few of many', { 'a/index.html': 'A', 'a/2031-01.html': 'January', 'a/about.html': 'About', 'a/rooms.html': 'Rooms' }],
    ['one alone', { 'a/index.html': 'A', 'a/2031.html': 'This year' }],
    ['numbers that are none', { 'a/index.html': 'A', 'a/2031x.html': 'X', 'a/2031-13.html': 'Y', 'a/1024.html': 'Z', 'a/20310.html': 'W' }],
  ])('%s are no dates of a section', (_, pages) => {
    expect(toldBy(brought(pages))).toEqual([])
  }) // prettier-ignore
})
