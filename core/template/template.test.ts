import { describe, expect, test } from '@jest/globals'
import { namesOf } from '#core/naming'
import { buildAll, change, pageCalled, siteFrom, TextStore } from '#core/testing'
import {
  compileTemplate,
  contextOf,
  type GeneratedPart,
  generatedSignature,
  generatedWeight,
  parts,
  renderPage,
} from './index'

/** One page of a small site under a template. */
function rendered(
  source: string,
  label: string,
  plan = 'Home\n  Visit\n    Tides\n    Ferry\n    Map\n  Stay\n  Hidden (not in menus)',
) {
  const store = new TextStore()
  let site = siteFrom(plan, store, 'Home')
  const template = site.templates[0]!
  site = change(site, store, {
    kind: 'setTemplate',
    templateId: template.id,
    source: store.put(source),
    was: template.source,
  })
  const page = pageCalled(site, label)
  site = change(site, store, {
    kind: 'setContent',
    pageId: page.id,
    content: store.put('<p>text</p>'),
    was: page.content,
  })
  return buildAll(site, store).get(namesOf(site).pages.get(page.id)!.path)!
}

describe('generated parts', () => {
  test('a menu of the section marks or leaves out the page itself', () => {
    expect(rendered('<site-menu of="section"></site-menu>', 'Ferry')).toBe(
      '<nav class="site-menu">\n  <ul>\n    <li><a href="tides.html">Tides</a></li>\n    <li><a aria-current="page">Ferry</a></li>\n    <li><a href="map.html">Map</a></li>\n  </ul>\n</nav>\n',
    )
    expect(rendered('<site-menu of="section" own="omit"></site-menu>', 'Ferry')).not.toContain('Ferry')
    expect(rendered('<site-menu of="section"></site-menu>', 'Home')).toBe('\n')
  })
  test('a menu of several levels nests, marks what stands above, and knows no page left out of menus', () => {
    const html = rendered('<site-menu levels="all" class="side" aria-label="Site"></site-menu>', 'Tides')
    expect(html).toContain('<nav class="side" aria-label="Site">')
    expect(html).toContain(
      '<li>\n      <a href="index.html" aria-current="true">Visit</a>\n      <ul>\n        <li><a aria-current="page">Tides</a></li>',
    )
    expect(html).not.toContain('Hidden')
  })
  test('a line of links stands in its place, and looks as it is told', () => {
    const line = (source: string, label = 'Ferry') => rendered(source, label)
    expect(line('<p class="foot">[ <site-menu of="section" between=" | "></site-menu> ]</p>')).toBe(
      '<p class="foot">[ <a href="tides.html">Tides</a> | <a aria-current="page">Ferry</a> | <a href="map.html">Map</a> ]</p>\n',
    )
    expect(line('<p><site-menu of="section" between="<BR />&bull; " mark="b"></site-menu></p>')).toBe(
      '<p><a href="tides.html">Tides</a><br>• <b aria-current="page">Ferry</b><br>• <a href="map.html">Map</a></p>\n',
    )
    const trail =
      '<site-trail between=" &gt; " mark="span" as="p" class="trail" link-class="up"></site-trail>'
    expect(line(trail)).toBe(
      '<p class="trail"><a class="up" href="../index.html">Home</a> &gt; <a class="up" href="index.html">Visit</a> &gt; <span aria-current="page">Ferry</span></p>\n',
    )
    expect(line(trail, 'Home')).toBe('\n')
    // Nothing that an author writes there becomes markup.
    expect(line('<p><site-menu of="section" own="omit" between="<i>"></site-menu></p>')).toBe(
      '<p><a href="tides.html">Tides</a>&lt;i&gt;<a href="map.html">Map</a></p>\n',
    )
    expect(line('<p><site-menu levels="all" between=""></site-menu></p>', 'Stay')).toBe(
      '<p><a href="visit/index.html">Visit</a><a href="visit/tides.html">Tides</a><a href="visit/ferry.html">Ferry</a><a href="visit/map.html">Map</a><a aria-current="page">Stay</a></p>\n',
    )
  })
  test('a list can be in another element, and its links of a class', () => {
    expect(rendered('<site-menu as="div" mark="strong" link-class="m"></site-menu>', 'Ferry')).toContain(
      '<div>\n  <ul>\n    <li><a class="m" href="index.html"',
    )
  })
  test('a list can stand by itself, with a class for each thing in it', () => {
    const part =
      '<site-menu of="section" as="list" id="m" item-class="i" own-item-class="i on" link-class="l" own-class="l on"></site-menu>'
    expect(rendered(`<div>\n  ${part}\n</div>`, 'Ferry')).toBe(
      '<div>\n  <ul id="m">\n    <li class="i"><a class="l" href="tides.html">Tides</a></li>\n    <li class="i on"><a class="l on" aria-current="page">Ferry</a></li>\n    <li class="i"><a class="l" href="map.html">Map</a></li>\n  </ul>\n</div>\n',
    )
    expect(rendered(`<div>\n  ${part}\n</div>`, 'Home')).toBe('<div>\n</div>\n')
    const marked =
      '<site-menu levels="2" as="list" item-class="i" above-item-class="i up" above-class="up"></site-menu>'
    expect(rendered(marked, 'Tides')).toContain(
      '<li class="i up">\n    <a class="up" href="index.html" aria-current="true">Visit</a>',
    )
    expect(rendered(marked, 'Visit')).not.toContain('up"')
    const around = '<site-menu levels="all" as="nav" list-class="all" own-class=""></site-menu>'
    expect(rendered(around, 'Tides')).toContain('<nav>\n  <ul class="all">\n    <li>\n      <a href="index.html" aria-current="true">Visit</a>\n      <ul>\n        <li><a aria-current="page">Tides</a></li>') // prettier-ignore
    expect(compileTemplate('<site-menu as="list" between=""></site-menu>').unknown).toMatchObject([
      { kind: 'attribute value', name: 'list', known: ['nav', 'p', 'div'] },
    ])
    expect(compileTemplate('<site-menu as="p"></site-menu>').unknown).toHaveLength(1)
    expect(compileTemplate('<p><site-menu class="x" between=""></site-menu></p>').unknown).toMatchObject([
      { kind: 'attribute of a line', name: 'class' },
    ])
  })
  test('neighbours are the pages before and after among the listed siblings', () => {
    const html = rendered('<page-neighbours></page-neighbours>', 'Ferry')
    expect(html).toContain('<a rel="prev" href="tides.html">Tides</a>')
    expect(html).toContain('<a rel="next" href="map.html">Map</a>')
    expect(rendered('<page-neighbours></page-neighbours>', 'Hidden')).toBe('\n')
  })
  test('a trail may leave the page itself out', () => {
    const html = rendered('<site-trail own="omit"></site-trail>', 'Tides')
    expect(html).toContain('<a href="../index.html">Home</a>')
    expect(html).not.toContain('Tides')
  })
})

