import { describe, expect, test } from '@jest/globals'
import { contextOf, compileTemplate, renderPage, weightRefusal } from '#core/template'
import { applyEdits, findCssReferences, indentEdits, readHtml, trimmedRange } from '#core/markup'
import { guessPlanForm, matchPlan, type PlanForm, readOutline, readPlan, writeOutline } from '#core/plan'
import { checkSite, type Site } from '#core/site'
import { Speller } from '#core/spelling'
import { cleanHtml, elementAround } from '#core/texts'
import { readXml } from '../texts/documents/xml'
import { pageCalled, siteFrom, TextStore } from './index'

/**
 * Input made to be slow is held against a twin of the same length that is not. What grows with the
 * square of its input is thousands of times slower at these sizes, whatever the machine; what is linear
 * is within a few times.
 */
const mostTimes = 60
/** What a twin takes at the least, in milliseconds: below, the clock tells nothing. */
const floorMs = 4

function bestOf(work: () => unknown): number {
  let best = Infinity
  for (let run = 0; run < 2; run++) {
    const begun = performance.now()
    work()
    best = Math.min(best, performance.now() - begun)
    if (best < floorMs) break
  }
  return Math.max(best, floorMs)
}

const indent = (html: string) =>
  indentEdits(html, trimmedRange(html), readHtml(html).fixed, (lead) => `  ${lead}`)
const speller = new Speller(() => ({ has: (word) => word.length < 8, near: () => [] }))
const spelled = (text: string) => speller.look(text, 'html', 'de')
const refused = (form: PlanForm, text: string) => readPlan(form, text)
const many = (line: (nth: number) => string) =>
  Array.from({ length: 20_000 }, (_, nth) => line(nth)).join('\n')
const prose = (length: number) => 'Terns nest on the skerry. '.repeat(Math.ceil(length / 26)).slice(0, length)
const lines = (line: string, length: number) => `${line}\n`.repeat(Math.ceil(length / (line.length + 1)))
const size = 200_000
const listed = (text: string) => elementAround(text, { start: 0, end: text.length }, 'ul')
const stressed = (text: string) => elementAround(text, { start: 0, end: text.length }, 'em')
const longest = 19_000

