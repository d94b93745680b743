import { expect, test } from '@jest/globals'
import fc from 'fast-check'
import { type Change, untranslatedFrom } from '#core/change'
import { namesOf } from '#core/naming'
import { languagesOf, outlineOfSite, translationsOf, writeOutline } from '#core/plan'
import type { Site } from '#core/site'
import { brokenReferences, buildAll, change, editWhole, pageCalled, siteFrom, testId, TextStore, write } from '#core/testing' // prettier-ignore
import { buildSite } from './index'

const template = `<!DOCTYPE html>
<html lang="{language}" dir="{direction}">
  <head>
    <meta charset="utf-8">
    <title>{title}</title>
    <link rel="alternate" hreflang="{translation.language}" href="{translation.address}">
  </head>
  <body>
    <p><a href="/">{site}</a></p>
    <site-menu levels="2" home="first"></site-menu>
    <site-trail></site-trail>
    <page-languages aria-label="Languages"></page-languages>
    <slot name="content"></slot>
    <page-neighbours></page-neighbours>
    <site-menu class="side" of="section"></site-menu>
  </body>
</html>
`
const plan = 'Skerry\n  Visit\n    Ferry\n  Stay\n  Sketch'

function start(store: TextStore): Site {
  let site = siteFrom(plan, store, 'Skerry')
  site = change(site, store, {
    kind: 'setPageFlag',
    pageIds: [pageCalled(site, 'Sketch').id],
    flag: 'trial',
    value: true,
  })
  const own = site.templates[0]!
  return change(site, store, { kind: 'setTemplate', templateId: own.id, source: store.put(template), was: own.source }) // prettier-ignore
}
function translation(site: Site, label: string, language: string): Change {
  const { id } = pageCalled(site, label)
  const copied = untranslatedFrom(site, id, language)
  return { kind: 'translatePages', pageId: id, language, newIds: Object.fromEntries(copied.map((page) => [page.id, testId()])) } // prettier-ignore
}
const renamed = (site: Site, store: TextStore, pageId: string, value: string) =>
  change(site, store, { kind: 'setPageText', pageId, field: 'label', value, was: site.pages.find(({ id }) => id === pageId)!.label }) // prettier-ignore
/** Whole addresses, as search engines are told them, lead out of the files. */
const broken = (files: Map<string, string>) =>
  brokenReferences(files).filter((one) => !one.includes('https:'))
const outline = (site: Site) => writeOutline(outlineOfSite(site))
const navOf = (html: string, name: string) => html.match(new RegExp(` *<nav class="${name}"[^]*?</nav>`))?.[0]

test('a site that is put into another language has each page in both, and each is found from the other', () => {
  const store = new TextStore()
  let site = write(
    start(store),
    store,
    'Visit',
    '<a href="../stay.html">Stay</a> <a href="/index.html">Home</a>',
  )
  site = change(site, store, translation(site, 'Skerry', 'de'))
  expect(outline(site)).toBe(
    'Skerry\n  Visit\n    Ferry\n  Stay\n  Deutsch\n    Visit\n      Ferry\n    Stay\n  Sketch (trial page)\n',
  )
  const [, copied] = site.pages.filter(({ label }) => label === 'Visit')
  site = renamed(site, store, copied!.id, 'Besuch')
  site = change(site, store, { kind: 'setSetting', field: 'publicAddress', value: 'https://skerry.example/', was: '' }) // prettier-ignore
  const files = buildAll(site, store)
  expect(broken(files)).toEqual([])
  const [english, german] = [files.get('visit/index.html')!, files.get('deutsch/besuch/index.html')!]
  // Said to search engines on either side, itself among them (HTML §4.6.7.1).
  const alternates = `    <link rel="alternate" hreflang="en" href="https://skerry.example/visit/">
    <link rel="alternate" hreflang="de" href="https://skerry.example/deutsch/besuch/">
`
  expect(english).toContain(alternates)
  expect(german).toContain(alternates)
  expect(navOf(english, 'page-languages')).toBe(`    <nav class="page-languages" aria-label="Languages">
      <ul>
        <li><a aria-current="page">English</a></li>
        <li><a href="../deutsch/besuch/index.html" lang="de" hreflang="de">Deutsch</a></li>
      </ul>
    </nav>`)
  // Menus, trails, sections and neighbours keep to the page's language.
  expect(navOf(german, 'site-menu')).toBe(`    <nav class="site-menu">
      <ul>
        <li><a href="../index.html" aria-current="true">Deutsch</a></li>
        <li>
          <a aria-current="page">Besuch</a>
          <ul>
            <li><a href="ferry.html">Ferry</a></li>
          </ul>
        </li>
        <li><a href="../stay.html">Stay</a></li>
      </ul>
    </nav>`)
  expect(navOf(english, 'site-menu')).not.toContain('Deutsch')
  expect(navOf(german, 'site-trail')).not.toContain('Skerry')
  expect(navOf(files.get('deutsch/besuch/ferry.html')!, 'side')).toContain('Ferry')
  expect(navOf(files.get('stay.html')!, 'page-neighbours')).not.toContain('Deutsch')
  expect(navOf(files.get('deutsch/index.html')!, 'site-trail')).toBeUndefined()
  expect(german).toContain('<p><a href="../index.html">Skerry</a></p>')
  // What the original says is there to be translated, and leads to what is in its language.
  expect(german).toContain('<a href="../stay.html">Stay</a> <a href="../index.html">Home</a>')
  expect(english).toContain('<a href="../stay.html">Stay</a> <a href="../index.html">Home</a>')
})

