import { describe, expect, test } from '@jest/globals'
import type { Site } from '#core/site'
import { change, pageCalled, siteFrom, testId, TextStore, write } from '#core/testing'
import { adviseOnPlan, type Finding, findFindings } from './index'

/** Findings, but for those that every page of a new site has: it is empty, and says nothing of itself. */
const told = (...of: Parameters<typeof findFindings>): Finding[] =>
  findFindings(...of).filter(({ rule }) => rule !== 'empty-page' && rule !== 'no-description')

/** Findings as `rule: label of the page, line`. */
const found = (site: Site, store: TextStore) =>
  told(site, store).map(({ rule, place: { id, line } }) => {
    const label = site.pages.find((page) => page.id === id)?.label ?? 'template'
    return `${rule}: ${label}${line === undefined ? '' : `, ${line}`}`
  })

describe('findings', () => {
  test('of a site from a plain plan there are none', () => {
    const store = new TextStore()
    expect(found(siteFrom('Home\n  Visit\n    Tides\n  Contact', store), store)).toEqual([])
  })

  test('a reference that leads nowhere, with its line; not one to elsewhere or in a trial page', () => {
    const store = new TextStore()
    let site = siteFrom('Home\n  Visit\n  Sketch (trial page)', store)
    site = write(
      site,
      store,
      'Visit',
      '<p>\n<a href="/Visit.html">case</a>\n<a href="gone.html#x">gone</a></p>\n<a href="#here">1</a><a href="https://a.example/">2</a><a href="mailto:a@b.example">3</a><a href="/">4</a>',
    )
    site = write(site, store, 'Sketch', '<a href="/nowhere.html">x</a>')
    expect(found(site, store)).toEqual([
      'broken-reference: Visit, 2',
      'broken-reference: Visit, 3',
      'missing-place: Visit, 4',
    ])
  })

  test('a link to a trial page, a base address, and menus that multiply without bound', () => {
    const store = new TextStore()
    let site = siteFrom('Home\n  Visit\n  Sketch', store)
    site = write(site, store, 'Visit', '<p>\n<a href="/sketch.html">x</a>')
    const { id } = pageCalled(site, 'Sketch')
    site = change(site, store, { kind: 'setPageFlag', pageIds: [id], flag: 'trial', value: true })
    expect(found(site, store)).toEqual(['link-to-trial: Visit, 2'])
    site = change(site, store, { kind: 'setPageFlag', pageIds: [id], flag: 'trial', value: false })
    expect(found(site, store)).toEqual([])
    site = write(site, store, 'Sketch', '\n<base href="/x/">')
    expect(found(site, store)).toEqual(['base-address: Sketch, 2'])
    const template = site.templates[0]!
    const source = store.put('<site-menu></site-menu>'.repeat(101))
    site = change(site, store, { kind: 'setTemplate', templateId: template.id, source, was: template.source })
    expect(found(site, store)[0]).toBe('too-large: template')
  })

  test('in the template too', () => {
    const store = new TextStore()
    const site = siteFrom('Home', store)
    const template = site.templates[0]!
    const source = store.put('<!DOCTYPE html>\n<link rel="stylesheet" href="/style/site.css">')
    const changed = change(site, store, {
      kind: 'setTemplate',
      templateId: template.id,
      source,
      was: template.source,
    })
    expect(found(changed, store)[0]).toBe('broken-reference: template, 2')
  })

  test('markup that a browser has to guess at', () => {
    const store = new TextStore()
    const site = write(
      siteFrom('Home\n  Visit', store),
      store,
      'Visit',
      '<p>ok</p>\n<p class="a" class="b">x</p>',
    )
    expect(found(site, store)).toEqual(['markup-error: Visit, 2'])
  })

  test('a label that makes no name, a name told apart, a title used twice', () => {
    const store = new TextStore()
    const site = siteFrom('Home\n  ?!\n  Terns\n  TERNS', store)
    expect(found(site, store)).toEqual(['repeated-title: TERNS', 'nameless-label: ?!', 'name-clash: TERNS'])
  })
})

