import { expect, test } from '@jest/globals'
import { type Change, untranslatedFrom } from '#core/change'
import { applyEdits, readStyle } from '#core/markup'
import { namesOf } from '#core/naming'
import { translationsOf } from '#core/plan'
import type { Site } from '#core/site'
import { buildAll, change, pageCalled, siteFrom, testId, TextStore, write } from '#core/testing'
import { findFindings, type Finding, type FindingSources } from './index'

const store = new TextStore()
const sources: FindingSources = {
  textOf: store.textOf,
  factsOf: store.factsOf,
  styleFactsOf: (hash) => readStyle(store.textOf(hash)),
  fileFactsOf: store.fileFactsOf,
  publicAddresses: [],
}
const by = (rule: string, site: Site) => findFindings(site, sources).filter((one) => one.rule === rule)
const english =
  '<p>The lighthouse stands on a rock in the sea, and people come to it in the summer when the weather is fine. It was built two hundred years ago and it still shines every night, as it was meant to.</p>'
const german =
  '<p>Der Leuchtturm steht auf einem Felsen im Meer, und die Leute kommen im Sommer, wenn das Wetter schön ist. Er wurde vor zweihundert Jahren gebaut und leuchtet noch jede Nacht, auch wenn es stürmt.</p>'

function translated(site: Site, label: string, language: string): Site {
  const { id } = pageCalled(site, label)
  const copied = untranslatedFrom(site, id, language)
  const newIds = Object.fromEntries(copied.map((page) => [page.id, testId()]))
  return change(site, store, { kind: 'translatePages', pageId: id, language, newIds })
}
/** The site after the only mend of a finding. */
function mended(site: Site, { place, mends }: Finding): Site {
  expect(mends).toHaveLength(1)
  const [way] = mends
  if (!('edits' in way!)) return change(site, store, way!.change as Change)
  const source = store.put(applyEdits(store.textOf(way.was), way.edits))
  return change(site, store, { kind: 'setTemplate', templateId: place.id, source, was: way.was })
}
const inLanguage = (site: Site, label: string, value: string | null): Site => {
  const page = pageCalled(site, label)
  return change(site, store, { kind: 'setPageText', pageId: page.id, field: 'language', value, was: page.language }) // prettier-ignore
}

test('copies that are to be translated are told until they are, and as nothing else', () => {
  let site = write(
    siteFrom('Home\n  Visit\n    Ferry', store),
    store,
    'Visit',
    `${english}<p><a href="visit/ferry.html">Ferry</a></p>`,
  )
  expect(by('untranslated', site)).toEqual([])
  site = translated(site, 'Home', 'de')
  expect(by('untranslated', site).map(({ what }) => what)).toEqual([
    'Its text is still that of “Visit” in English, word for word; the page is to be in German.',
  ])
  for (const rule of ['same-text', 'repeated-title', 'other-language', 'unsaid-translations'])
    expect([rule, by(rule, site)]).toEqual([rule, []])
  const copy = translationsOf(site).inLanguage(pageCalled(site, 'Visit'), 'de')!
  site = change(site, store, { kind: 'setContent', pageId: copy.id, content: store.put(german), was: copy.content }) // prettier-ignore
  expect(by('untranslated', site)).toEqual([])
  // The original, and not the copy, is what was there first: a page of its own again is what it says.
  site = change(site, store, { kind: 'setTranslations', pairs: [{ pageId: copy.id, ofId: null }] })
  expect(by('repeated-title', site)).toEqual([])
})

test('a template is made to list languages and to tell search engines, each in one step', () => {
  let site = translated(siteFrom('Home\n  Visit', store), 'Home', 'de')
  const [unlisted, ...others] = by('unlisted-languages', site)
  expect(others).toEqual([])
  expect(unlisted!.what).toBe('4 pages made with this template are there in another language (English, German). Its menus lead to all languages alike.') // prettier-ignore
  site = mended(site, unlisted!)
  expect(by('unlisted-languages', site)).toEqual([])
  expect(store.textOf(site.templates[0]!.source)).toContain(`aria-label="Main"></site-menu>
      <page-languages missing="above" aria-label="Languages"></page-languages>`)
  expect(buildAll(site, store).get('visit.html')).toContain('hreflang="de">Deutsch</a>')
  // There is nothing to tell before the site has an address.
  expect(by('unsaid-alternates', site)).toEqual([])
  site = change(site, store, { kind: 'setSetting', field: 'publicAddress', value: 'https://skerry.example/', was: '' }) // prettier-ignore
  site = mended(site, by('unsaid-alternates', site)[0]!)
  expect(by('unsaid-alternates', site)).toEqual([])
  expect(buildAll(site, store).get('deutsch/visit.html')).toContain('<link rel="alternate" hreflang="en" href="https://skerry.example/visit.html">') // prettier-ignore
})

