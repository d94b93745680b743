import { describe, expect, test } from '@jest/globals'
import { parts } from '../parts'
import { namesOf } from '#core/naming'
import { buildAll, change, pageCalled, siteFrom, TextStore } from '#core/testing'
import { writeEntries } from './written-entries'
import { writtenParts } from './written-parts'

/** What a template makes of a site's pages, white space aside. */
function made(source: string): string[] {
  const store = new TextStore()
  let site = siteFrom('Home\n  Visit\n    Tides, 3 May 2031\n    2030\n    Ferry\n  Stay\n  Birds', store, 'Home')
  const { id: templateId, source: was } = site.templates[0]!
  site = change(site, store, { kind: 'setTemplate', templateId, source: store.put(source), was })
  const pageIds = [pageCalled(site, 'Visit').id]
  site = change(site, store, { kind: 'setPageFlag', pageIds, flag: 'dated', value: true })
  for (const { id } of site.pages)
    site = change(site, store, { kind: 'setPageText', pageId: id, field: 'description', value: 'Of it', was: null })
  const built = buildAll(site, store)
  return [...namesOf(site).pages.values()].map(({ path }) => built.get(path)!.replace(/\s+/g, ''))
} // prettier-ignore

const around = (part: string) =>
  `<!DOCTYPE html>\n<title>{title}</title>\n<body>\n  <header>\n    ${part}\n  </header>\n</body>\n`

describe('entries that their author wants to write', () => {
  test('stand in the template as they come out', () => {
    expect(
      writeEntries(around('<site-menu levels="1" aria-label="Main" item-class="i"></site-menu>'), 0),
    ).toBe(
      around(`<template part="site-menu" levels="1">
      <nav class="site-menu" aria-label="Main">
        <ul>
          <template which="each"><li class="i"><a href="{entry.address}">{entry.label}</a></li></template>
          <template which="own"><li class="i"><a aria-current="page">{entry.label}</a></li></template>
          <template which="above"><li class="i"><a href="{entry.address}" aria-current="true">{entry.label}</a></li></template>
        </ul>
      </nav>
    </template>`),
    )
  })

  test.each([
    '<site-menu levels="1"></site-menu>',
    '<site-menu levels="1" home="first" as="list" id="m" own-item-class="on" above-class="up"></site-menu>',
    '<p>[ <site-menu of="section" between=" | " mark="b" link-class="l"></site-menu> ]</p>',
    '<site-menu levels="1" between="&lt;br&gt;" as="nav" aria-label="Main"></site-menu>',
    '<site-menu of="section" own="omit" between=" "></site-menu>',
    '<site-trail></site-trail>',
    '<site-trail own="omit" between=" &gt; "></site-trail>',
    '<page-children></page-children>',
    '<page-children descriptions="show" list-class="cards"></page-children>',
    '<page-children order="newest" dates="show"></page-children>',
    '<page-latest></page-latest>',
    '<page-latest count="1" own="omit" dates="hide" descriptions="show"></page-latest>',
    '<p><page-latest between=" / " mark="b"></page-latest></p>',
  ])('make the same pages: %s', (part) => {
    const source = around(part)
    const entries = writeEntries(source, 0)
    expect(entries).not.toBe(source)
    expect(writtenParts(entries)).toMatchObject([{ isPattern: true }])
    // Once is enough.
    expect(writeEntries(entries, 0)).toBe(entries)
    expect(made(entries)).toEqual(made(source))
  }) // prettier-ignore

  test('of any part there is are read back', () => {
    for (const { name } of parts)
      expect(writtenParts(writeEntries(around(`<${name}></${name}>`), 0))).toMatchObject([
        { isPattern: true, part: { name } },
      ])
  })
})
