import { expect, test } from '@jest/globals'
import { outlineOfSite, translationsOf, writeOutline } from '#core/plan'
import type { Site } from '#core/site'
import { TextStore } from '#core/testing'
import { bring as bringIn } from '../testing/bringing'

const store = new TextStore()
const bring = (some: Record<string, string>) => bringIn(some, store)

const english =
  'The lighthouse stands on a rock in the sea, and people come to it in the summer when the weather is fine.'
const german =
  'Der Leuchtturm steht auf einem Felsen im Meer, und die Leute kommen im Sommer, wenn das Wetter schön ist.'
const names = {
  en: ['index', 'visit', 'birds', 'times'],
  de: ['index', 'anfahrt', 'voegel', 'zeiten'],
} as const
const labels = {
  en: ['Home', 'Visit', 'Birds', 'Times'],
  de: ['Startseite', 'Anfahrt', 'Vögel', 'Zeiten'],
} as const

/** A site in two folders, each with its menu. */
function files(
  said: (at: number, own: 'en' | 'de', other: 'en' | 'de') => { readonly head?: string; readonly body?: string },
) {
  const made: Record<string, string> = {}
  for (const [own, other] of [['en', 'de'], ['de', 'en']] as const)
    for (const [at, name] of names[own].entries()) {
      const menu = names[own].map((one, index) => `<li><a href="${one}.html">${labels[own][index]}</a></li>`).join('')
      const { head = '', body = '' } = said(at, own, other)
      made[`${own}/${name}.html`] = `<!DOCTYPE html>
<html lang="${own}">
<head><meta charset="utf-8"><title>${labels[own][at]} - Tern Rock</title>${head}</head>
<body>
<div id="head">${body}<ul class="nav">${menu}</ul></div>
<div id="main"><h1>${labels[own][at]}</h1><p>${own === 'en' ? english : german} ${at}</p></div>
</body>
</html>
`
    }
  return made
} // prettier-ignore

const pairs = (site: Site) =>
  site.pages.flatMap((page) => {
    const [first, ...more] = translationsOf(site).of(page)
    return first === page ? [[page, ...more].map(({ label }) => label).join(' = ')] : []
  })
const all = ['Anfahrt = Visit', 'Startseite = Home', 'Vögel = Birds', 'Zeiten = Times']
const name = { en: 'English', de: 'Deutsch' }
const to = (other: 'en' | 'de', at: number) => `../${other}/${names[other][at]}.html`

test('pages that lead to one another as languages are called are one page in several', () => {
  const { site } = bring(
    files((at, _, other) => ({ body: `<p><a href="${to(other, at)}">${name[other]}</a></p>` })),
  )
  expect(pairs(site).sort()).toEqual(all)
  // They are taken to say the same, in either direction none but the translation.
  const byId = new Map(site.pages.map((page) => [page.id, page]))
  const held = site.pages.flatMap(({ label, translatedFrom: from }) =>
    from ? [[label, byId.get(from.ofId)!.label, from.content === byId.get(from.ofId)!.content]] : [],
  )
  const [mine, others] = site.language === 'en' ? (['de', 'en'] as const) : (['en', 'de'] as const)
  expect(held.sort()).toEqual(labels[mine].map((label, at) => [label, labels[others][at], true]).sort())
})

test('what heads say to search engines is as good, and so are tags and what links say of theirs', () => {
  const alternate = files((at, _, other) => ({ head: `<link rel="alternate" hreflang="${other}-XX" href="${to(other, at)}"><link rel=alternate hreflang=x-default href="${to('en', at)}">` })) // prettier-ignore
  expect(pairs(bring(alternate).site).sort()).toEqual(all)
  const tags = files((at, _, other) => ({ body: `<a href="${to(other, at)}">${other.toUpperCase()}</a>` }))
  expect(pairs(bring(tags).site).sort()).toEqual(all)
  const flags = files((at, _, other) => ({ body: `<a hreflang=${other} href="${to(other, at)}"><img src="f.gif" alt=""></a>` })) // prettier-ignore
  expect(pairs(bring(flags).site).sort()).toEqual(all)
})

test('a way to the home page in another language says it of that alone', () => {
  const { site } = bring(files((_, __, other) => ({ body: `<a href="${to(other, 0)}">${name[other]}</a>` })))
  expect(pairs(site)).toEqual(['Startseite = Home'])
})

test('a list of languages that every page has becomes the part, with what it is called and what it leaves out', () => {
  const listed = (own: 'en' | 'de', at: number, marks: boolean) =>
    (['en', 'de'] as const)
      .filter((one) => marks || one !== own)
      .map((one) =>
        one === own ? `<li>${name[one]}</li>` : `<li><a href="${to(one, at)}">${name[one]}</a></li>`,
      )
      .join('')
  for (const marks of [true, false]) {
    const understood = bring(
      files((at, own) => ({ body: `<ul class="lang">${listed(own, at, marks)}</ul>` })),
    )
    const { site } = understood
    const source = store.textOf(site.templates[0]!.source)
    expect(source).toContain(marks ? '<page-languages order="en de" as="list" class="lang"></page-languages>' : '<page-languages own="omit" as="list" class="lang"></page-languages>') // prettier-ignore
    // What it is beside it keeps to the language of each page.
    expect(source).toContain(
      '<site-menu levels="1" own="mark" home="first" as="list" class="nav"></site-menu>',
    )
  }
})

test('ways to another language make no plan, and call no page', () => {
  const { site } = bring(
    files((at, _, other) => ({ body: `<p><a href="${to(other, at)}">${name[other]}</a></p>` })),
  )
  expect(writeOutline(outlineOfSite(site))).toBe(
    'Startseite\n  Home\n    Visit\n    Birds\n    Times\n  Anfahrt\n  Vögel\n  Zeiten\n',
  )
})

test('pages in each language share a menu of theirs, and what is not in it is left out of it', () => {
  const some = files((at, _, other) => ({ body: `<p><a href="${to(other, at)}">${name[other]}</a></p>` }))
  const draft = some['en/visit.html']!.replaceAll('Visit -', 'Draft -').replace('<h1>Visit', '<h1>Draft')
  const { site } = bring({ ...some, 'en/draft.html': draft.replace(/<p><a.*?<\/p>/, '') })
  expect(writeOutline(outlineOfSite(site))).toBe(
    'Startseite\n  Home\n    Visit\n    Birds\n    Times\n    Draft (not in menus)\n  Anfahrt\n  Vögel\n  Zeiten\n',
  )
  // Wherever the list of languages stays as it is, the menus keep to the language by themselves.
  const sources = site.templates.map(({ source }) => store.textOf(source))
  for (const source of sources)
    expect(source).toMatch(
      /<site-menu levels="1" of="(section|language)" own="mark" home="first" as="list" class="nav">/,
    )
})
