import { describe, expect, test } from '@jest/globals'
import { buildSite } from '#core/build'
import { datesOf, namesOf } from '#core/naming'
import type { Site } from '#core/site'
import { buildAll, change, pageCalled, siteFrom, TextStore } from '#core/testing'
import { compileTemplate, contextOf, generatedWeight, weightRefusal } from './index'

const plan = `Home
  News
    Gale warning, 3 March 2031
    The pier is mended, 14 June 2030
    Undated
    2030
  Birds
    Log
      Terns, May 2031
      Second count, 14 June 2030
    Method
  Old sketch (trial page)`

/** A site of which some sections are dated, made with one template. */
function dated(store: TextStore, source: string, outline = plan, sections = ['News', 'Log']): Site {
  let site = siteFrom(outline, store, 'Home')
  const pageIds = sections.map((label) => pageCalled(site, label).id)
  site = change(site, store, { kind: 'setPageFlag', pageIds, flag: 'dated', value: true })
  const { id: templateId, source: was } = site.templates[0]!
  return change(site, store, { kind: 'setTemplate', templateId, source: store.put(source), was })
}

const pageOf = (site: Site, store: TextStore, label: string) =>
  buildAll(site, store).get(namesOf(site).pages.get(pageCalled(site, label).id)!.path)!

/** What a list says: each entry without its tags. */
const entries = (html: string): string[] =>
  [...html.matchAll(/<li>([^]*?)<\/li>/g)].map(([, entry]) => entry!.replace(/<[^>]*>/g, '').trim())

const linesOf = (source: string, label: string) => {
  const store = new TextStore()
  return entries(pageOf(dated(store, source), store, label))
}

