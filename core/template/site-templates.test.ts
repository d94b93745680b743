import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { hiddenSlots } from '#core/change'
import { namesOf } from '#core/naming'
import { checkSite, defaultOutput, type Output, type Site, slotOf } from '#core/site'
import { buildAll, change, editWhole, pageCalled, siteFrom, TextStore, write } from '#core/testing'
import { composeTemplate, mostComposed, pieceAt } from './compose'
import { inheritedTemplate, SiteTemplates, templateChoices } from './index'

const plan = 'Home\n  Visit\n    Tides\n    Ferry\n  Stay\n    Bunkhouse\n      Beds'

let ids = 0
/** A site with more templates: each a name, a source, and what it is based on. */
function siteWith(
  store: TextStore,
  ...more: readonly (readonly [name: string, source: string, base?: string])[]
) {
  let site = siteFrom(plan, store, 'Home')
  for (const [name, source, base] of more)
    site = change(site, store, {
      kind: 'addTemplate',
      templateId: `template-${++ids}`,
      name,
      source: store.put(source),
      basedOn: base === undefined ? null : called(site, base).id,
    })
  return site
}
const called = (site: Site, name: string) => site.templates.find((one) => one.name === name)!
const choose = (site: Site, store: TextStore, label: string, of: 'page' | 'below', name: string | null) =>
  change(site, store, {
    kind: 'chooseTemplate',
    pageIds: [pageCalled(site, label).id],
    of,
    templateId: name === null ? null : called(site, name).id,
  })
const built = (site: Site, store: TextStore, label: string) =>
  buildAll(site, store).get(namesOf(site).pages.get(pageCalled(site, label).id)!.path)!
const fillSlot = (site: Site, store: TextStore, label: string, slot: string, text: string) => {
  const page = pageCalled(site, label)
  const was = slotOf(page, slot)
  return change(site, store, { kind: 'setContent', pageId: page.id, slot, content: store.put(text), was })
}

describe('which template a page is made with', () => {
  const named = (site: Site) => {
    const chosen = templateChoices(site)
    return Object.fromEntries(
      site.pages.map((page) => [
        page.label,
        site.templates.find((one) => one.id === chosen.get(page.id))!.name,
      ]),
    )
  }

  test('its own, else what the nearest page above says for those below it, else the site’s', () => {
    const store = new TextStore()
    let site = siteWith(store, ['Wide', '<slot></slot>'], ['List', '<slot></slot>'])
    site = choose(site, store, 'Stay', 'below', 'Wide')
    site = choose(site, store, 'Stay', 'page', 'List')
    site = choose(site, store, 'Beds', 'page', 'Shared template')
    expect(named(site)).toEqual({
      Home: 'Shared template', Visit: 'Shared template', Tides: 'Shared template', Ferry: 'Shared template',
      Stay: 'List', Bunkhouse: 'Wide', Beds: 'Shared template',
    }) // prettier-ignore
    site = choose(site, store, 'Beds', 'page', null)
    expect(named(site).Beds).toBe('Wide')
    expect(inheritedTemplate(site, pageCalled(site, 'Beds'))).toBe(called(site, 'Wide').id)
    site = change(site, store, { kind: 'setSetting', field: 'templateId', value: called(site, 'Wide').id, was: site.templateId }) // prettier-ignore
    expect(named(site).Home).toBe('Wide')
  })

  test('follows a page that moves, and pages built by another change with it', () => {
    const store = new TextStore()
    let site = siteWith(store, ['Wide', '<p>wide</p><slot></slot>'])
    site = choose(site, store, 'Stay', 'below', 'Wide')
    const tides = pageCalled(site, 'Tides').id
    site = change(site, store, { kind: 'movePages', pageIds: [tides], parentId: pageCalled(site, 'Stay').id, after: null }) // prettier-ignore
    expect(built(site, store, 'Tides')).toBe('<p>wide</p>\n')
    expect(built(site, store, 'Ferry')).toContain('<!DOCTYPE html>')
  })

  test('a template that goes leaves its pages to what their place has; the site’s own does not go', () => {
    const store = new TextStore()
    let site = siteWith(store, ['Wide', '<slot></slot>'], ['Wider', '<slot></slot>', 'Wide'])
    site = choose(site, store, 'Visit', 'below', 'Wider')
    const remove = (name: string) => ({ kind: 'removeTemplate' as const, templateId: called(site, name).id })
    expect(editWhole(site, remove('Wide'))).toMatchObject({
      refusal: { message: expect.stringContaining('based on') },
    })
    expect(editWhole(site, remove('Shared template'))).toMatchObject({ refusal: { reason: 'invalid' } })
    site = change(site, store, remove('Wider'))
    site = change(site, store, remove('Wide'))
    expect(site.templates).toHaveLength(1)
    expect(pageCalled(site, 'Visit').belowTemplateId).toBeNull()
  })
})

