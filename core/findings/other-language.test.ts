import { describe, expect, test } from '@jest/globals'
import type { Change } from '#core/change'
import { applyEdits, readStyle } from '#core/markup'
import { buildAll, change, pageCalled, siteFrom, testId, TextStore, write } from '#core/testing'
import { checkSite, type Site } from '#core/site'
import { findFindings, type Finding, type FindingSources } from './index'

const german =
  '<p>Der Leuchtturm steht auf einem Felsen im Meer, und die Leute kommen im Sommer, wenn das Wetter schön ist. Er wurde vor zweihundert Jahren gebaut und leuchtet noch jede Nacht, auch wenn es stürmt.</p>'
const english =
  '<p>The lighthouse stands on a rock in the sea, and people come to it in the summer when the weather is fine. It was built two hundred years ago and it still shines every night, as it was meant to.</p>'
const hebrew =
  '<p>המגדלור עומד על סלע בים, ואנשים באים אליו בקיץ כאשר מזג האוויר נאה. הוא נבנה לפני מאתיים שנה.</p>'

const store = new TextStore()
const sources: FindingSources = {
  textOf: store.textOf,
  factsOf: store.factsOf,
  styleFactsOf: (hash) => readStyle(store.textOf(hash)),
  fileFactsOf: store.fileFactsOf,
  publicAddresses: [],
}
const by = (rule: string, site: Site) => findFindings(site, sources).filter((one) => one.rule === rule)
const siteOf = (texts: Readonly<Record<string, string>>): Site =>
  Object.entries(texts).reduce(
    (site, [label, text]) => write(site, store, label, text),
    siteFrom(Object.keys(texts).join('\n  '), store),
  )
const withSource = (site: Site, edit: (source: string) => string, id = site.templates[0]!.id): Site => {
  const template = site.templates.find((one) => one.id === id)
  const source = store.put(edit(store.textOf(template!.source)))
  return change(site, store, { kind: 'setTemplate', templateId: template!.id, source, was: template!.source })
}
/** The site after the one mend of a finding. */
const mended = (site: Site, { place, mends }: Finding): Site => {
  expect(mends).toHaveLength(1)
  const [way] = mends
  if (!('edits' in way!)) return change(site, store, way!.change as Change)
  const text = applyEdits(store.textOf(way.was), way.edits)
  if (place.kind === 'template') return withSource(site, () => text, place.id)
  return write(site, store, site.pages.find(({ id }) => id === place.id)!.label, text)
}

type Edits = Extract<Finding['mends'][number], { edits: unknown }>
const copyOf = ({ mends: [way] }: Finding) => (way as Edits | undefined)?.copy
/** The site with the copy that a finding offers, as a window makes it. */
function copied(site: Site, { place, mends: [way] }: Finding): Site {
  const { edits, was, copy } = way as Edits
  const { name, forPages, rebased, copies } = copy!
  const source = store.put(applyEdits(store.textOf(was), edits))
  const { basedOn } = site.templates.find(({ id }) => id === place.id)!
  return change(site, store, { kind: 'addTemplate', templateId: testId(), name, source, basedOn, forPages, rebased, copies: copies.map((one) => ({ ...one, templateId: testId() })) })
} // prettier-ignore

test('a site that most pages of are in another language than it says can say so', () => {
  const site = siteOf({ Home: german, Anfahrt: german, Visit: english, Log: '<p>Bell 1</p>' })
  const [found, ...more] = by('other-language', site)
  expect(more).toEqual([])
  expect(found!.what).toBe(
    'The texts of 2 pages are in German, and the site says that pages are in English (en).',
  )
  const after = mended(site, found!)
  expect([after.language, checkSite(after)]).toEqual(['de', []])
  // Then the one in English is the one that has to say so.
  const [other] = by('other-language', after)
  expect([other!.place.id, other!.what]).toEqual([
    pageCalled(after, 'Visit').id,
    'Its text is in English, and the page says that it is in German (de).',
  ])
  expect(by('other-language', mended(after, other!))).toEqual([])
})

test('a page beside others is in a language of its own, with the way it is written', () => {
  const site = siteOf({ Home: english, Visit: english, Migdalor: hebrew })
  const [found] = by('other-language', site)
  const after = mended(site, found!)
  expect([pageCalled(after, 'Migdalor').language, by('other-language', after)]).toEqual(['he', []])
  // One template for both ways says on each page which it is.
  const [direction] = by('no-direction', after)
  expect(direction!.what).toBe(
    'The “html” of this template has no “dir”; Hebrew (he) is written from right to left.',
  )
  const directed = mended(after, direction!)
  expect(store.textOf(directed.templates[0]!.source)).toContain('<html lang="{language}" dir="{direction}">')
  expect(by('no-direction', directed)).toEqual([])
})

