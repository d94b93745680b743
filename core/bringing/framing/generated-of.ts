import { ownNameOf } from '#core/language'
import { escapeAttribute, leadAt, referencesIn } from '#core/markup'
import { ancestorsOf } from '#core/plan'
import type { Site } from '#core/site'
import {
  type Attributes,
  contextOf,
  type Entry,
  type GeneratedPart,
  keepsLanguage,
  parts,
} from '#core/template'
import { folderOf } from '../brought'
import type { ListEntry } from '../reading/outline'
import type { ReadPage } from '../reading/read-page'
import { calledBy } from '../translations'
import { CommonLook, type EntryPattern, marksThose } from './common-look'

/** An element of pages that lists what a generated part lists, on each of them. */
export interface FoundPart {
  readonly key: string
  /** What stands for it in a template. */
  readonly html: string
}

/** A way in which a part is tried. */
export interface Way {
  readonly name: string
  readonly attributes: Attributes
}

/** With and without an attribute. */
export const maybe = (attribute: Attributes): readonly Attributes[] => [{}, attribute]

/**
 * Ways in which a list of languages is tried.
 * @param order the order that it has them in
 */
const ofLanguages = (order: string): readonly Way[] =>
  maybe({ order }).flatMap((ordered) =>
    maybe({ labels: 'tags' }).flatMap((labels) =>
      maybe({ own: 'omit' }).flatMap((own) =>
        maybe({ missing: 'above' }).map((missing) => ({
          name: 'page-languages',
          attributes: { ...own, ...labels, ...missing, ...ordered },
        })),
      ),
    ),
  )

/** Ways in which other parts are tried, the plainest first. */
const tried: readonly Way[] = [
  ...['1', '2', '3', 'all'].flatMap((levels) =>
    maybe({ of: 'language' }).flatMap((of) =>
      maybe({ home: 'first' }).flatMap((home) =>
        ['mark', 'omit'].map((own) => ({ name: 'site-menu', attributes: { levels, ...of, own, ...home } })),
      ),
    ),
  ),
  { name: 'site-trail', attributes: {} },
  { name: 'site-trail', attributes: { own: 'omit' } },
  ...['1', '2', 'all'].map((levels) => ({ name: 'page-children', attributes: { levels } })),
  { name: 'page-neighbours', attributes: {} },
  ...['1', '2', 'all'].flatMap((levels) =>
    maybe({ home: 'first' }).flatMap((home) =>
      ['mark', 'omit'].map((own) => ({
        name: 'site-menu',
        attributes: { levels, of: 'section', own, ...home },
      })),
    ),
  ),
]

/**
 * Ids of pages that a list has, in order; null where it has words beside them that do not call the page itself.
 * @param own what that is called in lists
 */
function listedIn(entries: readonly ListEntry[], pageId: string, own: readonly string[]): string[] | null {
  const ids = entries.map((entry) => ('id' in entry ? entry.id : own.includes(entry.says) ? pageId : null))
  return ids.length > 0 && ids.every((id) => id !== null) ? ids : null
}

/** Entries that call another page than the one they stand on otherwise than by its label. */
const calledOtherwise = (
  entries: readonly ListEntry[],
  pageId: string,
  labelOf: ReadonlyMap<string, string>,
): string[] =>
  entries.flatMap((entry) =>
    'id' in entry && entry.id !== pageId && entry.label !== labelOf.get(entry.id) ? [entry.label] : [],
  )

/** Ids of entries as they are listed, with what stands below each. */
export function flatIds(entries: readonly Entry[], own: string, omitsOwn: boolean): string[] {
  return entries.flatMap(({ page, below }) => [
    ...(omitsOwn && page.id === own && below.length === 0 ? [] : [page.id]),
    ...flatIds(below, own, omitsOwn),
  ])
}

export const partCalled = (name: string): GeneratedPart => parts.find((one) => one.name === name)!

const attributesOf = (attributes: Attributes): string =>
  Object.entries(attributes)
    .map(([key, value]) => ` ${key}="${escapeAttribute(value)}"`)
    .join('')

/**
 * A part whose entries are more than links, with how they are written (`core/template/pattern.ts`).
 * @param lead white space in front of the line that it stands on
 */
function writtenPattern({ name, attributes }: Way, pattern: EntryPattern, lead: string): string {
  const { each, own, above, between } = pattern
  const opening = `<template part="${name}"${attributesOf(attributes)}>`
  const isInLines = between.includes('\n') || each.includes('\n')
  const which = (name: string, text: string | null) =>
    text === null ? [] : [`<template which="${name}">${text}</template>`]
  const parting = between.trim()
  const inside = [
    each,
    ...which('own', own),
    ...which('above', above),
    ...which('between', parting === '' ? null : parting),
  ]
  // White space in front of the first entry stands in front of all of them.
  if (!isInLines) return `${opening}${/^\s*/.exec(between)![0]}${inside.join('')}</template>`
  const begin = `\n${lead}  `
  return `${opening}${inside.map((text) => begin + text.replaceAll('\n', begin)).join('')}\n${lead}</template>`
}

/**
 * How a part is written in a template.
 * @param lead white space in front of the line that it stands on
 */
export function writtenPart(way: Way, look: CommonLook, lead = ''): string {
  const { pattern } = look
  if (pattern) return writtenPattern(way, pattern, lead)
  const { name, attributes } = way
  return `<${name}${attributesOf({ ...attributes, ...look.ofPart(partCalled(name)) })}></${name}>`
}

/**
 * Elements that list on every page what a generated part would list there, by their start tags. Strict: one
 * page on which it lists something else, and it is none.
 */