test('what is not translated is not said to be, or leads to the nearest page above that is', () => {
  const store = new TextStore()
  let site = start(store)
  site = change(site, store, translation(site, 'Skerry', 'de'))
  const [, stay] = site.pages.filter(({ label }) => label === 'Stay')
  site = change(site, store, { kind: 'removePages', pageIds: [stay!.id] })
  const alone = buildAll(site, store).get('stay.html')!
  expect([navOf(alone, 'page-languages'), alone.includes('alternate')]).toEqual([undefined, false])
  const own = site.templates[0]!
  const above = store.put(template.replace('<page-languages', '<page-languages missing="above" labels="tags" own="omit"')) // prettier-ignore
  site = change(site, store, { kind: 'setTemplate', templateId: own.id, source: above, was: own.source })
  expect(navOf(buildAll(site, store).get('stay.html')!, 'page-languages')).toContain('<li><a href="deutsch/index.html" lang="de" hreflang="de">de</a></li>\n      </ul>') // prettier-ignore
  // What has been left is put into it at its place; what is there already is where its links lead.
  site = write(site, store, 'Stay', '<a href="visit/ferry.html">x</a>')
  site = change(site, store, translation(site, 'Stay', 'de'))
  expect(outline(site)).toContain('  Deutsch\n    Visit\n      Ferry\n    Stay\n')
  expect(buildAll(site, store).get('deutsch/stay.html')).toContain('<a href="visit/ferry.html">x</a>')
  expect(untranslatedFrom(site, site.homeId, 'de')).toEqual([])
})

test('a section in a language, said to be nothing, is where pages in it are put; a page by itself is none', () => {
  const store = new TextStore()
  const spoken = (label: string): Site => {
    const site = start(store)
    const page = pageCalled(site, label)
    return change(site, store, {
      kind: 'setPageText',
      pageId: page.id,
      field: 'language',
      value: 'de',
      was: null,
    })
  }
  let site = spoken('Visit')
  site = change(site, store, translation(site, 'Stay', 'de'))
  expect(outline(site)).toBe('Skerry\n  Visit\n    Ferry\n    Stay\n  Stay\n  Sketch (trial page)\n')
  expect(translationsOf(site).inLanguage(pageCalled(site, 'Skerry'), 'de')?.label).toBe('Visit')
  site = spoken('Stay')
  site = change(site, store, translation(site, 'Skerry', 'de'))
  expect(outline(site)).toContain('  Stay\n  Deutsch\n    Visit\n      Ferry\n  Sketch')
})

test('a language in other letters than addresses have is called by its tag there', () => {
  const store = new TextStore()
  let site = start(store)
  for (const language of ['ar', 'zh-Hant']) site = change(site, store, translation(site, 'Skerry', language))
  const paths = [...namesOf(site).byPath.keys()]
  expect(paths).toContain('ar/visit/index.html')
  expect(paths).toContain('zh-hant/visit/index.html')
  expect(outline(site)).toContain('\n  العربية\n    Visit\n')
})