describe('advice on a plan', () => {
  const advice = (plan: string) =>
    adviseOnPlan(siteFrom(plan, new TextStore())).map(({ key }) => key.split(' ')[0])

  test('is silent on a plain one, and on trial pages', () => {
    expect(advice('Home\n  Visit\n    Tides\n    Ferry\n  Contact\n  Contact (trial page)')).toEqual([])
  })
  test('remarks on many pages, deep ones, sections of one page and equal labels', () => {
    const many = Array.from({ length: 13 }, (_, index) => `Page ${index}`)
    expect(advice(`Home\n${many.map((label) => `  ${label}`).join('\n')}`)).toEqual(['many'])
    expect(advice(`Home\n  Section\n${many.map((label) => `    ${label}`).join('\n')}`)).toEqual(['many'])
    expect(advice('Home\n  A\n    B\n      C\n        D\n        E\n    F')).toEqual(['deep', 'deep'])
    expect(advice('Home\n  Visit\n    Tides')).toEqual(['single'])
    expect(advice('Home\n  Visit\n  visit')).toEqual(['same'])
  })
  test('keeps its key while the matter stays, so that a dismissal holds', () => {
    const store = new TextStore()
    const site = siteFrom('Home\n  Visit\n    Tides', store)
    const later = change(site, store, {
      kind: 'setPageText',
      pageId: pageCalled(site, 'Tides').id,
      field: 'label',
      value: 'Ebb',
      was: 'Tides',
    })
    expect(adviseOnPlan(later)[0]!.key).toBe(adviseOnPlan(site)[0]!.key)
  })
})

test('what stands beside the fills of a template that is based on another is told, and of a whole document not', () => {
  const store = new TextStore()
  const site = siteFrom('Home', store)
  const source = store.put('<p>lost</p>\n<template slot="content"><slot name="content"></slot></template>\n')
  const add = (basedOn: string | null) =>
    change(site, store, { kind: 'addTemplate', templateId: testId(), name: 'Side', source, basedOn })
  const outside = (of: typeof site) => told(of, store).filter(({ rule }) => rule === 'outside-slots')
  expect(outside(add(site.templateId))).toMatchObject([{ place: { kind: 'template', line: 1 } }])
  expect(outside(add(null))).toEqual([])
})