test('a page with others below it that are in the language of the site marks its text', () => {
  const plan = siteFrom('Home\n  Gäste\n    Guests', store)
  const site = write(write(plan, store, 'Gäste', german), store, 'Guests', english)
  const [found, ...more] = by('other-language', site)
  expect(more).toEqual([])
  const after = mended(site, found!)
  expect(store.textOf(pageCalled(after, 'Gäste').content)).toBe(`<div lang="de">\n${german}\n</div>`)
  expect(by('other-language', after)).toEqual([])
})

describe('a section in another language', () => {
  const plan =
    'Home\n  Visit\n  Birds\n  Gäste\n    Anfahrt\n    Über uns\n    Log\n      Wetter\n  Notes\n    Gast'
  const site = Object.entries({
    Home: english,
    Visit: english,
    Birds: english,
    Anfahrt: german,
    'Über uns': german,
    Wetter: german,
    Notes: english,
    Gast: german,
  }).reduce((all, [label, text]) => write(all, store, label, text), siteFrom(plan, store))

  test('is told once, as high in the plan as it holds, and says so for all its pages', () => {
    const found = by('other-language', site)
    expect(
      found.map(({ place, what }) => [site.pages.find(({ id }) => id === place.id)!.label, what]),
    ).toEqual([
      [
        'Gäste',
        'From here on the texts of 3 pages are in German, and they say that they are in English (en).',
      ],
      ['Gast', 'Its text is in German, and the page says that it is in English (en).'],
    ])
    const after = found.reduce(mended, site)
    expect(by('other-language', after)).toEqual([])
    expect(after.pages.filter(({ language }) => language !== null).map(({ label }) => label)).toEqual([
      'Gäste',
      'Gast',
    ])
  })

  test('says nothing of many pages that nobody knows', () => {
    const quiet = ['Log', 'Wetter', 'Anfahrt'].reduce(
      (all, label) => write(all, store, label, '<p>Bell 1</p>'),
      write(site, store, 'Gäste', '<p>Bell 2</p>'),
    )
    const labels = by('other-language', quiet).map(
      ({ place }) => quiet.pages.find(({ id }) => id === place.id)!.label,
    )
    expect(labels).toEqual(['Über uns', 'Gast'])
  })

  test('has a template of its own for words that are right on other pages', () => {
    const [section] = by('other-language', site)
    const inGerman = mended(site, section!)
    const [found] = by('template-words', inGerman)
    expect(found!.what.replace(/, and \d more in such words/, '')).toBe(
      'It says “Skip to the content”; some of its pages are in German.',
    )
    expect(copyOf(found!)).toEqual({
      name: 'Shared template in German',
      forPages: [pageCalled(site, 'Gäste').id],
      rebased: [],
      copies: [],
    })
    const after = copied(inGerman, found!)
    expect(checkSite(after)).toEqual([])
    expect(by('template-words', after)).toEqual([])
    const built = buildAll(after, store)
    expect(built.get('gaeste/log/wetter.html')).toContain('>Zum Inhalt springen</a>')
    expect(built.get('notes/gast.html')).toContain('>Skip to the content</a>')
  })
})

