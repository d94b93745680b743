import { expect, test } from '@jest/globals'
import fc from 'fast-check'
import { change, pageCalled, siteFrom, TextStore } from '#core/testing'
import type { Page, Site } from '#core/site'
import { languagesOf, type TranslationPair, translationsOf, withTranslations } from './index'

const store = new TextStore()
const plan = 'Home\n  Visit\n  Stay\n  Auf Deutsch\n    Besuch\n    Bleiben\n  Yn Gymraeg\n    Ymweld'

/** A site in three languages, nothing said yet of which pages are the same. */
function inThree(): Site {
  let site = siteFrom(plan, store, 'Home')
  for (const [label, value] of [['Auf Deutsch', 'de'], ['Yn Gymraeg', 'cy']] as const)
    site = change(site, store, { kind: 'setPageText', pageId: pageCalled(site, label).id, field: 'language', value, was: null }) // prettier-ignore
  return site
}
const said = (site: Site, ...pairs: [string, string | null][]): Site =>
  change(site, store, {
    kind: 'setTranslations',
    pairs: pairs.map(([page, of]) => ({
      pageId: pageCalled(site, page).id,
      ofId: of === null ? null : pageCalled(site, of).id,
    })),
  })
const labels = (pages: readonly Page[]) => pages.map(({ label }) => label)
const sameAs = (site: Site, label: string) => labels(translationsOf(site).of(pageCalled(site, label)))

test('pages are the same in several languages once it is said of two of them at a time', () => {
  let site = said(inThree(), ['Besuch', 'Visit'])
  expect(sameAs(site, 'Visit')).toEqual(['Visit', 'Besuch'])
  expect(translationsOf(site).languages).toEqual(['en', 'de'])
  // In the order of languages, whichever was said first.
  site = said(site, ['Visit', 'Ymweld'])
  for (const label of ['Visit', 'Besuch', 'Ymweld'])
    expect(sameAs(site, label)).toEqual(['Visit', 'Besuch', 'Ymweld'])
  expect(translationsOf(site).inLanguage(pageCalled(site, 'Ymweld'), 'de')?.label).toBe('Besuch')
  // Another one takes the place of the one in its language.
  site = said(site, ['Bleiben', 'Visit'])
  expect(sameAs(site, 'Ymweld')).toEqual(['Visit', 'Bleiben', 'Ymweld'])
  expect(sameAs(site, 'Besuch')).toEqual([])
  // One that leaves takes nobody with it, and what is left of two is one page in its own language.
  site = said(site, ['Visit', null])
  expect(sameAs(site, 'Bleiben')).toEqual(['Bleiben', 'Ymweld'])
  site = said(site, ['Bleiben', null])
  expect([sameAs(site, 'Ymweld'), translationsOf(site).languages]).toEqual([[], []])
})

test('what is no translation is refused, and what has come to be none counts for nothing', () => {
  let site = inThree()
  expect(() => said(site, ['Visit', 'Stay'])).toThrow('Both pages are in English. Say first what one of them is in.') // prettier-ignore
  site = said(site, ['Besuch', 'Visit'], ['Ymweld', 'Visit'])
  const besuch = pageCalled(site, 'Besuch')
  site = change(site, store, { kind: 'setPageText', pageId: besuch.id, field: 'language', value: 'cy', was: null }) // prettier-ignore
  expect(sameAs(site, 'Visit')).toEqual(['Visit', 'Besuch'])
  expect([labels(translationsOf(site).repeated.map(({ page }) => page)), sameAs(site, 'Ymweld')]).toEqual([
    ['Ymweld'],
    [],
  ])
  // A trial page is none of the site, nor one that is gone.
  const trial = change(site, store, { kind: 'setPageFlag', pageIds: [besuch.id], flag: 'trial', value: true })
  expect(sameAs(trial, 'Visit')).toEqual(['Visit', 'Ymweld'])
  const without = change(site, store, { kind: 'removePages', pageIds: [besuch.id] })
  expect(sameAs(without, 'Visit')).toEqual(['Visit', 'Ymweld'])
})

test('a name of a set is never that of another, whoever has left it', () => {
  let site = said(inThree(), ['Besuch', 'Visit'], ['Ymweld', 'Visit'])
  // Begun with it and named by it, Visit leaves; the set goes on, and another begins with Visit.
  site = said(site, ['Visit', null])
  site = said(site, ['Bleiben', 'Visit'])
  expect(sameAs(site, 'Visit')).toEqual(['Visit', 'Bleiben'])
  expect(sameAs(site, 'Besuch')).toEqual(['Besuch', 'Ymweld'])
})

test('whatever is said, the last word holds and each page is one page in each language at most', () => {
  const site = inThree()
  const { of } = languagesOf(site)
  const pick = fc.nat(site.pages.length - 1).map((at) => site.pages[at]!.id)
  const names = fc.constantFrom(null, null, 'a', 'b', site.pages[1]!.id)
  fc.assert(
    fc.property(
      fc.array(fc.record({ pageId: pick, ofId: pick }), { minLength: 1, maxLength: 12 }),
      fc.array(names, { minLength: site.pages.length, maxLength: site.pages.length }),
      (pairs: readonly TranslationPair[], sets) => {
        const before = {
          ...site,
          pages: site.pages.map((page, at) => ({ ...page, translationSet: sets[at]! })),
        }
        const after = { ...site, pages: withTranslations(before, pairs) }
        const { of: sameOf } = translationsOf(after)
        for (const page of after.pages) {
          const same = sameOf(page)
          expect(new Set(same.map(of)).size).toBe(same.length)
          if (same.length > 0) expect(same).toContain(page)
          for (const one of same) expect(sameOf(one)).toEqual(same)
        }
        const last = pairs.findLast(({ pageId, ofId }) => of(byId(after, pageId)) !== of(byId(after, ofId)))
        if (last) expect(sameOf(byId(after, last.pageId))).toContain(byId(after, last.ofId))
        // Said again it is as it was.
        expect(withTranslations({ ...site, pages: withTranslations(after, pairs.slice(-1)) }, pairs.slice(-1))).toEqual(after.pages) // prettier-ignore
      },
    ),
  )
})
const byId = (site: Site, id: string): Page => site.pages.find((page) => page.id === id)!
