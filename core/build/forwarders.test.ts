import { describe, expect, test } from '@jest/globals'
import { namesOf } from '#core/naming'
import type { Site } from '#core/site'
import { buildAll, change, pageCalled, siteFrom, testId, TextStore } from '#core/testing'
import { forwardersOf } from './index'

const store = new TextStore()
const pageOf = (site: Site, id: string) => site.pages.find((page) => page.id === id)!
const deliver = (site: Site) =>
  change(site, store, {
    kind: 'noteAddresses',
    addresses: Object.fromEntries(
      [...namesOf(site).pages].map(([id, { path }]) => [id, [...pageOf(site, id).addresses, path]]),
    ),
  })
const rename = (site: Site, from: string, to: string) =>
  change(site, store, {
    kind: 'setPageText',
    pageId: pageCalled(site, from).id,
    field: 'label',
    value: to,
    was: from,
  })
const release = (site: Site, label: string) =>
  change(site, store, { kind: 'releaseNames', pageIds: [pageCalled(site, label).id] })
const pathOf = (site: Site, label: string) => namesOf(site).pages.get(pageCalled(site, label).id)!.path
const shown = (site: Site) => forwardersOf(site).map(({ path, to }) => `${path} → ${to}`)

describe('an address that is out in the world', () => {
  test('does not change with the label until its author lets it go, and then forwards', () => {
    let site = deliver(siteFrom('Home\n  Visit\n  Contact', store))
    site = rename(site, 'Visit', 'Getting here')
    expect(pathOf(site, 'Getting here')).toBe('visit.html')
    expect(shown(site)).toEqual([])
    site = release(site, 'Getting here')
    expect(pathOf(site, 'Getting here')).toBe('getting-here.html')
    expect(shown(site)).toEqual(['visit.html → getting-here.html'])
    expect(buildAll(site, store).get('visit.html')).toContain(
      '<meta http-equiv="refresh" content="0; url=getting-here.html">',
    )
  })

  test('collapses chains: every forwarder leads straight to the page', () => {
    let site = deliver(siteFrom('Home\n  Visit\n  Info', store))
    site = deliver(release(rename(site, 'Visit', 'Come'), 'Come'))
    site = deliver(release(rename(site, 'Come', 'Arrive'), 'Arrive'))
    site = change(site, store, {
      kind: 'movePages',
      pageIds: [pageCalled(site, 'Arrive').id],
      parentId: pageCalled(site, 'Info').id,
      after: null,
    })
    expect(shown(site)).toEqual([
      'visit.html → info/arrive.html',
      'come.html → info/arrive.html',
      'arrive.html → info/arrive.html',
      'info.html → info/index.html',
    ])
  })

  test('is taken back by a page that comes to stand there', () => {
    let site = release(rename(deliver(siteFrom('Home\n  Visit', store)), 'Visit', 'Come'), 'Come')
    expect(shown(site)).toEqual(['visit.html → come.html'])
    site = change(site, store, {
      kind: 'addPages',
      parentId: null,
      after: null,
      pages: [{ id: testId(), label: 'Visit' }],
      content: store.put(''),
    })
    expect(shown(site)).toEqual([])
    expect(buildAll(site, store).get('visit.html')).toContain('<h1>Visit</h1>')
  })

  test('leaves no forwarder where a host that folds case would take it for the page', () => {
    let site = siteFrom('Home\n  Visit', store)
    const typed = { ...site.scheme, letterCase: 'as-typed' as const }
    site = deliver(change(site, store, { kind: 'setScheme', scheme: typed, was: site.scheme }))
    site = change(site, store, { kind: 'setScheme', scheme: { ...typed, letterCase: 'lower' }, was: typed })
    expect(pathOf(site, 'Visit')).toBe('visit.html')
    expect(shown(site)).toEqual([])
  })

  test('can be given up', () => {
    let site = release(rename(deliver(siteFrom('Home\n  Visit', store)), 'Visit', 'Come'), 'Come')
    site = change(site, store, {
      kind: 'dropAddresses',
      addresses: { [pageCalled(site, 'Come').id]: ['visit.html'] },
    })
    expect(shown(site)).toEqual([])
  })

  test('a label of a page that was never delivered changes its file at once', () => {
    const site = rename(siteFrom('Home\n  Visit', store), 'Visit', 'Come')
    expect(pathOf(site, 'Come')).toBe('come.html')
  })
})