describe('a template that another is based on', () => {
  const notices =
    '<template slot="content"><aside aria-label="Notices"></aside><slot name="content"></slot></template>'
  const plan = 'Home\n  Visit\n  Deutsch\n    Anfahrt\n  Français\n    Accès'
  /** Pages of the site made with what is based on the template that has the head. */
  const based = (site: Site, ...labels: string[]) => {
    const [head] = site.templates
    const forPages = labels.map((label) => pageCalled(site, label).id)
    return change(site, store, {
      kind: 'addTemplate',
      templateId: `of ${labels[0]}`,
      name: `Of ${labels[0]}`,
      basedOn: head!.id,
      source: store.put(notices),
      forPages,
    })
  }
  const first = (site: Site, language: string) =>
    by('template-words', site).find(
      ({ what, mends }) => what.includes(language) && mends.some(({ isOther }) => !isOther),
    )

  test('has a copy for a section, and what is based on it for that section alone is based on that', () => {
    const site = based(siteFrom(plan, store), 'Deutsch')
    const [head] = site.templates
    const found = by('template-words', site).find(
      ({ place, what }) => place.id === head!.id && what.includes('German'),
    )!
    expect(copyOf(found)).toEqual({
      name: 'Shared template in German',
      forPages: [],
      rebased: ['of Deutsch'],
      copies: [],
    })
    const after = copied(site, found)
    expect(after.templates.find(({ id }) => id === 'of Deutsch')!.basedOn).not.toBe(head!.id)
    expect(buildAll(after, store).get('deutsch/anfahrt.html')).toContain('>Zum Inhalt springen</a>')
  })

  test('has copies of what is based on it for others as well, until nothing is said in another language', () => {
    let site = based(siteFrom(plan, store), 'Home', 'Visit', 'Deutsch', 'Français')
    for (const language of ['German', 'French']) {
      for (let mends = 0; mends < 5; mends++) {
        const found = first(site, language)
        if (!found) break
        site = copyOf(found) ? copied(site, found) : mended(site, found)
        expect(checkSite(site)).toEqual([])
      }
    }
    expect(by('template-words', site)).toEqual([])
    const built = buildAll(site, store)
    expect(built.get('deutsch/anfahrt.html')).toMatch(/>Zum Inhalt springen<[^]*aria-label="Aushänge"/)
    expect(built.get('francais/acces.html')).toMatch(/>Aller au contenu<[^]*<aside/)
    expect(built.get('visit.html')).toMatch(/>Skip to the content<[^]*aria-label="Notices"/)
    expect(site.templates.map(({ name }) => name)).toEqual([
      'Shared template', 'Of Home', 'Shared template in German', 'Of Home in German', 'Shared template in French', 'Of Home in French',
    ])
  }) // prettier-ignore
})

test('what a template says itself is mended there', () => {
  const site = withSource(siteOf({ Home: german }), (source) => source.replace('"{language}"', 'en-GB'))
  const [found] = by('other-language', site)
  expect(found!.what).toContain('British English (en-GB)')
  const after = mended(site, found!)
  expect(store.textOf(after.templates[0]!.source)).toContain('<html lang="de">')
  expect(by('other-language', after)).toEqual([])
})

test('trial pages are nobody’s business, and their texts are not asked for', () => {
  const plan = 'Home\n  Visit\n  Versuch (trial page)\n    Turm'
  const site = Object.entries({ Home: english, Visit: german, Versuch: german, Turm: german }).reduce(
    (all, [label, text]) => write(all, store, label, `${text}${label}`),
    siteFrom(plan, store),
  )
  const trials = new Set(['Versuch', 'Turm'].map((label) => pageCalled(site, label).content))
  const factsOf = (hash: string) => {
    expect(trials.has(hash)).toBe(false)
    return store.factsOf(hash)
  }
  const found = findFindings(site, { ...sources, factsOf }).filter(({ rule }) => rule === 'other-language')
  expect(found.map(({ place }) => place.id)).toEqual([pageCalled(site, 'Visit').id])
})

test('parts that say their own language, code and short texts are no finding', () => {
  const texts = [
    `${english}<blockquote lang="de">${german}${german}</blockquote>`,
    `<pre>${german.replaceAll(/<\/?p>/g, '')}</pre>`,
    '<p>Der Turm und die Glocke</p>',
    `${german}${english}`,
  ]
  for (const text of texts) expect([text, by('other-language', siteOf({ Home: text }))]).toEqual([text, []])
  // Of a template without a language another rule tells.
  expect(
    by(
      'other-language',
      withSource(siteOf({ Home: german }), (s) => s.replace(' lang="{language}"', '')),
    ),
  ).toEqual([])
})

test('words that a template was shipped with follow the language of the site', () => {
  const site = siteOf({ Home: german })
  expect(by('template-words', site)).toEqual([])
  const inGerman = mended(site, by('other-language', site)[0]!)
  const [found] = by('template-words', inGerman)
  expect(found!.what).toMatch(
    /^It says “Skip to the content”, and \d more in such words; the site is in German\.$/,
  )
  const said = mended(inGerman, found!)
  expect(store.textOf(said.templates[0]!.source)).toContain('>Zum Inhalt springen</a>')
  expect(by('template-words', said)).toEqual([])
  // And back, from the words of any language.
  const french = change(said, store, { kind: 'setSetting', field: 'language', value: 'fr', was: 'de' })
  expect(store.textOf(mended(french, by('template-words', french)[0]!).templates[0]!.source)).toContain(
    '>Aller au contenu</a>',
  )
})
