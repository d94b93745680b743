import { expect, test } from '@jest/globals'
import { edit } from '#core/change'
import { namesOf } from '#core/naming'
import { buildAll, change, pageCalled, siteFrom, TextStore, write } from '#core/testing'
import { checkSite, type Site } from '#core/site'
import { languagesOf } from './index'

const store = new TextStore()
const plan = 'Home\n  Visit\n  Gäste\n    Über uns\n      Prices\n    Öffnungszeiten & Preise'
const inLanguage = (site: Site, label: string, value: string | null): Site => {
  const page = pageCalled(site, label)
  return change(site, store, {
    kind: 'setPageText',
    pageId: page.id,
    field: 'language',
    value,
    was: page.language,
  })
}
const spoken = (site: Site) =>
  Object.fromEntries(site.pages.map((page) => [page.label, languagesOf(site).of(page)]))

test('a page is in its own language, else in that of its place', () => {
  const site = inLanguage(inLanguage(siteFrom(plan, store), 'Gäste', 'de'), 'Prices', 'en-GB')
  expect(spoken(site)).toEqual({
    Home: 'en',
    Visit: 'en',
    Gäste: 'de',
    'Über uns': 'de',
    Prices: 'en-GB',
    'Öffnungszeiten & Preise': 'de',
  })
  expect(languagesOf(site).all).toEqual(['en', 'de', 'en-GB'])
  // One that is moved out of its section is in what it comes to.
  const pageIds = [pageCalled(site, 'Über uns').id]
  const moved = change(site, store, {
    kind: 'movePages',
    pageIds,
    parentId: pageCalled(site, 'Visit').id,
    after: null,
  })
  expect([spoken(moved)['Über uns'], spoken(moved)['Prices']]).toEqual(['en', 'en-GB'])
  expect(checkSite(moved)).toEqual([])
})

test('names are spelled in the language of their page, and follow when that changes', () => {
  const site = siteFrom(plan, store)
  const paths = (of: Site) =>
    [...namesOf(of).pages.values()].map(({ path }) => path).filter((path) => path.includes('ste/'))
  expect(paths(site)).toEqual([
    'gaste/index.html',
    'gaste/uber-uns/index.html',
    'gaste/offnungszeiten-and-preise.html',
    'gaste/uber-uns/prices.html',
  ])
  const german = inLanguage(site, 'Gäste', 'de')
  expect(paths(german)).toEqual([
    'gaeste/index.html',
    'gaeste/ueber-uns/index.html',
    'gaeste/oeffnungszeiten-und-preise.html',
    'gaeste/ueber-uns/prices.html',
  ])
  expect(german.pages.every(({ keptName }) => keptName === null)).toBe(true)
  expect(paths(inLanguage(german, 'Gäste', null))).toEqual(paths(site))
})

test('a name that is out in the world stays as it is in another language', () => {
  const site = siteFrom(plan, store)
  const out = namesOf(site).pages.get(pageCalled(site, 'Über uns').id)!.path
  const published = {
    ...site,
    pages: site.pages.map((page) => (page.label === 'Über uns' ? { ...page, addresses: [out] } : page)),
  }
  const ofSite = change(published, store, { kind: 'setSetting', field: 'language', value: 'de', was: 'en' })
  for (const after of [inLanguage(published, 'Gäste', 'de'), ofSite]) {
    const stems = Object.fromEntries(
      after.pages.map(({ id, label }) => [label, namesOf(after).pages.get(id)!.stem]),
    )
    expect(stems).toMatchObject({ Gäste: 'gaeste', 'Über uns': 'uber-uns' })
    expect(stems['Öffnungszeiten & Preise']).toBe('oeffnungszeiten-und-preise')
    expect(checkSite(after)).toEqual([])
  }
})

test('every page says its own, and links into another say which', () => {
  const site = inLanguage(inLanguage(siteFrom(plan, store), 'Gäste', 'de'), 'Visit', 'ar')
  const text = buildAll(site, store)
  const entry = (path: string, label: string) =>
    text
      .get(path)!
      .split('\n')
      .find((line) => line.includes(`>${label}</a>`))!
      .trim()
  expect(text.get('index.html')).toContain('<html lang="en">')
  expect(text.get('gaeste/ueber-uns/index.html')).toContain('<html lang="de">')
  expect(entry('index.html', 'Gäste')).toBe(
    '<li><a href="gaeste/index.html" lang="de" hreflang="de">Gäste</a></li>',
  )
  expect(entry('index.html', 'Visit')).toContain('lang="ar" dir="rtl" hreflang="ar"')
  const home = entry('gaeste/oeffnungszeiten-und-preise.html', 'Home')
  expect(home).toContain('lang="en" hreflang="en"')
  expect(entry('gaeste/oeffnungszeiten-und-preise.html', 'Gäste')).not.toContain('lang=')
})

test('a new site has its top sections that languages are called by in those', () => {
  const site = siteFrom('Home\n  Visit\n    Français\n  Deutsch\n    Über uns\n  English', store)
  expect(
    site.pages.filter(({ language }) => language !== null).map(({ label, language }) => [label, language]),
  ).toEqual([['Deutsch', 'de']])
  expect([...namesOf(site).byPath.keys()]).toContain('deutsch/ueber-uns.html')
})

test('what is no tag of a language is refused', () => {
  const site = siteFrom(plan, store)
  const page = pageCalled(site, 'Visit')
  for (const value of ['Klingonian', 'x y', '"><script>', 'e'])
    expect([
      value,
      'refusal' in edit(site, { kind: 'setPageText', pageId: page.id, field: 'language', value, was: null }),
    ]).toEqual([value, true])
  expect(
    inLanguage(inLanguage(write(site, store, 'Visit', 'x'), 'Visit', 'de'), 'Visit', '').pages.every(
      ({ language }) => language === null,
    ),
  ).toBe(true)
})