describe('the newest pages', () => {
  test('are listed with their dates, the newest first, wherever they stand and whatever page lists them', () => {
    const store = new TextStore()
    const html = pageOf(dated(store, '<page-latest aria-label="Latest"></page-latest>'), store, 'Method')
    expect(html).toBe(`<nav class="page-latest" aria-label="Latest">
  <ul>
    <li><time datetime="2031-05">May 2031</time> <a href="log/2031-05-terns.html">Terns</a></li>
    <li><time datetime="2031-03-03">3 March 2031</time> <a href="../news/2031-03-03-gale-warning.html">Gale warning</a></li>
    <li><time datetime="2030-06-14">14 June 2030</time> <a href="../news/2030-06-14-the-pier-is.html">The pier is mended</a></li>
    <li><time datetime="2030-06-14">14 June 2030</time> <a href="log/2030-06-14-second-count.html">Second count</a></li>
    <li><a href="../news/2030.html">2030</a></li>
  </ul>
</nav>
`)
  })

  test('as many as are asked for, of the section, and without their dates', () => {
    expect(linesOf('<page-latest count="2"></page-latest>', 'Home')).toEqual(['May 2031 Terns', '3 March 2031 Gale warning']) // prettier-ignore
    expect(linesOf('<page-latest of="section"></page-latest>', 'Method')).toEqual(['May 2031 Terns', '14 June 2030 Second count']) // prettier-ignore
    expect(linesOf('<page-latest of="section"></page-latest>', 'Home')).toEqual([])
    expect(linesOf('<page-latest count="1" dates="hide"></page-latest>', 'Home')).toEqual(['Terns, May 2031'])
    expect(linesOf('<page-latest count="0"></page-latest>', 'Home')).toHaveLength(5)
  })

  test('the page itself is marked, or left out', () => {
    const store = new TextStore()
    const marked = pageOf(dated(store, '<page-latest count="1"></page-latest>'), store, 'Terns, May 2031')
    expect(marked).toContain('<li><time datetime="2031-05">May 2031</time> <a aria-current="page">Terns</a></li>') // prettier-ignore
    const left = pageOf(dated(store, '<page-latest count="1" own="omit"></page-latest>'), store, 'Terns, May 2031') // prettier-ignore
    expect(left).toBe('\n')
  })

  test('those that menus leave out, trial pages and their branches are in no list', () => {
    const store = new TextStore()
    let site = dated(store, '<page-latest count="all" dates="hide"></page-latest>')
    const flag = (label: string, which: 'inMenus' | 'trial', value: boolean) => {
      const pageIds = [pageCalled(site, label).id]
      site = change(site, store, { kind: 'setPageFlag', pageIds, flag: which, value })
    }
    flag('Gale warning, 3 March 2031', 'inMenus', false)
    flag('Log', 'trial', true)
    expect(entries(pageOf(site, store, 'Home'))).toEqual(['The pier is mended, 14 June 2030', '2030'])
  })

  test('each is in the language that its page is in, and dates in that of the page they stand on', () => {
    const store = new TextStore()
    let site = dated(store, '<page-latest count="1"></page-latest>')
    const { id: pageId } = pageCalled(site, 'Birds')
    site = change(site, store, { kind: 'setPageText', pageId, field: 'language', value: 'de', was: null })
    // "May" is a month of both.
    expect(pageOf(site, store, 'Home')).toContain('<time datetime="2031-05">May 2031</time> <a href="birds/log/2031-05-terns.html" lang="de" hreflang="de">Terns</a>') // prettier-ignore
    expect(pageOf(site, store, 'Method')).toContain('<time datetime="2031-05">Mai 2031</time> <a href="log/')
  })

  test('in a template that leads to other languages it keeps to the page’s own', () => {
    const store = new TextStore()
    let site = dated(store, '<page-languages></page-languages><page-latest count="all"></page-latest>')
    const { id: pageId } = pageCalled(site, 'Birds')
    site = change(site, store, { kind: 'setPageText', pageId, field: 'language', value: 'de', was: null })
    expect(entries(pageOf(site, store, 'Home'))).toEqual(['3 March 2031 Gale warning', '14 June 2030 The pier is mended', '2030']) // prettier-ignore
    expect(entries(pageOf(site, store, 'Method'))).toEqual(['Mai 2031 Terns', '14. Juni 2030 Second count'])
  })

  test('the pages below a section come newest first where that is wanted, with their dates', () => {
    expect(linesOf('<page-children></page-children>', 'News')).toEqual(['Gale warning, 3 March 2031', 'The pier is mended, 14 June 2030', 'Undated', '2030']) // prettier-ignore
    expect(linesOf('<page-children order="newest" dates="show"></page-children>', 'News')).toEqual(['3 March 2031 Gale warning', '14 June 2030 The pier is mended', '2030', 'Undated']) // prettier-ignore
  })

  test('the pages before and after are those of the plan, or by their dates, those without any in front', () => {
    const told = (source: string, label: string) => {
      const store = new TextStore()
      return [...pageOf(dated(store, source), store, label).matchAll(/rel="(\w+)"[^>]*>([^<]*)/g)].map(([, rel, called]) => `${rel} ${called}`) // prettier-ignore
    }
    const plan = '<page-neighbours></page-neighbours>'
    const date = '<page-neighbours order="date"></page-neighbours>'
    expect(told(plan, 'The pier is mended, 14 June 2030')).toEqual(['prev Gale warning, 3 March 2031', 'next Undated']) // prettier-ignore
    expect(told(date, 'The pier is mended, 14 June 2030')).toEqual(['prev 2030', 'next Gale warning, 3 March 2031']) // prettier-ignore
    expect(told(date, 'Gale warning, 3 March 2031')).toEqual(['prev The pier is mended, 14 June 2030'])
    expect(told(date, '2030')).toEqual(['prev Undated', 'next The pier is mended, 14 June 2030'])
    expect(told(date, 'Log')).toEqual(['next Method'])
  })

  test('their author may write how each is, and a date that is none leaves no element behind', () => {
    const source = `<dl>
  <template part="page-latest" count="5"><dt><time datetime="{entry.datetime}">{entry.date}</time></dt><dd><a href="{entry.address}">{entry.label}</a></dd></template>
</dl>`
    const store = new TextStore()
    const site = dated(store, source)
    const html = pageOf(site, store, 'Home')
    expect(html).toContain('<dt><time datetime="2031-05">May 2031</time></dt><dd><a href="birds/log/2031-05-terns.html">Terns</a></dd>') // prettier-ignore
    expect(html).toContain('<dt></dt><dd><a href="news/2030.html">2030</a></dd>')
    const undated = pageOf(dated(store, source.replace(/<dt>.*<\/dt>/, '')), store, 'Home')
    expect(undated).toContain('>Terns, May 2031<')
  })
})