describe('a template that is based on another', () => {
  const base =
    '<main>\n  <slot name="content"></slot>\n</main>\n<aside>\n  <slot name="aside">\n    <p>Nothing here.</p>\n  </slot>\n</aside>'

  test('fills its slots, as if it had been written there', () => {
    const store = new TextStore()
    let site = siteWith(
      store,
      ['Base', base],
      ['Article', '<template slot="content">\n    <article>\n      <h1>{page}</h1>\n      <pre>\n a\n</pre>\n      <slot></slot>\n    </article>\n</template>', 'Base'],
    ) // prettier-ignore
    site = choose(site, store, 'Tides', 'page', 'Article')
    site = write(site, store, 'Tides', '<p>High at noon.</p>')
    expect(built(site, store, 'Tides')).toBe(
      '<main>\n  <article>\n    <h1>Tides</h1>\n    <pre>\n a\n</pre>\n    <p>High at noon.</p>\n  </article>\n</main>\n<aside>\n  <p>Nothing here.</p>\n</aside>\n',
    )
    site = fillSlot(site, store, 'Tides', 'aside', '<p>Ask the pilot.</p>')
    expect(built(site, store, 'Tides')).toContain('<aside>\n  <p>Ask the pilot.</p>\n</aside>')
  })

  test('without a word of which slot, all of it is for the content; several fills follow one another', () => {
    const store = new TextStore()
    let site = siteWith(
      store,
      ['Base', base],
      ['Plain', '<h1>{page}</h1>', 'Base'],
      ['Two', '<template slot="aside"><p>one</p></template>\n<template slot="aside"><p>two</p></template>', 'Base'],
    ) // prettier-ignore
    site = choose(site, store, 'Tides', 'page', 'Plain')
    site = choose(site, store, 'Ferry', 'page', 'Two')
    expect(built(site, store, 'Tides')).toContain('<main>\n  <h1>Tides</h1>\n</main>')
    expect(built(site, store, 'Ferry')).toContain('<aside>\n  <p>one</p>\n  <p>two</p>\n</aside>')
  })

  test('is never based on itself, nor more than eight deep', () => {
    const store = new TextStore()
    let site = siteWith(store, ['T1', '<slot></slot>'])
    for (let level = 2; level <= 8; level++)
      site = change(site, store, { kind: 'addTemplate', templateId: `level-${level}`, name: `T${level}`, source: store.put('<slot></slot>'), basedOn: called(site, `T${level - 1}`).id }) // prettier-ignore
    const base = (name: string, on: string) =>
      editWhole(site, { kind: 'setTemplateField', templateId: called(site, name).id, field: 'basedOn', value: called(site, on).id, was: called(site, name).basedOn }) // prettier-ignore
    expect(base('T1', 'T8')).toMatchObject({ refusal: { message: expect.stringContaining('itself') } })
    expect(base('T1', 'T1')).toMatchObject({ refusal: { message: expect.stringContaining('itself') } })
    expect(base('T1', 'Shared template')).toMatchObject({
      refusal: { message: expect.stringContaining('At most 8') },
    })
    const circle = { ...site, templates: site.templates.map((one) => (one.name === 'T1' ? { ...one, basedOn: called(site, 'T8').id } : one)) } // prettier-ignore
    expect(checkSite(circle).some((fault) => fault.rule === 'based-on-itself')).toBe(true)
  })

  test('that doubles itself again and again is refused before it is put together', () => {
    const store = new TextStore()
    const twice = `<template slot="content">${'<slot></slot>'.repeat(40)}</template>`
    let site = siteWith(store, ['T1', twice])
    for (let level = 2; level <= 8; level++)
      site = change(site, store, { kind: 'addTemplate', templateId: `twice-${level}`, name: `T${level}`, source: store.put(twice), basedOn: called(site, `T${level - 1}`).id }) // prettier-ignore
    const templates = new Map(site.templates.map((one) => [one.id, one]))
    expect(composeTemplate(called(site, 'T8'), templates, store.textOf, site.output)).toBeNull()
    expect(mostComposed).toBeLessThan(40 ** 7)
  })

  test('tells of each place where it was written', () => {
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom('<p>', '</p>', '\n', '  ', '<slot></slot>', '<slot name="aside"></slot>', 'text', '{page}', '<template slot="aside">', '<template slot="content">', '</template>', '<pre>\n x</pre>'), { maxLength: 20 }),
        fc.constantFrom('as-written' as const, '4' as const, 'tab' as const),
        (words, indent) => {
          const store = new TextStore()
          const site = siteWith(store, ['Base', base], ['Own', words.join(''), 'Base'])
          const templates = new Map(site.templates.map((one) => [one.id, one]))
          const composed = composeTemplate(called(site, 'Own'), templates, store.textOf, { ...defaultOutput, indent })!
          for (let place = 0; place < composed.text.length; place++) {
            const sign = composed.text[place]!
            // Indentation is made here, and belongs to what stands there.
            if (/\s/.test(sign)) continue
            const piece = composed.pieces[pieceAt(composed.pieces, place)]!
            const source = store.textOf(templates.get(piece.templateId)!.source)
            expect(source[piece.offset + place - piece.start]).toBe(sign)
          }
        },
      ),
    )
  }) // prettier-ignore
})