export function findParts(pages: readonly ReadPage[], site: Site): FoundPart[] {
  const context = contextOf(site)
  const labelOf = new Map(site.pages.map(({ id, label }) => [id, label]))
  const pageOf = new Map(site.pages.map((page) => [page.id, page]))
  /** What elements list, by start tag and page; null where a page has several alike. */
  const lists = new Map<string, Map<string, string[] | null>>()
  const looks = new Map<string, CommonLook>()
  const leads = new Map<string, string>()
  /** Lines that call pages by their languages. */
  const ofLanguagesAlone = new Set<string>()
  for (const page of pages) {
    const language = context.languages.of(pageOf.get(page.id)!)
    const own = [labelOf.get(page.id)!, ownNameOf(language), language]
    page.outline.walk(({ list, key, tagName, range }) => {
      const ids = list && listedIn(list.entries, page.id, own)
      if (!ids) return true
      // What leads on and back is called so, and not as the pages are.
      const isLine = list.look.between !== null
      const labels = isLine ? calledOtherwise(list.entries, page.id, labelOf) : []
      if (!labels.every((label) => calledBy(label) !== null)) return true
      const above = ancestorsOf(context.tree, pageOf.get(page.id)!)
        .map(({ id }) => id)
        .filter((id) => ids.includes(id))
      // Which of a line are marked is its author's choice where it is not those above.
      if (isLine && !marksThose(list.look, above)) return true
      if (labels.length > 0) ofLanguagesAlone.add(key)
      const byPage = lists.get(key) ?? new Map<string, string[] | null>()
      lists.set(key, byPage)
      byPage.set(page.id, byPage.has(page.id) ? null : ids)
      const look = looks.get(key) ?? new CommonLook(tagName, list.attributes, isLine)
      if (!looks.has(key) && range) leads.set(key, leadAt(page.text, range.start))
      looks.set(key, look)
      look.add(list.look, above)
      // What is in a list belongs to it; an element that is a line has that in it, which can be a part by itself.
      return isLine && tagName !== null
    })
  }
  /** Elements like them that list nothing: what they hold would be lost. */
  const others = new Set<string>()
  for (const page of pages)
    page.outline.walk(({ key }) => {
      const byPage = lists.get(key)
      if (byPage && !byPage.has(page.id)) others.add(key)
      return true
    })
  /** Whether an element lists on every page what a part would, called as that calls it. */
  const fitsAll = (key: string, { name, attributes }: Way, keeps: boolean): boolean => {
    const part = partCalled(name)
    const byPage = lists.get(key)!
    const omitsOwn = part.omitsOwn?.(attributes) ?? false
    const placed = { part, attributes, within: { listsLanguages: keeps } }
    return pages.every((read) => {
      const page = pageOf.get(read.id)!
      const expected = flatIds(
        part.entries(context, attributes, page, keepsLanguage(placed)),
        page.id,
        omitsOwn,
      )
      const has = byPage.has(page.id) ? byPage.get(page.id) : []
      if (!has || has.length !== expected.length || !has.every((one, at) => one === expected[at]))
        return false
      return (
        !part.label || isCalled(read, expected, (id) => part.label!(context, attributes, pageOf.get(id)!))
      )
    })
  }
  /** The languages that the longest list has, in its order. */
  const orderIn = (key: string): string => {
    const [longest] = [...lists.get(key)!.values()].sort((a, b) => (b?.length ?? 0) - (a?.length ?? 0))
    return (longest ?? []).map((id) => context.languages.of(pageOf.get(id)!)).join(' ')
  }
  const isOneFolder = pages.every(({ path }) => folderOf(path) === folderOf(pages[0]!.path))
  const longestOf = (key: string) => Math.max(...[...lists.get(key)!.values()].map((ids) => ids?.length ?? 0))
  const found = new Map<string, FoundPart>()
  const find = (waysOf: (key: string) => readonly Way[], least: number, keeps: boolean) => {
    for (const [key, byPage] of lists) {
      if (found.has(key) || others.has(key) || byPage.size < 2 || longestOf(key) < least) continue
      const look = looks.get(key)!
      // An element that all pages have stays as it is around the line that is made anew.
      if (!look.isOne || (look.isLine && look.tagName !== null && byPage.size === pages.length)) continue
      if (look.pattern && isOfFolder(look.pattern) && !isOneFolder) continue
      // Nothing stands around entries of an own making: it would not be known where they list nothing.
      if (look.pattern && look.tagName !== null) continue
      const way = waysOf(key).find((one) => fitsAll(key, one, keeps))
      if (way) found.set(key, { key, html: writtenPart(way, look, leads.get(key)) })
    }
  }
  // With a list of languages, the other parts keep to the page's own.
  if (context.translations.languages.length > 0) find((key) => ofLanguages(orderIn(key)), 1, true)
  const keeps = found.size > 0
  find((key) => (ofLanguagesAlone.has(key) ? [] : tried), 2, keeps)
  return [...found.values()]
}

/** Whether something in entries is named by the folder that it is seen from: in another one it is something else. */
const isOfFolder = ({ each, own, above, between }: EntryPattern): boolean =>
  referencesIn([each, own, above, between].join('')).some(
    ({ href }) => !/^(?:[a-z][a-z\d+.-]*:|\/|\{)/i.test(href),
  )

/** Whether a page's links to others are called as a part would call them; its own entry has been told by its id alone. */
function isCalled({ id, links }: ReadPage, ids: readonly string[], called: (id: string) => string): boolean {
  const labels = new Map<string, Set<string>>()
  for (const link of links) {
    if (link.isPicture) continue
    const those = labels.get(link.id)
    if (those) those.add(link.label)
    else labels.set(link.id, new Set([link.label]))
  }
  return ids.every((one) => one === id || labels.get(one)?.has(called(one)))
}