const cases: [string, (input: string) => unknown, string, string][] = [
  ['indenting 200,000 signs that open no tag', indent, '<'.repeat(size), `${prose(size)}<`],
  ['notes before a head', (text) => readHtml(text, true), `<!doctype html><html>${'<!----> '.repeat(size / 8)}<head></head><body></body></html>`, `<!doctype html><html><head></head><body>${'<!----> '.repeat(size / 8)}</body></html>`],
  ['notes before no document', (text) => readHtml(text, true), '<!-- x -->'.repeat(size / 10), '<p>x <b>y</b>'.repeat(size / 13)],
  ['elements in elements', (text) => readHtml(text, false), '<div>'.repeat(15_000), '<b>a</b>'.repeat(15_000)],
  ['spelling of signs that may be within words', spelled, `a${"'-".repeat(size / 2)}`, prose(size)],
  ['spelling of words that nobody knows', spelled, Array.from({ length: size / 50 }, (_, nth) => `${nth.toString(2)}${'qx'.repeat(20)}`.replace(/0/g, 'k').replace(/1/g, 'j')).join(' '), prose(size)],
  ['spelling of elements in elements', spelled, '<b>a'.repeat(size / 20), '<b>a</b>'.repeat(size / 20)],
  ['spelling of attributes', spelled, `<p ${Array.from({ length: size / 20 }, (_, nth) => `a${nth}=x`).join(' ')} title=x>`, '<p title=x>'.repeat(size / 20)],
  ['a list of paragraphs that nobody closed', listed, '<p>x  '.repeat(size / 10), '<p>x</p>'.repeat(size / 10)],
  ['a list of headings in one another, before blanks', listed, `${'<h2><div>'.repeat(8_000)}${' '.repeat(size)}`, `${'<h2>x</h2>'.repeat(8_000)}${' '.repeat(size)}`],
  ['stress on words in one another', stressed, '<p><b>a'.repeat(8_000), '<p><b>a</b></p>'.repeat(8_000)],
  ['indenting lines inside attributes', indent, `<p title="${lines('a', size)}">`, lines('<p>a', size)],
  ['indenting pre in pre', indent, '<pre>\n'.repeat(20_000), lines('<b>a</b>', 120_000)],
  ['taking spaces off', (text) => trimmedRange(text), `a${' '.repeat(size)}b`, prose(size)],
  ['attributes on one long line', readHtml, `<p ${'a=b '.repeat(30_000)}>\n`, '<p a=b>x</p> '.repeat(10_000)],
  ['a srcset of commas', readHtml, `<img srcset="${','.repeat(size)}">`, `<img alt="${prose(size)}">`],
  ['a srcset of brackets', readHtml, `<img srcset="a ${'('.repeat(size)}">`, `<img alt="${prose(size)}">`],
  ['a srcset of ampersands', readHtml, `<img srcset="${'&'.repeat(size)}">`, `<img alt="${prose(size)}">`],
  ['blank lines between words', readHtml, 'a\n\n'.repeat(size / 3), prose(size)],
  ['lines of spaces', readHtml, `a${'\n \n'.repeat(size / 3)}b`, prose(size)],
  ['XML that is none at each sign', (text) => readXml(text, { open: () => {} }), `<a>${'\0'.repeat(size)}</a>`, `<a>${prose(size)}</a>`],
  ['a sitemap that is none at each sign', (text) => refused('addresses', text), `<urlset>${'\0'.repeat(size)}</urlset>`, `<urlset>${prose(size)}</urlset>`],
  ['a word without end before a blank line', readHtml, `<p>${'a'.repeat(size)}\n\nb</p>`, `<p>${prose(size)}\n\nb</p>`],
  ['spaces without end before a blank line', readHtml, `<p>${'a,'.repeat(size / 4)}${' '.repeat(size / 2)}1\n\nb</p>`, `<p>${prose(size)}\n\nb</p>`],
  ['blank lines in elements in elements', readHtml, '<div>a b\n\n<span>'.repeat(10_000), '<p>a b\n\n<i>c</i></p>'.repeat(10_000)],
  ['tables in tables', readHtml, '<table><tr><td>a<td>'.repeat(5_000), '<table><tr><td>a<td></table>'.repeat(5_000)],
  ['a table of one wide row after another', readHtml, `<table>${`<tr>${'<td>1'.repeat(900)}`.repeat(40)}`, '<p>1</p>'.repeat(36_000)],
  ['pasting tables in tables', cleanHtml, '<table><tr><td><b>a</b><td>'.repeat(5_000), '<table><tr><td><b>a</b><td>b</table>'.repeat(5_000)],
  ['pasting style sheets that do not end', cleanHtml, `${'<style'.repeat(size / 8)}<table><tr><td>a`, `${prose(size)}<table><tr><td>a`],
  ['pasting style sheets of brackets', cleanHtml, `<style>${'.a{'.repeat(size / 3)}</style><table><tr><td>a`, `<p>${prose(size)}</p><table><tr><td>a`],
  ['links that nothing parts', readHtml, '<a>x</a>\n\n'.repeat(size / 20), '<p><a>x</a></p>\n'.repeat(size / 20)],
  ['an address of spaces in CSS', (css) => findCssReferences(css), `a { b: url(x${' '.repeat(size)}) }`, `a { b: url(${'x'.repeat(size)}) }`],
  ['brackets in brackets in CSS', (css) => findCssReferences(css), `url(${'('.repeat(size)}`, `a { b: url(${'x'.repeat(size)}) }`],
  ['a template of expressions in one attribute', compileTemplate, `<p ${'a="{page}" '.repeat(6_000)}>`, '<p a="{page}">x</p>'.repeat(6_000)],
  ['a template of slots', compileTemplate, '<slot name=a>{page}</slot>'.repeat(6_000), '<b class=aa>{page}</b>pp'.repeat(6_000)],
  ['a plan of one line of spaces', (text) => refused('text', text), ' '.repeat(size), lines('Terns', size)],
  ['labels of spaces', (text) => readOutline(text), lines(`a${' '.repeat(longest)}b`, size), lines('a b c d e f g h', size)],
  ['marks that are none', (text) => readOutline(text), lines(`${'(trial page) '.repeat(1_400)}x`, size), lines('Terns and petrels', size)],
  ['a Markdown list of [', (text) => refused('markdown', text), lines(`- ${'['.repeat(longest)}`, size), lines('- Terns and petrels', size)],
  ['a Markdown list of [](', (text) => refused('markdown', text), lines(`- ${'[]('.repeat(longest / 3)}`, size), lines('- Terns and petrels', size)],
  ['a Markdown list of **', (text) => refused('markdown', text), lines(`- ${'**a '.repeat(longest / 4)}`, size), lines('- Terns and petrels', size)],
  ...(['/'.repeat(longest), ` > ${' '.repeat(longest)}`, '<a'.repeat(9_000), '.php?'.repeat(4_000), '"'.repeat(longest), `${'│ '.repeat(9_000)}├── x`, 'a/'.repeat(9_000), '\t'.repeat(longest)].map(
    (line): [string, (input: string) => unknown, string, string] => [`what a plan is, of lines of ${line.slice(0, 5)}`, (text) => [guessPlanForm(text), readPlan('addresses', text), readPlan('ways', text), readPlan('text', text)], lines(line, size), lines('/visit/terns.html', size)],
  )),
  ['20,000 addresses in one folder', (text) => refused('addresses', text), many((nth) => `/a${nth}/`), many(() => '/visit/terns.html')],
  ['a sitemap of elements in elements', (text) => refused('addresses', text), `<urlset>${'<loc>'.repeat(30_000)}`, `<urlset>${'<loc>a</loc>'.repeat(15_000)}</urlset>`],
  ['20,000 ways down from one page', (text) => refused('ways', text), many((nth) => `a > b${nth}`), many(() => 'Visit > Terns')],
  ['rows that all stand under one', (text) => refused('csv', text), `page,parent\nr,\n${many((nth) => `p${nth},r`)}`, `page,level\nr,1\n${many((nth) => `p${nth},2`)}`],
  ['lines counted with one letter', (text) => refused('text', text), many(() => 'a) x'), many(() => 'Terns and petrels')],
  ['a menu of lists that are left open', (text) => refused('menu', text), '<ul><li>x'.repeat(15_000), '<ul><li>x</ul>'.repeat(15_000)],
  ['OPML of 16,000 levels', (text) => refused('opml', text), `<opml><body>${'<outline text="a">'.repeat(16_000)}`, `<opml><body>${'<outline text="a"/>'.repeat(15_000)}</body></opml>`],
  ['OPML of 200,000 elements left open', (text) => refused('opml', text), '<a>'.repeat(size), `<opml><body>${'<outline text="a"/>'.repeat(30_000)}</body></opml>`],
] // prettier-ignore