test('ids that nobody asked for make nothing, and a copy in the same language is another page', () => {
  const store = new TextStore()
  let site = start(store)
  const asked = translation(site, 'Stay', 'de') as Extract<Change, { kind: 'translatePages' }>
  const visit = pageCalled(site, 'Visit')
  site = change(site, store, {
    ...asked,
    newIds: { ...asked.newIds, [visit.id]: testId(), [site.homeId]: testId() },
  })
  expect(outline(site)).toBe('Skerry\n  Visit\n    Ferry\n  Stay\n  Stay\n  Sketch (trial page)\n')
  const stay = pageCalled(site, 'Stay')
  site = change(site, store, { kind: 'duplicatePages', pageIds: [stay.id], newIds: { [stay.id]: testId() } })
  expect(translationsOf(site).of(pageCalled(site, 'Stay (copy)'))).toEqual([])
  expect(translationsOf(site).repeated).toEqual([])
})

test('where a template lists no languages, its menus lead to all of them', () => {
  const store = new TextStore()
  let site = start(store)
  const own = site.templates[0]!
  const without = store.put(template.replace(/ *<page-languages.*\n/, ''))
  site = change(site, store, { kind: 'setTemplate', templateId: own.id, source: without, was: own.source })
  site = change(site, store, translation(site, 'Skerry', 'de'))
  const files = buildAll(site, store)
  expect(navOf(files.get('visit/index.html')!, 'site-menu')).toContain('Deutsch')
  expect(navOf(files.get('deutsch/visit/ferry.html')!, 'site-menu')).toContain('>Skerry</a>')
  expect(navOf(files.get('deutsch/visit/ferry.html')!, 'site-trail')).toContain('>Skerry</a>')
})

test('with no address of the site nothing is said to search engines, and two ways of one language are told apart', () => {
  const store = new TextStore()
  let site = start(store)
  for (const language of ['en-GB', 'ar']) site = change(site, store, translation(site, 'Skerry', language))
  const html = buildAll(site, store).get('index.html')!
  expect(html).not.toContain('alternate')
  expect(navOf(html, 'page-languages')).toContain('<a href="english/index.html" lang="en-GB" hreflang="en-GB">English (en-GB)</a>') // prettier-ignore
  expect(navOf(html, 'page-languages')).toContain('lang="ar" dir="rtl" hreflang="ar">العربية</a>')
})

test('whatever is said of languages, equal signatures are equal texts, and each page is made alike in any order', () => {
  const step = fc.record({ what: fc.nat(4), pick: fc.nat(), other: fc.nat() })
  fc.assert(
    fc.property(fc.array(step, { minLength: 1, maxLength: 6 }), (steps) => {
      const store = new TextStore()
      let site: Site = { ...start(store), publicAddress: 'https://skerry.example/' }
      site = change(site, store, translation(site, 'Skerry', 'de'))
      const build = (of: Site) => buildSite(of, { textOf: store.textOf, factsOf: store.factsOf, year: 2031 })
      for (const { what, pick, other } of steps) {
        const [page, second] = [site.pages[pick % site.pages.length]!, site.pages[other % site.pages.length]!]
        const changes: Change[] = [
          { kind: 'setTranslations', pairs: [{ pageId: page.id, ofId: second.id }] },
          { kind: 'setTranslations', pairs: [{ pageId: page.id, ofId: null }] },
          { kind: 'setPageText', pageId: page.id, field: 'language', value: languagesOf(site).of(page) === 'de' ? 'en' : 'de', was: page.language },
          { kind: 'movePages', pageIds: [page.id], parentId: second.id, after: null },
          { kind: 'translatePages', pageId: page.id, language: 'cy', newIds: Object.fromEntries(untranslatedFrom(site, page.id, 'cy').map(({ id }) => [id, testId()])) },
        ] // prettier-ignore
        const edited = editWhole(site, changes[what]!)
        if ('refusal' in edited) continue
        const after = change(site, store, changes[what]!)
        const [one, two] = [build(site), build(after)]
        const paths = namesOf(after).pages
        for (const { id } of site.pages) {
          if (!paths.has(id)) continue
          if (one.signatureOf(id) === two.signatureOf(id)) expect(two.textOf(id)).toBe(one.textOf(id))
        }
        const files = buildAll(after, store)
        expect(broken(files)).toEqual([])
        const backwards = build({ ...after, pages: [...after.pages] })
        for (const { id, path } of backwards.entries.toReversed()) {
          expect([path, backwards.textOf(id)]).toEqual([path, files.get(path)])
          if (paths.has(id)) expect(backwards.traceOf(id).text).toBe(files.get(path))
        }
        for (const page of after.pages)
          for (const same of translationsOf(after).of(page)) expect(files.get(paths.get(same.id)!.path)).toContain('page-languages') // prettier-ignore
        site = after
      }
    }),
    { numRuns: 60 },
  )
})
