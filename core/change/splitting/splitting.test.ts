import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import {
  type Change,
  type ChangeRequest,
  joinRequest,
  partHeadings,
  pieceRequest,
  splitRequest,
} from '#core/change'
import { namesOf } from '#core/naming'
import { type Site, slotOf } from '#core/site'
import {
  brokenReferences,
  buildAll,
  change,
  pageCalled,
  siteFrom,
  testId,
  TextStore,
  write,
} from '#core/testing'

/** What the server makes of what a window asks for: texts become hashes. */
const made = (store: TextStore, request: ChangeRequest): Change => {
  if (request.kind !== 'moveText') throw new Error(request.kind)
  return {
    ...request,
    texts: request.texts.map(({ text, ...one }) => ({ ...one, content: store.put(text) })),
    added: request.added.map(({ text, ...one }) => ({ ...one, content: store.put(text) })),
  }
}
const textOf = (site: Site, store: TextStore, label: string) => store.textOf(pageCalled(site, label).content)
const given = (site: Site, store: TextStore, label: string) => {
  const page = pageCalled(site, label)
  return { page, slot: 'content', text: store.textOf(page.content), was: slotOf(page, 'content') }
}
function split(site: Site, store: TextStore, label: string, labels: readonly string[], options = { under: true, leavesLinks: true }) {
  const page = given(site, store, label)
  const chosen = partHeadings(page.text)
    .filter((part) => labels.includes(part.label))
    .map((part) => ({ id: testId(), label: part.label, part }))
  return change(site, store, made(store, splitRequest(site, page, chosen, options)))
} // prettier-ignore

const long = `<p>How to come. See <a href="#tides">tides</a> and <a href="stay.html">stay</a>.</p>
<h2 id="tides">Crossings &amp; tides</h2>
<p>High at noon: <a href="#pier">the pier</a>, <a href="#neap">neaps</a>, <a href="index.html">home</a>.</p>
<h3 id="neap">Neap tides</h3>
<p>Low.</p>
<section>
  <h2 id="pier">The pier</h2>
  <p>Red.</p>
</section>
<p>Bye. <img src="images/x.png" alt=""></p>
`