describe('input made to be slow takes no longer than other input of its size', () => {
  test.each(cases)('%s', (_, work, hostile, twin) => {
    const fair = bestOf(() => work(twin))
    expect(bestOf(() => work(hostile)) / fair).toBeLessThan(mostTimes)
  })
})

test('a text that is no HTML at all keeps some of its errors, and their number', () => {
  const { errors, errorCount } = readHtml('<b a a>'.repeat(50_000))
  expect(errors).toHaveLength(1_000)
  expect(errorCount).toBeGreaterThanOrEqual(50_000)
})

test('paragraphs without end are told up to a number, and the next ones once those are mended', () => {
  const { runs } = readHtml('a\n\n'.repeat(100_000))
  expect(runs.map(({ paragraphs }) => paragraphs.length)).toEqual([2_000])
  const many = readHtml('a\n\nb<hr>'.repeat(1_000)).runs
  expect(many).toHaveLength(100)
})

test('a line of a plan that is too long is told, by its number', () => {
  const outcome = readPlan('text', `Home\n  Visit\n${'x'.repeat(30_000)}`)
  expect(outcome).toMatchObject({ refusal: { line: 3, reason: expect.stringContaining('20000') } })
})

describe('a template that multiplies', () => {
  const plan = (sections: number, each: number) =>
    ['Home', ...Array.from({ length: sections }, (_, s) => [`  Section ${s}`, ...Array.from({ length: each }, (_, p) => `    Page ${s} ${p}`)]).flat()].join('\n') // prettier-ignore
  const store = new TextStore()
  const refusal = (site: Site, template: string) =>
    weightRefusal(contextOf(site), () => compileTemplate(template))

  test('is refused by its parts, by a page, and by the whole site, before anything is made', () => {
    const site = siteFrom(plan(40, 100), store)
    const menu = '<site-menu levels="all"></site-menu>'
    expect(refusal(site, menu)).toBeNull()
    expect(refusal(site, menu.repeat(101))).toContain('101 generated parts')
    expect(refusal(site, menu.repeat(30))).toContain('alone would take')
    expect(refusal(site, menu.repeat(10))).toContain('all pages together')
  })

  test('makes no more parts than a template may have', () => {
    const site = siteFrom('Home\n  Visit', store)
    const render = (count: number) =>
      renderPage(contextOf(site), compileTemplate('<site-menu></site-menu>'.repeat(count)), pageCalled(site, 'Home'), () => null, 2031) // prettier-ignore
    expect(render(2_000).match(/<nav/g)).toHaveLength(100)
  })

  test('keeps no more menus in memory than it needs, with a folder a page', () => {
    const site = siteFrom(plan(30, 30), store)
    const folders: Site = { ...site, scheme: { ...site.scheme, arrangement: { kind: 'folder-a-page' } } }
    const context = contextOf(folders)
    const template = compileTemplate('<site-menu levels="2"></site-menu>')
    let made = 0
    const { get } = context.made
    context.made.get = (key, make) => get.call(context.made, key, () => ((made += 1), make()))
    for (const page of folders.pages) renderPage(context, template, page, () => null, 2031)
    expect(made).toBeGreaterThan(800)
    expect(context.made.size).toBeLessThan(4_000_000)
  })
})

