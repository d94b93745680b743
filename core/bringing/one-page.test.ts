import { expect, test } from '@jest/globals'
import { findFindings } from '#core/findings'
import { TextStore } from '#core/testing'
import { bring, outcomes } from '../testing/bringing'

/** A page with all that its author has to say, and one that the law asks for. */
const frame = (title: string, menu: string, main: string) => `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<title>${title}</title>
<link rel="stylesheet" href="css/base.css">
<link rel="stylesheet" href="css/site.css?v=3">
</head>
<body>
<header class="top"><nav aria-label="Main">${menu}</nav></header>
<main id="main">
${main}
</main>
<footer><p>Brine and Tar</p></footer>
</body>
</html>
`
const section = (id: string) =>
  `<section id="${id}" class="of-${id}"><h2>${id}</h2><div class="grid"><p>Of ${id}.</p></div></section>`
const css = { 'css/base.css': 'body { margin: 0 }', 'css/site.css': 'p { margin: 1em }' }
const home = frame(
  'Ropework',
  '<a href="#work">Work</a> <a href="#prices">Prices</a>',
  `<h1>Ropework</h1>\n${['work', 'prices', 'contact', 'way', 'hours'].map(section).join('\n')}`,
)

test('a page of many sections and a short one share the frame around them', () => {
  const store = new TextStore()
  const imprint = frame('Imprint', '<a href="./#work">Work</a>', '<h1>Imprint</h1>\n<p>By hand.</p>')
  const understood = bring({ 'index.html': home, 'imprint.html': imprint, ...css }, store)
  expect(understood.templates.map(({ isWhole, pageIds }) => [isWhole, pageIds.length])).toEqual([[false, 2]])
  const [template] = understood.site.templates
  expect(store.textOf(template!.source)).toContain('<footer><p>Brine and Tar</p></footer>')
  expect(Object.values(outcomes(understood, store))).toEqual(['same', 'same'])
})

test('a site of one page is kept whole, and what is added later has its style sheets', () => {
  const store = new TextStore()
  const { site, templates } = bring({ 'index.html': home, ...css }, store)
  expect(templates.map(({ isWhole }) => isWhole)).toEqual([true])
  const forNew = store.textOf(site.templates.find(({ id }) => id === site.templateId)!.source)
  expect(forNew.match(/<link rel="stylesheet" href="[^"]*">/g)).toEqual([
    '<link rel="stylesheet" href="/css/base.css">',
    '<link rel="stylesheet" href="/css/site.css">',
  ])
  expect(findFindings(site, store).filter(({ rule }) => rule === 'broken-reference')).toEqual([])
})

test('pages that are kept whole lead home by what stands in them', () => {
  const about = (link: string) => ({
    'index.html': '<!DOCTYPE html>\n<title>Home</title>\n<p><a href="about.html">About</a>',
    'about.html': `<!DOCTYPE html>\n<title>About</title>\n<h1>About</h1>\n<p>${link}`,
  })
  const told = (link: string) => {
    const store = new TextStore()
    const { site, templates } = bring(about(link), store, { scheme: null, lifts: false, generates: false })
    expect(templates.map(({ isWhole }) => isWhole)).toEqual([true])
    return findFindings(site, store).filter(({ rule }) => rule === 'header-home').length
  }
  expect(told('<a href="./">Home</a>')).toBe(0)
  expect(told('<a href="about.html">Here</a>')).toBe(1)
})

test.each([
  ['alike', () => '<div>'],
  ['each with a class of its page', (name: string) => `<div class="${name}">`],
  ['each with the same id', (name: string) => `<div id="x" class="${name}">`],
])('elements in elements in elements are looked into so far, and come out as they were: %s', (_, tag) => {
  const store = new TextStore()
  const deep = 3_000
  const page = (name: string) =>
    `<!DOCTYPE html>\n<html lang="en"><head><title>${name}</title></head>\n<body>\n${tag(name).repeat(deep)}<p>${name}</p>${'</div>'.repeat(deep)}\n</body></html>\n`
  const understood = bring(
    { 'index.html': page('Home'), 'a.html': page('Auk'), 'b.html': page('Boats') },
    store,
  )
  expect(Object.values(outcomes(understood, store))).toEqual(['same', 'same', 'same'])
  expect(understood.templates.every(({ slots }) => slots.length <= 13)).toBe(true)
})
