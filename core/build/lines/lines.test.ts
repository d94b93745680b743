import { expect, test } from '@jest/globals'
import { buildSite } from '#core/build'
import { Lines } from '#core/markup'
import { change, pageCalled, siteFrom, TextStore, write } from '#core/testing'
import {
  elementAtLine,
  findQuoted,
  lineOfElement,
  originsOfLine,
  purposeOfLine,
  slotOffset,
} from './explain-line'

const store = new TextStore()
let site = siteFrom('Home\n  Visit\n    Tides', store, 'Saltpan Chapel')
site = change(site, store, {
  kind: 'addTemplate',
  templateId: 'side',
  name: 'Side',
  source: store.put('<template slot="content">\n  <div class="x">\n    <slot></slot>\n  </div>\n</template>'),
  basedOn: site.templateId,
})
const page = pageCalled(site, 'Tides').id
site = change(site, store, { kind: 'chooseTemplate', pageIds: [page], of: 'page', templateId: 'side' })
site = write(site, store, 'Tides', '<p>High\nat noon.</p>\n<!-- so -->')
const trace = buildSite(site, store).traceOf(page)
const lines = trace.text.split('\n')
const explain = (line: number) => {
  const origins = originsOfLine(trace, line, site, store.textOf)
  const purpose = purposeOfLine(trace.text, line)
  return origins && purpose && { origins, ...purpose }
}
const explained = (beginning: string) =>
  explain(lines.findIndex((line) => line.trim().startsWith(beginning)) + 1)!
const shared = site.templateId

test('every line of a page says what it is for and what wrote it', () => {
  expect(trace.text).toBe(buildSite(site, store).textOf(page))
  for (let line = 1; line < lines.length; line++) {
    const one = explain(line)!
    expect([one.words === '', one.origins.length > 0]).toEqual([false, true])
    for (const origin of one.origins) {
      if (origin.kind !== 'template') continue
      // A line that the template wrote stands at that line of its own source, but for what is filled in.
      const source = store.textOf(site.templates.find(({ id }) => id === origin.templateId)!.source)
      const written = source.split('\n')[origin.line - 1]!.trim()
      expect(written.slice(0, 3)).toBe(lines[line - 1]!.trim().slice(0, 3))
    }
  }
  for (const line of [0, -1, lines.length, lines.length + 1, Number.NaN]) expect(explain(line)).toBeNull()
})

test('what wrote it is told by its kind, and where', () => {
  const at = (beginning: string) =>
    explained(beginning).origins.map(({ kind, name, templateId }) => [kind, name, templateId])
  expect(at('<!DOCTYPE')).toEqual([['template', '', shared]])
  expect(at('<title>')).toEqual([['template', '', shared], ['value', 'title', shared]]) // prettier-ignore
  expect(at('<nav class="site-menu"')).toEqual([['generated', 'site-menu', shared]])
  expect(at('<div class="x">')).toEqual([['template', '', 'side']])
  expect(at('at noon.')).toEqual([['slot', 'content', 'side']])
  expect(explained('<div class="x">').origins[0]!.line).toBe(2)
  const menu = new Lines(store.textOf(site.templates[0]!.source))
  expect(explained('<nav class="site-menu"').origins[0]!.line).toBe(
    menu.placeOf(store.textOf(site.templates[0]!.source).indexOf('<site-menu')).line,
  )
})

test('what it is for is told of the first thing on it, as sharply as can be', () => {
  const said = (beginning: string) => [explained(beginning).what, explained(beginning).section]
  expect(said('<!DOCTYPE')).toEqual(['<!DOCTYPE>', '13.1.1'])
  expect(said('<meta charset')).toEqual(['<meta>', '4.2.5.4'])
  expect(said('<link rel="stylesheet"')).toEqual(['<link>', '4.6.7.23'])
  expect(said('<a class="skip-link"')[1]).toBe('4.5.1')
  expect(explained('<a class="skip-link"').words).toContain('past the menu')
  expect(explained('</main>').words).toMatch(/^Ends what began on line \d+\.$/)
  expect(said('at noon')).toEqual(['', '3.2.5.2.5'])
  expect(said('<!-- so')).toEqual(['<!-- -->', '13.1.6'])
})

test('a place of the page leads to its line in what the page holds, and back', () => {
  let commented = write(site, store, 'Tides', '\n\n<p>One</p>\n<ul>\n  <li>a</li>\n  <li>b</li>\n</ul>\n')
  for (const comments of [false, true]) {
    commented = change(commented, store, { kind: 'setOutput', output: { ...commented.output, comments }, was: commented.output }) // prettier-ignore
    const made = buildSite(commented, store).traceOf(page)
    const items = made.text.split('<li>').length - 1
    const line = lineOfElement(made.text, { tag: 'li', nth: items - 1 })!
    expect(made.text.split('\n')[line - 1]).toContain('<li>b</li>')
    expect(originsOfLine(made, line, commented, store.textOf)).toMatchObject([{ kind: 'slot', name: 'content', slotLine: 6 }]) // prettier-ignore
    expect(slotOffset(made, 'content')).toBe(line - 6)
    expect(elementAtLine(made.text, line)).toEqual({ tag: 'li', nth: items - 1 })
    expect(elementAtLine(made.text, line + 1)).toEqual({ tag: 'li', nth: items - 1 })
  }
  expect(slotOffset(trace, 'nowhere')).toBeNull()
  expect(lineOfElement('<p>x', { tag: 'body', nth: 0 })).toBeNull()
  expect(elementAtLine('x', 1)).toBeNull()
})

test('a place that somebody saw is found again by what it says, else where it was', () => {
  const page =
    '<p>One</p><p>We <em>meet</em> at the&nbsp;pier.</p><p>Three</p><img src="a" alt="A tern"><p>One</p>'
  const quote = 'We meet at the pier.'
  expect(findQuoted(page, { tag: 'p', nth: 1, quote })).toEqual({ tag: 'p', nth: 1 })
  expect(findQuoted(`<p>New</p>${page}`, { tag: 'p', nth: 1, quote })).toEqual({ tag: 'p', nth: 2 })
  // Several say it: where it was, if that is one of them.
  expect(findQuoted(page, { tag: 'p', nth: 3, quote: 'One' })).toEqual({ tag: 'p', nth: 3 })
  expect(findQuoted(page, { tag: 'p', nth: 2, quote: 'Gone' })).toEqual({ tag: 'p', nth: 2 })
  expect(findQuoted(page, { tag: 'img', nth: 4, quote: 'A tern' })).toEqual({ tag: 'img', nth: 0 })
  expect(findQuoted(page, { tag: 'p', nth: 7 })).toEqual({ tag: 'p', nth: 7 })
})