describe('slots and values', () => {
  test('a slot shows its own children where a page has nothing for it', () => {
    expect(
      rendered('<slot name="content">none</slot>\n<slot name="aside"><p>Ask {page}</p></slot>', 'Stay'),
    ).toBe('<p>text</p>\n<p>Ask Stay</p>\n')
  })
  test('values are escaped in text and attributes and percent-encoded in addresses', () => {
    const html = rendered(
      '<p title="{page}">{page} {unknown}</p><a href="https://a.example/?q={page}">x</a>',
      'Q&A "x"',
      'Home\n  Q&A "x"',
    ).replace(/\n$/, '')
    expect(html).toBe(
      '<p title="Q&amp;A &quot;x&quot;">Q&amp;A "x" {unknown}</p><a href="https://a.example/?q=Q%26A%20%22x%22">x</a>',
    )
  })
  test('a value is escaped for the quotes it stands in, and gets some where it has none', () => {
    const html = rendered(
      `<p title='{page}' lang={page}>x</p><p title={site}{page} id=a>y</p>`,
      `it's "5" > 4`,
      `Home\n  it's "5" > 4`,
    ).replace(/\n$/, '')
    const written = `it's &quot;5&quot; &gt; 4`
    expect(html).toBe(
      `<p title='it&#39;s "5" &gt; 4' lang="${written}">x</p><p title="Home${written}" id=a>y</p>`,
    )
  })
  test('a base address does not come out, in the template or a text', () => {
    expect(rendered('<head><base href="/x/"></head><slot><base href="/y/">z</slot>', 'Stay')).not.toContain(
      'base',
    )
  })
  test('a script or style of the template is left as it is', () => {
    expect(rendered('<style>p {page}</style><script>const a = {page}</script>', 'Stay')).toBe(
      '<style>p {page}</style><script>const a = {page}</script>\n',
    )
  })
  test('a part without an end tag takes nothing after it away', () => {
    expect(rendered('<main><site-trail>\n<p>kept</p></main>', 'Home')).toContain('<p>kept</p>')
  })
  test('any text compiles; its slots are known by name', () => {
    for (const source of ['', '<', '<slot', '{', '<slot><slot name="a"></slot></slot>'])
      expect(() => compileTemplate(source)).not.toThrow()
    const { slots } = compileTemplate('<slot></slot>\n<slot name="aside"></slot>')
    expect(slots.map(({ name, line }) => [name, line])).toEqual([
      ['content', 1],
      ['aside', 2],
    ])
  })
})