describe('slots', () => {
  test('what a template does not show is kept, told, and can be moved', () => {
    const store = new TextStore()
    let site = siteWith(store, ['Two', '<slot></slot><slot name="aside"></slot>'], ['One', '<slot></slot>'])
    site = choose(site, store, 'Tides', 'page', 'Two')
    site = fillSlot(site, store, 'Tides', 'aside', '<p>Ask.</p>')
    expect(hiddenSlots(site, store.textOf)).toEqual([])
    site = choose(site, store, 'Tides', 'page', 'One')
    const page = pageCalled(site, 'Tides')
    expect(hiddenSlots(site, store.textOf)).toEqual([{ pageId: page.id, slot: 'aside' }])
    expect(built(site, store, 'Tides')).toBe('\n')
    const was = page.slots.aside!
    site = change(site, store, { kind: 'moveSlot', pageId: page.id, from: 'aside', to: 'content', was })
    expect(built(site, store, 'Tides')).toBe('<p>Ask.</p>\n')
    expect(pageCalled(site, 'Tides').slots).toEqual({})
    const back = { kind: 'moveSlot' as const, pageId: page.id, from: 'content', to: 'content', was }
    expect(editWhole(site, back)).toMatchObject({ refusal: { reason: 'invalid' } })
  })

  test('links in them follow what moves, and a name that a program has made cannot hurt', () => {
    const store = new TextStore()
    let site = siteWith(store, ['Two', '<slot name="__proto__"></slot>\n<slot name="toString"></slot>'])
    site = choose(site, store, 'Stay', 'page', 'Two')
    site = fillSlot(site, store, 'Stay', '__proto__', '<a href="../visit/tides.html">Tides</a>')
    expect(built(site, store, 'Stay')).toBe('<a href="../visit/tides.html">Tides</a>\n')
    const tides = pageCalled(site, 'Tides')
    site = change(site, store, { kind: 'setPageText', pageId: tides.id, field: 'label', value: 'High water', was: 'Tides' })
    expect(built(site, store, 'Stay')).toBe('<a href="../visit/high-water.html">Tides</a>\n')
    expect(new SiteTemplates(site, store.textOf).compiled(called(site, 'Two').id).slots.map((slot) => slot.name)).toEqual(['__proto__', 'toString'])
  }) // prettier-ignore
})

describe('how pages are written', () => {
  const written = (output: Partial<Output>, text = '<ul>\n    <li>a</li>\n    <li>\n        <pre>\n    b\n</pre>\n    </li>\n</ul>') => {
    const store = new TextStore()
    let site = siteWith(store, ['T', '<body>\n\t<main>\n\t\t<slot></slot>\n\t</main>\n</body>'])
    site = choose(site, store, 'Tides', 'page', 'T')
    site = write(site, store, 'Tides', text)
    site = change(site, store, { kind: 'setOutput', output: { ...site.output, ...output }, was: site.output })
    return built(site, store, 'Tides')
  } // prettier-ignore

  test('each text as it is written, or all of them in one unit; white space that counts is left alone', () => {
    expect(written({})).toBe(
      '<body>\n\t<main>\n\t\t<ul>\n\t\t    <li>a</li>\n\t\t    <li>\n\t\t        <pre>\n    b\n</pre>\n\t\t    </li>\n\t\t</ul>\n\t</main>\n</body>\n',
    )
    expect(written({ indent: '2' })).toBe(
      '<body>\n  <main>\n    <ul>\n      <li>a</li>\n      <li>\n        <pre>\n    b\n</pre>\n      </li>\n    </ul>\n  </main>\n</body>\n',
    )
    expect(written({ indent: 'tab' })).toContain('\n\t\t\t<li>a</li>\n')
  })

  test('with the line ends and the comments that are asked for', () => {
    expect(written({ lineEnd: 'crlf' }, '<p>a</p>')).toBe(
      '<body>\r\n\t<main>\r\n\t\t<p>a</p>\r\n\t</main>\r\n</body>\r\n',
    )
    expect(written({ comments: true }, '<p>a</p>')).toBe(
      '<body>\n\t<main>\n\t\t<!-- content -->\n\t\t<p>a</p>\n\t</main>\n</body>\n',
    )
  })

  test('the home page can have a title of its own', () => {
    const store = new TextStore()
    let site = siteFrom(plan, store, 'Home')
    expect(built(site, store, 'Home')).toContain('<title>Home</title>')
    site = change(site, store, { kind: 'setSetting', field: 'homeTitlePattern', value: '{site}: tides and times', was: '' }) // prettier-ignore
    expect(built(site, store, 'Home')).toContain('<title>Home: tides and times</title>')
    expect(built(site, store, 'Tides')).toContain('<title>Tides – Home</title>')
  })
})