describe('rules of references, markup and the whole', () => {
  const whole = (texts: Record<string, string>, plan = 'Home\n  Visit\n    Tides\n  Birds') => {
    const store = new TextStore()
    let site = siteFrom(plan, store)
    for (const [label, html] of Object.entries(texts)) site = write(site, store, label, html)
    return { site, store, what: told(site, store).map(({ rule, what }) => `${rule}: ${what}`) }
  }
  const only = (html: string) => whole({ Visit: html }).what

  test('a reference that differs in capitals only is told as that, and mended', () => {
    const { site, store } = whole({ Visit: '<a href="Tides.html">x</a>' })
    const [finding] = told(site, store)
    expect(finding!.what).toBe(
      'Tides.html differs from visit/tides.html in capitals only; most hosts tell them apart.',
    )
    expect(finding!.mends).toMatchObject([{ edits: [{ text: 'tides.html' }] }])
  })

  test('a place that its page does not have, here or elsewhere; one of the text or of the template it has', () => {
    const { what } = whole({
      Visit: '<p id="by-boat">x</p><a name="by-air">x</a><a href="#by-air">z</a><a href="#by-boat">a</a><a href="#content">b</a><a href="#top">c</a><a href="#">d</a><a href="#gone">e</a><a href="tides.html#spring">f</a><a href="tides.html#nei%C3%9F">g</a>',
      Tides: '<h2 id="neiß">x</h2><a href="index.html#by-boat">h</a><a href="../birds.html#terns">i</a>',
    }) // prettier-ignore
    expect(what).toEqual([
      'missing-place: #gone leads to a place “gone”, which this page does not have.',
      'missing-place: tides.html#spring leads to a place “spring”, which “Tides” does not have.',
      'missing-place: ../birds.html#terns leads to a place “terns”, which “Birds” does not have.',
    ])
  })

  test('an address of one’s own disk, or with backslashes', () => {
    expect(only('<a href="file:///C:/x.doc">a</a><img src="C:\\pics\\a.png" alt="a"><a href="https://a.example/\\b">c</a>').filter((one) => one.startsWith('own-disk'))).toHaveLength(3) // prettier-ignore
    expect(only('<a href="mailto:a@b.example">a</a>')).toEqual([])
  })

  test('a picture and a link without words; not those that are hidden, or have theirs elsewhere', () => {
    const shown = '<img src="data:,"><a href="/"></a><a href="/"><img src="data:," alt=""></a>'
    expect(only(shown).map((one) => one.split(':')[0])).toEqual([
      'picture-without-words',
      'link-without-words',
      'link-without-words',
    ])
    expect(only('<img src="data:," alt=""><img src="data:," role="presentation"><a href="/" aria-label="Home"></a><a href="/"><img src="data:," alt="Home"></a><a href="/" title="Home"><svg></svg></a><a id="x"></a>')).toEqual([]) // prettier-ignore
  })

  test('what the standard has dropped, with what is written today', () => {
    const what = only(
      '<center>x</center><p align="right">y</p><font color="red">z</font><table bgcolor=white></table>',
    )
    expect(what).toEqual([
      'dropped-markup: <center> is no longer part of HTML. Give it a class, and “text-align: center” in the style sheet.',
      'dropped-markup: “align” on <p> is looks. Write it in the style sheet.',
      'dropped-markup: <font> is no longer part of HTML. Give the text a class, and face, size and colour in the style sheet.',
      'dropped-markup: “bgcolor” on <table> is looks. Write it in the style sheet.',
    ])
  })

  test('an id that a page has twice', () => {
    expect(only('<p id="a">x</p><p id="b">y</p><p id="a">z</p>')).toEqual([
      'repeated-id: The id “a” is given more than once.',
    ])
  })

  test('a level that headings leave out', () => {
    expect(only('<h2>a</h2><h3>b</h3><h2>c</h2>')).toEqual([])
    expect(only('<h2>a</h2><h4>b</h4>')).toEqual([
      'skipped-level: “b” is a heading of level 4 right below one of level 2.',
    ])
    expect(only('<h3>first</h3>')).toHaveLength(1)
  })

  test('pages of one text, and pages that nothing leads to', () => {
    expect(whole({ Visit: '<p>Same</p>', Birds: '<p>Same</p>', Tides: '<p>Other</p>' }).what).toEqual([
      'same-text: It says what “Visit” says, letter by letter.',
    ])
    const { site, store } = whole({})
    const hidden = change(site, store, {
      kind: 'setPageFlag',
      pageIds: [pageCalled(site, 'Birds').id],
      flag: 'inMenus',
      value: false,
    })
    const findings = told(hidden, store)
    expect(findings).toMatchObject([{ rule: 'unreached-page', mends: [{ words: 'Put it in the menus' }] }])
    // A link from anywhere but itself reaches it.
    const rules = (label: string, html: string) =>
      told(write(hidden, store, label, html), store).map(({ rule }) => rule)
    expect(rules('Birds', '<a href="birds.html">x</a>')).toEqual(['unreached-page', 'link-to-itself'])
    expect(rules('Tides', '<a href="/birds.html">x</a>')).toEqual(['unlisted-page'])
  })

  test('an error page belongs in no menu, and nothing has to lead to it', () => {
    const store = new TextStore()
    let site = siteFrom('Home\n  Visit\n  404', store)
    for (const label of ['Home', 'Visit', '404']) site = write(site, store, label, `<p>${label} says something.</p>`)
    const [finding, ...more] = told(site, store)
    expect([finding!.rule, finding!.place.id, more]).toEqual(['listed-error-page', pageCalled(site, '404').id, []])
    expect(finding!.mends).toMatchObject([{ change: { kind: 'setPageFlag', flag: 'inMenus', value: false } }])
    site = change(site, store, { kind: 'setPageFlag', pageIds: [finding!.place.id], flag: 'inMenus', value: false })
    expect(told(site, store)).toEqual([])
  }) // prettier-ignore
})