test('pages that lead to one another by what they hold, or say it themselves in their head, lack nothing', () => {
  let site = translated(siteFrom('Home', store), 'Home', 'de')
  site = change(site, store, { kind: 'setSetting', field: 'publicAddress', value: 'https://skerry.example/', was: '' }) // prettier-ignore
  const count = (rule: string) => by(rule, site).map(({ what }) => what.slice(0, 6))
  site = write(site, store, 'Home', '<a href="/deutsch.html">Deutsch</a><link rel="alternate" hreflang="de" href="/deutsch.html">') // prettier-ignore
  expect([count('unlisted-languages'), count('unsaid-alternates')]).toEqual([['A page'], ['A page']])
  site = write(site, store, 'Deutsch', '<a href="/index.html">English</a>')
  expect([count('unlisted-languages'), count('unsaid-alternates')]).toEqual([[], ['A page']])
  site = write(site, store, 'Deutsch', '<link rel="alternate" hreflang="en" href="/index.html">')
  expect([count('unlisted-languages'), count('unsaid-alternates')]).toEqual([['A page'], []])
})

test('a list of languages goes where a template has room for it', () => {
  const lists = (source: string) => {
    let site = translated(siteFrom('Home', store), 'Home', 'de')
    const own = site.templates[0]!
    site = change(site, store, { kind: 'setTemplate', templateId: own.id, source: store.put(source), was: own.source }) // prettier-ignore
    const [found] = by('unlisted-languages', site)
    return found && found.mends.length > 0 ? store.textOf(mended(site, found).templates[0]!.source) : null
  }
  const part = '<page-languages missing="above" aria-label="Languages"></page-languages>'
  expect(
    lists('<body>\n  <header>\n    <p>x</p>\n  </header>\n  <slot name="content"></slot>\n</body>'),
  ).toBe(
    `<body>\n  <header>\n    ${part}\n    <p>x</p>\n  </header>\n  <slot name="content"></slot>\n</body>`,
  )
  expect(lists('<body>\n  <slot name="content"></slot>\n</body>')).toBe(`<body>\n  ${part}\n  <slot name="content"></slot>\n</body>`) // prettier-ignore
  expect(lists('<p>x</p>\n<slot name="content"></slot>')).toBe(
    `<p>x</p>\n${part}\n<slot name="content"></slot>`,
  )
  // Pages that are whole documents have nothing in front of them.
  expect(lists('<slot name="content"></slot>')).toBeNull()
})

test('a section that looks like the site in another language is said to be it, page by page', () => {
  let site = siteFrom(
    'Home\n  Visit\n    Ferry\n  Gallery\n  Auf Deutsch\n    Besuch\n      Fähre\n    Gallery',
    store,
  )
  site = inLanguage(site, 'Auf Deutsch', 'de')
  const [found, ...more] = by('unsaid-translations', site)
  expect(more).toEqual([])
  expect(found!.what).toBe('4 pages in German look like ones of the site, 2 by no more than where they stand: “Auf Deutsch” like “Home”, “Gallery” like “Gallery”, “Besuch” like “Visit”, “Fähre” like “Ferry”.') // prettier-ignore
  // By place alone it is a guess, made only by who has read it.
  expect(found!.mends[0]).toMatchObject({ isOther: true })
  site = mended(site, found!)
  expect(by('unsaid-translations', site)).toEqual([])
  expect(translationsOf(site).inLanguage(pageCalled(site, 'Ferry'), 'de')?.label).toBe('Fähre')
})

test('what does not stand alike is not taken for the same, nor is one of two sections in one language', () => {
  const guessed = (plan: string, ...german: string[]) => {
    let site = siteFrom(plan, store)
    for (const label of german) site = inLanguage(site, label, 'de')
    return by('unsaid-translations', site).map(({ mends: [way] }) => {
      const { pairs } = (way as { change: Extract<Change, { kind: 'setTranslations' }> }).change
      return pairs.map(({ pageId, ofId }) => [pageId, ofId].map((id) => site.pages.find((page) => page.id === id)!.label).join(' = ')) // prettier-ignore
    })
  }
  expect(guessed('Home\n  Visit\n  Stay\n  Auf Deutsch\n    Besuch', 'Auf Deutsch')).toEqual([])
  expect(guessed('Home\n  Visit\n    A\n  Stay\n  Auf Deutsch\n    Besuch\n    Bleiben', 'Auf Deutsch')).toEqual([]) // prettier-ignore
  // A page by itself is no home page, unless it is called by its language.
  expect(guessed('Home\n  Visit\n  Ein Brief', 'Ein Brief')).toEqual([])
  let called = siteFrom('Home\n  Visit\n  Deutsch', store)
  called = change(called, store, { kind: 'setTranslations', pairs: [{ pageId: pageCalled(called, 'Deutsch').id, ofId: null }] }) // prettier-ignore
  expect(by('unsaid-translations', called).map(({ what }) => what)).toEqual(['1 page in German looks like one of the site: “Deutsch” like “Home”.']) // prettier-ignore
  expect(guessed('Home\n  Visit\n  Briefe\n  Gäste', 'Briefe', 'Gäste')).toEqual([])
  // A page in the site's own language, called by it: the home page only leads on.
  expect(guessed('Home\n  English\n    Visit\n  Auf Deutsch\n    Besuch', 'Auf Deutsch')).toEqual([['Auf Deutsch = English', 'Besuch = Visit']]) // prettier-ignore
})