describe('splitting a page', () => {
  const prepare = () => {
    const store = new TextStore()
    let site = siteFrom('Home\n  Visit\n  Stay', store, 'Home')
    site = { ...site, scheme: { ...site.scheme, arrangement: { kind: 'sections', sectionPage: 'beside' } } }
    site = write(site, store, 'Visit', long)
    site = write(site, store, 'Stay', '<a href="visit.html#neap">neaps</a> <a href="/visit.html#pier">pier</a> <a href="visit.html">visit</a>')
    return { store, site }
  } // prettier-ignore

  test('finds the headings at which nothing is broken, and how far each reaches', () => {
    const parts = partHeadings(long)
    expect(parts.map(({ label, level, line }) => [label, level, line])).toEqual([
      ['Crossings & tides', 2, 2],
      ['Neap tides', 3, 4],
      ['The pier', 2, 7],
    ])
    expect(long.slice(parts[0]!.range.start, parts[0]!.range.end)).toMatch(
      /^<h2 id="tides">[\s\S]*Low\.<\/p>\n$/,
    )
    expect(long.slice(parts[2]!.range.start, parts[2]!.range.end)).toMatch(/^<section>[\s\S]*alt=""><\/p>$/)
    expect(partHeadings('<div><p>x</p><h2>No</h2></div><h2></h2><table><h2>No</h2></table>').map((one) => one.label)).toEqual(['No']) // prettier-ignore
  })

  test('makes pages of parts, and every reference to what is in them follows', () => {
    const { store, site: before } = prepare()
    const site = split(before, store, 'Visit', ['Crossings & tides', 'The pier'])
    expect(textOf(site, store, 'Visit')).toBe(
      '<p>How to come. See <a href="visit/crossings-and-tides.html#tides">tides</a> and <a href="stay.html">stay</a>.</p>\n<p><a href="visit/crossings-and-tides.html">Crossings &amp; tides</a></p>\n<p><a href="visit/the-pier.html">The pier</a></p>\n',
    )
    expect(textOf(site, store, 'Crossings & tides')).toBe(
      '<span id="tides"></span>\n<p>High at noon: <a href="/visit/the-pier.html#pier">the pier</a>, <a href="#neap">neaps</a>, <a href="/index.html">home</a>.</p>\n<h2 id="neap">Neap tides</h2>\n<p>Low.</p>\n',
    )
    expect(textOf(site, store, 'Stay')).toBe(
      '<a href="visit/crossings-and-tides.html#neap">neaps</a> <a href="/visit/the-pier.html#pier">pier</a> <a href="visit.html">visit</a>',
    )
    expect(brokenReferences(buildAll(site, store))).toEqual(['visit/the-pier.html: ../images/x.png', 'visit/the-pier.html: images/x.png'].slice(1)) // prettier-ignore
  })

  test('places of old pages, named by an anchor in a heading, around it or right before it, go with it', () => {
    const { store, site: before } = prepare()
    const old =
      '<p><a href="#neap">n</a> <a href="#pier">p</a> <a href="#red">r</a></p>\n<h2><a name="neap">Neap tides</a></h2>\n<p>Low.</p>\n<a name="pier"></a>\n<h2>The pier</h2>\n<p>Red. <a name=red>x</a></p>\n'
    const site = write(before, store, 'Visit', old)
    expect(partHeadings(old).map(({ label, range }) => [label, range.start])).toEqual([
      ['Neap tides', old.indexOf('<h2>')],
      ['The pier', old.indexOf('<a name="pier">')],
    ])
    const after = split(site, store, 'Visit', ['Neap tides', 'The pier'])
    expect(textOf(after, store, 'Visit')).toContain(
      '<a href="visit/neap-tides.html#neap">n</a> <a href="visit/the-pier.html#pier">p</a> <a href="visit/the-pier.html#red">r</a>',
    )
    expect(textOf(after, store, 'Neap tides')).toBe('<span id="neap"></span>\n<p>Low.</p>\n')
    expect(textOf(after, store, 'The pier')).toBe('<a name="pier"></a>\n<p>Red. <a name=red>x</a></p>\n')
  })

  test('puts them after the page where that is wanted, and takes along what stands within', () => {
    const { store, site: before } = prepare()
    const site = split(before, store, 'Visit', ['Crossings & tides', 'Neap tides'], { under: false, leavesLinks: false }) // prettier-ignore
    expect(pageCalled(site, 'Crossings & tides').parentId).toBeNull()
    expect(site.pages.some((page) => page.label === 'Neap tides')).toBe(false)
    expect(textOf(site, store, 'Visit')).toContain('stay.html">stay</a>.</p>\n<section>')
  })

  test('has them in the language of the page, wherever they stand', () => {
    const store = new TextStore()
    const plain = write(
      siteFrom('Home\n  Visit\n  Stay', store),
      store,
      'Visit',
      '<p>x</p>\n<h2>Über die Bucht</h2>\n<p>y</p>\n',
    )
    const before = change(plain, store, {
      kind: 'setPageText',
      pageId: pageCalled(plain, 'Visit').id,
      field: 'language',
      value: 'de',
      was: null,
    })
    for (const [under, own, path] of [
      [true, null, 'visit/ueber-die-bucht.html'],
      [false, 'de', 'ueber-die-bucht.html'],
    ] as const) {
      const site = split(before, store, 'Visit', ['Über die Bucht'], { under, leavesLinks: true })
      expect(pageCalled(site, 'Über die Bucht').language).toBe(own)
      const built = buildAll(site, store)
      expect(built.get(path)).toContain('<html lang="de">')
      expect(brokenReferences(built)).toEqual([])
    }
  })

  test('and joining it again leads every reference back', () => {
    const { store, site: before } = prepare()
    let site = split(before, store, 'Visit', ['Crossings & tides', 'The pier'])
    for (const label of ['Crossings & tides', 'The pier'])
      site = change(site, store, made(store, joinRequest(site, given(site, store, label), given(site, store, 'Visit')))) // prettier-ignore
    expect(site.pages.map((page) => page.label).sort()).toEqual(['Home', 'Stay', 'Visit'])
    const text = textOf(site, store, 'Visit')
    expect(text).toContain('<h2 id="crossings-tides">Crossings &amp; tides</h2>')
    expect(text).toContain('<a href="#tides">tides</a>')
    expect(text).toContain('<p><a href="#crossings-tides">Crossings &amp; tides</a></p>')
    expect(textOf(site, store, 'Stay')).toContain('visit.html#neap">neaps')
  })

  test('a chosen piece goes to another page with its ids', () => {
    const { store, site: before } = prepare()
    const from = given(before, store, 'Visit')
    const start = long.indexOf('<h3')
    const piece = { start, end: long.indexOf('<section>') }
    const site = change(
      before,
      store,
      made(store, pieceRequest(before, from, piece, given(before, store, 'Stay'))),
    )
    expect(textOf(site, store, 'Stay')).toBe(
      '<a href="#neap">neaps</a> <a href="/visit.html#pier">pier</a> <a href="visit.html">visit</a>\n<h3 id="neap">Neap tides</h3>\n<p>Low.</p>\n',
    )
    expect(textOf(site, store, 'Visit')).toContain('<a href="stay.html#neap">neaps</a>')
    expect(textOf(site, store, 'Visit')).not.toContain('Low.')
  })

  test('loses no word and breaks no reference, whatever is split', () => {
    const pieces = fc.constantFrom('<h2 id="a">One</h2>', '<h2>Two</h2>', '<h3 id="b">Three</h3>', '<section><h2 id="c">Four</h2><p>four</p></section>', '<p>text <a href="#a">a</a></p>', '<a href="#b">b</a>', '<a href="stay.html">s</a>', '<div><h2>Five</h2>', '</div>', 'bare', '\n', '<!-- c -->', '<ul><li>x') // prettier-ignore
    fc.assert(
      fc.property(fc.array(pieces, { maxLength: 14 }), fc.array(fc.nat(6)), fc.boolean(), fc.boolean(), (words, picks, under, leavesLinks) => {
        const store = new TextStore()
        let site = siteFrom('Home\n  Visit\n  Stay', store, 'Home')
        site = write(site, store, 'Visit', words.join(''))
        site = write(site, store, 'Stay', '<a href="visit.html#a">a</a>')
        const page = given(site, store, 'Visit')
        const parts = partHeadings(page.text)
        const chosen = [...new Set(picks)].flatMap((at) => parts[at] ?? []).map((part, index) => ({ id: testId(), label: `Part ${index}`, part }))
        if (chosen.length === 0) return
        const after = change(site, store, made(store, splitRequest(site, page, chosen, { under, leavesLinks })))
        const pagesOf = (one: Site) => one.pages.map((each) => store.textOf(each.content)).join('')
        const shown = (text: string) => text.replace(/<a href="[^"]*">Part \d+<\/a>/g, '').replace(/<[^>]*>|\s/g, '')
        // Headings that became labels are no longer in texts.
        const labels = chosen.filter(({ part }) => !chosen.some((one) => one.part !== part && one.part.range.start <= part.range.start && one.part.range.end >= part.range.end)).map(({ part }) => part.label.length).reduce((sum, one) => sum + one, 0)
        expect(shown(pagesOf(after)).length).toBe(shown(pagesOf(site)).length - labels)
        const builtBefore = brokenReferences(buildAll(site, store)).length
        expect(brokenReferences(buildAll(after, store)).length).toBeLessThanOrEqual(builtBefore)
        expect(namesOf(after).pages.size).toBe(site.pages.length + after.pages.length - site.pages.length)
      }),
      { numRuns: 150 },
    )
  }) // prettier-ignore
})