describe('the date of a page', () => {
  const source =
    '<p class="when"><time datetime="{datetime}">{date}</time></p><meta name="date" content="{datetime}">'

  test('is written out in the page’s language, and for programs', () => {
    const store = new TextStore()
    let site = dated(store, source)
    // Its title says it already.
    expect(pageOf(site, store, 'The pier is mended, 14 June 2030')).toBe('<p class="when"></p><meta name="date" content="2030-06-14">\n') // prettier-ignore
    const pier = pageCalled(site, 'The pier is mended, 14 June 2030').id
    site = change(site, store, { kind: 'setPageText', pageId: pier, field: 'title', value: 'Mended', was: null }) // prettier-ignore
    expect(pageOf(site, store, 'The pier is mended, 14 June 2030')).toBe('<p class="when"><time datetime="2030-06-14">14 June 2030</time></p><meta name="date" content="2030-06-14">\n') // prettier-ignore
    expect(pageOf(site, store, 'Undated')).toBe('<p class="when"></p>\n')
    expect(pageOf(site, store, 'Birds')).toBe('<p class="when"></p>\n')
    const { id: pageId } = pageCalled(site, 'Undated')
    site = change(site, store, { kind: 'setPageText', pageId, field: 'date', value: '2031-01-02', was: null })
    expect(pageOf(site, store, 'Undated')).toContain('<time datetime="2031-01-02">2 January 2031</time>')
    expect(datesOf(site).newest.map(({ label }) => label).slice(0, 3)).toEqual(['Terns, May 2031', 'Gale warning, 3 March 2031', 'Undated']) // prettier-ignore
  })

  test('changes the signatures of the pages that show it, and of no others', () => {
    const store = new TextStore()
    const without = siteFrom(plan, store, 'Home').templates[0]!
    let site = dated(store, store.textOf(without.source))
    const { id: templateId } = site.templates[0]!
    const whole = '<template slot="content"><slot name="content"></slot><page-latest count="2"></page-latest></template>' // prettier-ignore
    site = change(site, store, { kind: 'addTemplate', templateId: 'news', name: 'News', source: store.put(whole), basedOn: templateId }) // prettier-ignore
    site = change(site, store, { kind: 'chooseTemplate', pageIds: [site.homeId], of: 'page', templateId: 'news' }) // prettier-ignore
    const { id: pageId } = pageCalled(site, 'Undated')
    const later = change(site, store, {
      kind: 'setPageText',
      pageId,
      field: 'date',
      value: '2032',
      was: null,
    })
    const [before, after] = [buildSite(site, store), buildSite(later, store)]
    const changed = site.pages.filter(({ id }) => before.signatureOf(id) !== after.signatureOf(id))
    // The section lists it, and its name begins with its date.
    expect(changed.map(({ label }) => label)).toEqual(['Home', 'News', 'Undated'])
    expect(after.textOf(site.homeId)).not.toBe(before.textOf(site.homeId))
  })
})

test('lists weigh at least what they write, however often they say a date', () => {
  const store = new TextStore()
  const source = `<page-latest></page-latest><template part="page-latest">${'<i>{entry.date}</i>'.repeat(50)}</template>` // prettier-ignore
  const site = dated(store, source)
  const html = pageOf(site, store, 'Home')
  expect(generatedWeight(contextOf(site), compileTemplate(source), pageCalled(site, 'Home'))).toBeGreaterThan(html.length) // prettier-ignore
})

test('a list of all dated pages on all pages is told before it is made', () => {
  const store = new TextStore()
  const many = `Home\n  News\n${Array.from({ length: 3_000 }, (_, at) => `    Notice ${at} of the harbour office, 3 March 2031\n`).join('')}` // prettier-ignore
  const source = '<page-latest count="all"></page-latest>'.repeat(12)
  const site = dated(store, source, many, ['News'])
  expect(weightRefusal(contextOf(site), () => compileTemplate(source))).toContain('would take')
})