describe('what is not whole is told', () => {
  const store = new TextStore()
  const site = siteFrom('Home\n  Visit\n    Tides\n  Contact', store)
  const [home, visit, tides, contact] = ['Home', 'Visit', 'Tides', 'Contact'].map((label) =>
    pageCalled(site, label),
  )
  const put = (id: string, part: object): Site => ({
    ...site,
    pages: site.pages.map((page) => (page.id === id ? { ...page, ...part } : page)),
  })
  test.each<[string, Site, string]>([
    ['an id that is there twice', put(tides!.id, { id: visit!.id }), 'repeated-id'],
    ['a parent that is not there', put(tides!.id, { parentId: 'x' }), 'unknown-parent'],
    ['a page above itself', put(visit!.id, { parentId: tides!.id }), 'above-itself'],
    ['a home page that is not there', { ...site, homeId: 'x' }, 'home'],
    ['a home page below another', put(home!.id, { parentId: visit!.id }), 'home'],
    ['a page below the home page', put(contact!.id, { parentId: home!.id }), 'home'],
    ['an order that is none', put(contact!.id, { order: 'a00' }), 'order-key'],
    ['an age that another has', put(contact!.id, { seq: visit!.seq }), 'repeated-seq'],
    ['a page without a content', put(contact!.id, { content: '' }), 'no-content'],
    ['a word that is kept twice', { ...site, ownWords: ['skerry', 'skerry'] }, 'repeated-word'],
    ['no template', { ...site, templates: [] }, 'no-template'],
  ])('%s', (_, broken, rule) => {
    expect(checkSite(site)).toEqual([])
    expect(checkSite(broken).map((fault) => fault.rule)).toContain(rule)
  })

  test('a circle of many thousands of pages, in one pass', () => {
    const many = Array.from({ length: 50_000 }, (_, index) => ({
      ...contact!,
      id: `p${index}`,
      seq: 10 + index,
      parentId: `p${(index + 1) % 50_000}`,
    }))
    const faults = checkSite({ ...site, nextSeq: 100_000, pages: [...site.pages, ...many] })
    expect(faults.map((fault) => fault.rule)).toEqual(['above-itself'])
  })
})

test('a plan of thousands of lines that all are alike is matched in bounded work', () => {
  const site = siteFrom(writeOutline(readOutline(`Home\n${lines('  Page', 12_000)}`).nodes), new TextStore())
  const edited = readOutline(lines('  Pages', 12_000)).nodes
  expect(matchPlan(site, edited, new Map()).lines).toHaveLength(edited.length)
  expect(applyEdits('', [])).toBe('')
})