test('two pages that have come to be in one language are told, and one leaves', () => {
  let site = inLanguage(siteFrom('Home\n  Visit\n  Besuch\n  Ymweld', store), 'Besuch', 'de')
  site = inLanguage(site, 'Ymweld', 'cy')
  const pair = (page: string, of: string) => ({
    pageId: pageCalled(site, page).id,
    ofId: pageCalled(site, of).id,
  })
  site = change(site, store, { kind: 'setTranslations', pairs: [pair('Besuch', 'Visit'), pair('Ymweld', 'Visit')] }) // prettier-ignore
  site = inLanguage(site, 'Ymweld', 'de')
  const [found] = by('repeated-translation', site)
  expect(found!.what).toBe('It and “Besuch” are both said to be the same page in German; that one counts.')
  site = mended(site, found!)
  expect(by('repeated-translation', site)).toEqual([])
  expect(namesOf(site).pages.size).toBe(4)
})

test('an original that is changed after it was translated is told, whatever else stays, until it is said that they say the same', () => {
  let site = write(siteFrom('Home\n  Visit\n    Ferry', store), store, 'Visit', english)
  site = translated(site, 'Home', 'de')
  const original = () => pageCalled(site, 'Visit')
  const copyOf = () => translationsOf(site).inLanguage(original(), 'de')!
  const rewrite = (id: string, html: string) => {
    const was = site.pages.find((page) => page.id === id)!.content
    site = change(site, store, { kind: 'setContent', pageId: id, content: store.put(html), was })
  }
  // What nobody has translated yet is told as that, also where its original goes on.
  rewrite(original().id, `${english}<p>Dogs are welcome.</p>`)
  expect(by('untranslated', site).map(({ place, what }) => [place.id, what])).toEqual([
    [
      copyOf().id,
      'Its text is still that of “Visit” in English as it was before it was changed; the page is to be in German.',
    ],
  ])
  expect(by('changed-original', site)).toEqual([])
  const anew = mended(site, by('untranslated', site)[0]!)
  expect(store.textOf(anew.pages.find(({ id }) => id === copyOf().id)!.content)).toBe(
    `${english}<p>Dogs are welcome.</p>`,
  )
  expect(by('untranslated', anew).map(({ what }) => what)).toEqual([
    'Its text is still that of “Visit” in English, word for word; the page is to be in German.',
  ])
  rewrite(copyOf().id, german)
  const told = 'in English was changed after this was translated from it.'
  expect(by('changed-original', site).map(({ what, place }) => [place.id, what])).toEqual([[copyOf().id, `“Visit” ${told}`]]) // prettier-ignore
  expect(by('untranslated', site)).toEqual([])

  site = mended(site, by('changed-original', site)[0]!)
  expect(by('changed-original', site)).toEqual([])
  // Links that follow a name, and tags, say nothing.
  rewrite(original().id, `${english}\n<p class="note">Dogs are <a href="visit/ferry.html">welcome</a>.</p>`)
  site = change(site, store, { kind: 'setPageText', pageId: pageCalled(site, 'Ferry').id, field: 'label', value: 'The ferry', was: 'Ferry' }) // prettier-ignore
  expect(by('changed-original', site)).toEqual([])
  rewrite(original().id, english)
  expect(by('changed-original', site)).toHaveLength(1)
  // Nothing is held against a page that it is no translation of any more.
  const apart = change(site, store, { kind: 'setTranslations', pairs: [{ pageId: copyOf().id, ofId: null }] })
  expect(by('changed-original', apart)).toEqual([])
  // Said to be the same again, they say the same.
  const again = change(apart, store, { kind: 'setTranslations', pairs: [{ pageId: original().id, ofId: copyOf().id }] }) // prettier-ignore
  expect(by('changed-original', again)).toEqual([])
  expect(again.pages.find(({ id }) => id === copyOf().id)!.translatedFrom!.ofId).toBe(original().id)
})

test('a copy that was made before its original was written takes what that says', () => {
  let site = translated(siteFrom('Home\n  Visit', store), 'Home', 'de')
  expect(by('changed-original', site)).toEqual([])
  site = write(site, store, 'Visit', english)
  const [told, ...more] = by('changed-original', site)
  expect([told!.what, more]).toEqual(['“Visit” in English has a text now, and this copy of it none.', []])
  site = mended(site, told!)
  expect(by('changed-original', site)).toEqual([])
  expect(by('untranslated', site).map(({ place }) => place.id)).toEqual([told!.place.id])
})