test('a list of sub-pages tells what they say of themselves where that is wanted, and changes with it', () => {
  const store = new TextStore()
  let site = siteFrom('Home\n  Birds\n    Terns\n    Petrels', store)
  const { id } = pageCalled(site, 'Terns')
  const describe = (value: string) =>
    (site = change(site, store, {
      kind: 'setPageText',
      pageId: id,
      field: 'description',
      value,
      was: pageCalled(site, 'Terns').description,
    }))
  describe('Arctic & common')
  const made = (source: string) => {
    const context = contextOf(site)
    const template = compileTemplate(source)
    const birds = pageCalled(site, 'Birds')
    const [placed] = template.generated
    return {
      html: renderPage(context, template, birds, () => null, 2026),
      signature: generatedSignature(context, placed!, birds, (text) => text),
    }
  }
  const shown = made('<page-children descriptions="show"></page-children>')
  expect(shown.html).toContain('<a href="terns.html">Terns</a>\n      <p>Arctic &amp; common</p>\n    </li>')
  expect(shown.html).toContain('<li><a href="petrels.html">Petrels</a></li>')
  const hidden = made('<page-children></page-children>')
  expect(hidden.html).not.toContain('Arctic')
  describe('Both')
  expect(made('<page-children descriptions="show"></page-children>').signature).not.toBe(shown.signature)
  expect(made('<page-children></page-children>').signature).toBe(hidden.signature)
})

test('a generated part that somebody adds is compiled, made, weighed and made again by what it depends on', () => {
  const store = new TextStore()
  const site = siteFrom('Home\n  Terns\n  Visit', store)
  const part: GeneratedPart = {
    name: 'page-home',
    attributes: [{ name: 'twice', values: [] }],
    list: 'ul',
    entries({ tree, site: { homeId } }, { twice }) {
      const home = { page: tree.byId.get(homeId)!, below: [] }
      return twice === undefined ? [home] : [home, home]
    },
    dependsOn: () => 'home',
  }
  const template = compileTemplate('<body>\n  <page-home twice aria-label="Home"></page-home>\n</body>', [
    ...parts,
    part,
  ])
  const context = contextOf(site)
  const [terns, visit] = ['Terns', 'Visit'].map((label) => pageCalled(site, label))
  expect(renderPage(context, template, terns!, () => null, 2026)).toBe(
    '<body>\n  <nav class="page-home" aria-label="Home">\n    <ul>\n      <li><a href="index.html">Home</a></li>\n      <li><a href="index.html">Home</a></li>\n    </ul>\n  </nav>\n</body>\n',
  )
  const signature = (page: typeof terns, of = context) =>
    generatedSignature(of, template.generated[0]!, page!, (text) => text)
  expect(signature(terns)).toBe(signature(visit))
  const renamed = change(site, store, {
    kind: 'setPageText',
    pageId: site.homeId,
    field: 'label',
    value: 'Start',
    was: 'Home',
  })
  expect(signature(visit, contextOf(renamed))).not.toBe(signature(visit))
  expect(generatedWeight(context, template, visit!)).toBeGreaterThan(100)
})

test('values and references in a body that stands after a slot of the head are the template’s', () => {
  const store = new TextStore()
  const site = siteFrom('Home\n  Visit', store)
  const source =
    '<!DOCTYPE html>\n<html>\n<head><title>{title}</title><slot name="head"></slot></head>\n<body class="{slot.mood}" title="{page}" background="/visit.html"><slot name="content"></slot></body>\n</html>\n'
  const { id, source: was } = site.templates[0]!
  const written = change(site, store, { kind: 'setTemplate', templateId: id, source: store.put(source), was })
  expect(buildAll(written, store).get('visit.html')).toContain('<body title="Visit" background="visit.html">')
  const visit = pageCalled(written, 'Visit')
  const calm = change(written, store, {
    kind: 'setContent',
    pageId: visit.id,
    slot: 'mood',
    content: store.put(' a "b" '),
    was: store.put(''),
  })
  expect(buildAll(calm, store).get('visit.html')).toContain(
    '<body class="a &quot;b&quot;" title="Visit" background="visit.html">',
  )
})

test('a value of a page alone, in an attribute without quotes, has them once; and none where the page has nothing', () => {
  const store = new TextStore()
  const site = siteFrom('Home\n  Visit', store)
  const source =
    '<html><head><title>{title}</title><meta name=x content={slot.mood}></head>\n<body bgcolor={slot.bgcolor}  text={slot.text}><p class=a{slot.text}><slot name="content"></slot></body>\n</html>\n'
  const { id, source: was } = site.templates[0]!
  let written = change(site, store, { kind: 'setTemplate', templateId: id, source: store.put(source), was })
  expect(buildAll(written, store).get('visit.html')).toContain('</title></head>\n<body><p class="a">')
  const { id: pageId } = pageCalled(written, 'Visit')
  for (const [slot, text] of [['bgcolor', '#ff f'], ['mood', 'calm']] as const)
    written = change(written, store, { kind: 'setContent', pageId, slot, content: store.put(text), was: store.put('') })
  expect(buildAll(written, store).get('visit.html')).toContain(
    '</title><meta name=x content="calm"></head>\n<body bgcolor="#ff f"><p class="a">',
  )
}) // prettier-ignore
