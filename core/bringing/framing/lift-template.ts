import {
  applyEdits,
  encodePath,
  escapeText,
  fixedIn,
  indentEdits,
  leadAt,
  referencesIn,
  type Range,
  type Reference,
  type TextEdit,
  writeReference,
} from '#core/markup'
import { isStanding, leadsAbove, readOwnAddress, relativeReference, splitReference } from '#core/links'
import { mainSlot } from '#core/site'
import type { Names } from '#core/naming'
import type { Group } from './group'
import type { Edges } from './frame-marks'
import { folderOf } from '../brought'
import { fromTop, type OldNames, onHost } from '../old-names'
import { type ReadPage, referencesWithin } from '../reading/read-page'

/** A stretch of a model page that its template fills in otherwise. */
export interface ShownSlot extends Range {
  /** Null where it is what the page is called. */
  readonly name: string | null
  readonly edges: Edges
}

/** The page that a template was lifted from, with what is not the template's own in it. */
export interface Model {
  readonly path: string
  /** As it was, with line feeds. */
  readonly text: string
  readonly slots: readonly ShownSlot[]
  /** Written by a value of the page or by a generated part, and what stands for it. */
  readonly written: readonly (Range & { readonly by: string })[]
}

/** A template that was found in a group of pages, and what fills it for each of them. */
export interface Lifted {
  readonly source: string
  readonly model: Model
  /** What each page holds, by slot; worked out page by page, since together it is as much as all of them. */
  readonly held: () => Iterable<{ readonly page: ReadPage; readonly slots: Readonly<Record<string, string>> }>
}

/** Where everything stands from now on. */
export interface Goals {
  readonly old: OldNames
  readonly names: Names
  /** The name of the file that stands for a folder from now on. */
  readonly homeFile: string
  /** What a page is in from now on, by its id. */
  readonly languageOf: (id: string) => string
  /** Whether pages join a site: what they miss was never at its top, and is wanted from where they stand. */
  readonly joins?: true
}

/**
 * A reference of an old page or style sheet as it is right where it stands now; null where it is as it is.
 * @param to where it stands now; null in a template, which names everything from the top
 */
export function mendedHref(
  reference: Pick<Reference, 'href' | 'ifThere'>,
  from: string,
  to: string | null,
  { old, names, homeFile, joins }: Goals,
): string | null {
  const { href } = reference
  const target = old.resolve(href, from)
  // Mere words of a script that read like a path stay as they are.
  if (target.kind === 'elsewhere') return reference.ifThere ? null : onHost(href, old.names)
  if (!isStanding(reference, target)) return null
  const own = readOwnAddress(href, old.names.publicAddress)
  if (target.kind === 'missing') {
    if (own) return null
    const inFolder = fromTop(href, old.hostFolder)
    if (inFolder !== null) return inFolder
    if (href.startsWith('/') || leadsAbove(href, from) || (to !== null && folderOf(to) === folderOf(from)))
      return null
    if (to !== null && joins) return null
    // What is not there is wanted where it was wanted, by whoever puts it there.
    return (to === null ? `/${encodePath(target.path)}` : relativeReference(to, target.path)) + target.suffix
  }
  if (target.kind !== 'page' && target.kind !== 'file') return null
  const path = target.kind === 'page' ? names.pages.get(target.id)?.path : names.files.get(target.id)
  if (path === undefined) return null
  // What was named by its folder is, as long as a host shows it so.
  const isFolder = splitReference(own?.href ?? href).path.endsWith('/') && fileOf(path) === homeFile
  const isRooted = own !== null || to === null || href.startsWith('/')
  const named = isRooted ? `${own?.base ?? ''}/${encodePath(path)}` : relativeReference(to, path)
  const shown = isFolder ? named.slice(0, named.length - homeFile.length) || './' : named
  // The site's address by itself is one of its home page.
  const isSame = shown + target.suffix === href || (own !== null && `${own.base}${target.suffix}` === href)
  return isSame ? null : shown + target.suffix
}

const fileOf = (path: string) => path.slice(path.lastIndexOf('/') + 1)

/** Edits that lead the references of a stretch of a page to where things stand now. */
export function mendsIn(page: ReadPage, range: Range, to: string | null, goals: Goals): TextEdit[] {
  return [...referencesWithin(page, range)].flatMap((reference) => {
    const href = mendedHref(reference, page.path, to, goals)
    return href === null
      ? []
      : [{ start: reference.start, end: reference.end, text: writeReference(reference, href) }]
  })
}

/** How a part is written, what it refers to besides pages of the plan named from the top. */
function mendedPart(html: string, from: string, goals: Goals): string {
  const edits = referencesIn(html).flatMap((reference): TextEdit[] => {
    const { start, end, href } = reference
    const mended = href.includes('{') ? null : mendedHref(reference, from, null, goals)
    return mended === null ? [] : [{ start, end, text: writeReference(reference, mended) }]
  })
  return applyEdits(html, edits)
}

/** A stretch of a text after some edits, of which those within it count. */
export const sliceWith = (text: string, { start, end }: Range, edits: readonly TextEdit[]): string =>
  applyEdits(
    text.slice(start, end),
    edits.map((edit) => ({ ...edit, start: edit.start - start, end: edit.end - start })),
  )

/** A text without what all its lines begin with: it is indented again where its slot stands. */
export function withoutLead(text: string, lead: string): string {
  if (lead === '') return text
  const lines = { start: 0, end: text.length }
  const edits = indentEdits(text, lines, fixedIn(text), (was) =>
    was.startsWith(lead) ? was.slice(lead.length) : was,
  )
  return applyEdits(text, edits)
}

/** Whether a stretch is nothing but a list, or empty: the menu of a page, and not what is written in it. */
function isMenu(text: string): boolean {
  if (text === '') return true
  const name = /^<(nav|ul|ol|menu)\b/i.exec(text)?.[1]!.toLowerCase()
  const isOne = name !== undefined && text.toLowerCase().endsWith(`</${name}>`)
  return isOne && !/<(p|h[1-6]|table|img)\b/i.test(text)
}

/**
 * Names for gaps: the largest is what a page is written in, where it is more than a menu; the others are called after what
 * holds them.
 */
function slotNames({ pages, gaps, own }: Pick<Group, 'pages' | 'gaps' | 'own'>): string[] {
  const sizes = gaps.map(({ ranges }) => ranges.reduce((sum, { start, end }) => sum + end - start, 0))
  const isMenuOfAll = gaps.map(({ ranges }) =>
    ranges.every(({ start, end }, index) => isMenu(pages[index]!.text.slice(start, end))),
  )
  const inBody = gaps.map(({ holder }, index) => {
    if (holder === 'head' || holder === 'html') return -1
    return isMenuOfAll[index] && !isMenuOfAll.every(Boolean) ? 0 : sizes[index]!
  })
  // What stands in the main part is more than any stretch beside it, however short.
  const isMain = gaps.map((gap, index) => gap.isMain && inBody[index]! > 0)
  const weights = isMain.includes(true) ? inBody.map((size, index) => (isMain[index] ? size : -1)) : inBody
  const main = weights.indexOf(Math.max(...weights))
  const taken = new Set([mainSlot, ...own.map(({ slot }) => slot)])
  return gaps.map(({ holder }, index) => {
    if (index === main) return mainSlot
    const stem =
      holder
        .toLowerCase()
        .replace(/[^a-z0-9-]+/g, '-')
        .replace(/^[^a-z]+|-+$/g, '') || 'part'
    let name = stem
    for (let nth = 2; taken.has(name); nth++) name = `${stem}-${nth}`
    taken.add(name)
    return name
  })
}

const isWithin = (inner: Range, outer: Range) => inner.start >= outer.start && inner.end <= outer.end

/** Edits that say a page's charset, title and description by the template's own values. */
function valueEdits(page: ReadPage, hasDescriptions: boolean, titleText: string): TextEdit[] {
  const edits: TextEdit[] = []
  if (page.title) edits.push({ ...page.title.range, text: titleText })
  for (const meta of page.metas) {
    const value = (name: string) => meta.get(name)?.value
    const rangeOfValue = (name: string) => meta.get(name)?.range
    const charset = value('charset')
    const isType = value('http-equiv')?.toLowerCase() === 'content-type'
    if (charset !== undefined && !/^utf-?8$/i.test(charset)) {
      const range = rangeOfValue('charset')
      if (range) edits.push({ start: range.start, end: range.end, text: 'utf-8' })
    } else if (isType && /charset=/i.test(value('content') ?? '')) {
      const range = rangeOfValue('content')
      const text = value('content')!.replace(/charset=[^;\s]*/i, 'charset=utf-8')
      if (range && text !== value('content')) edits.push({ start: range.start, end: range.end, text })
    }
    if (hasDescriptions && value('name')?.toLowerCase() === 'description') {
      const range = rangeOfValue('content')
      if (range) edits.push({ start: range.start, end: range.end, text: '{description}' })
    }
  }
  return edits
}

/**
 * What says the language of pages by a value, where each says what it is in to the letter; null where one does not, or
 * without quotes, which a value gets.
 */
function languageEdit(pages: readonly ReadPage[], { languageOf }: Goals): TextEdit | null {
  const ranges = pages.map(({ id, text, tops }) => {
    const range = tops.get('html')?.attributes.get('lang')?.range
    return range &&
      /["']/.test(text[range.start - 1] ?? '') &&
      text.slice(range.start, range.end) === languageOf(id)
      ? range
      : null
  })
  return ranges.every((range) => range !== null) ? { ...ranges[0]!, text: '{language}' } : null
}

/** What goes out as UTF-8 says so, whatever it was. */
export const charsetEdits = (page: ReadPage): TextEdit[] => valueEdits({ ...page, title: null }, false, '')

/**
 * Lifts the template out of a group of pages: one of them with a slot in each gap.
 * @param labelOf what `{page}` stands for
 * @param titleText what stands for a page's title
 */
export function liftTemplate(
  { pages, gaps, parts, said, own: differing }: Group,
  labelOf: (id: string) => string,
  goals: Goals,
  titleText: string,
): Lifted {
  const base = pages[0]!
  const language = languageEdit(pages, goals)
  const own = language
    ? differing.filter(({ attribute, tags }) => attribute !== 'lang' || tags[0] !== base.tops.get('html'))
    : differing
  // Where each says that it has none, that is the template's.
  const isNever = pages.every(({ description }) => description?.text === '')
  const hasDescriptions = !isNever && pages.some(({ description }) => description !== null)
  const names = slotNames({ pages, gaps, own })
  const isLabel = gaps.map(({ ranges }) =>
    ranges.every(
      ({ start, end }, index) =>
        pages[index]!.text.slice(start, end) === escapeText(labelOf(pages[index]!.id)),
    ),
  )
  const slots: TextEdit[] = gaps.map(({ ranges }, index) => ({
    ...ranges[0]!,
    text: isLabel[index] ? '{page}' : `<slot name="${names[index]!}"></slot>`,
  }))
  // A part that is a value of the page's own is written as it was, with the value in its place.
  const written = parts.flatMap(({ part: { html }, ranges }) =>
    html === '' ? [] : [{ ...ranges[0]!, text: mendedPart(html, base.path, goals) }],
  )
  slots.push(...written)
  const isFree = (edit: Range) => !slots.some((slot) => isWithin(edit, slot))
  const toldOthers = [...said].flatMap(([key, name]) => {
    const range = base.said.get(key)?.range
    const text = name === 'title' ? titleText.replaceAll('"', '&quot;').replaceAll("'", '&#39;') : `{${name}}`
    return range ? [{ start: range.start, end: range.end, text }] : []
  })
  const around = own.map(({ tags, attribute, slot }) => {
    const { start, attributes } = tags[0]!
    const range = attributes.get(attribute)?.range
    const text = `{slot.${slot}}`
    return range
      ? { start: range.start, end: range.end, text }
      : { start, end: start, text: ` ${attribute}="${text}"` }
  })
  const values = [
    ...valueEdits(base, hasDescriptions, titleText),
    ...(language ? [language] : []),
    ...toldOthers,
    ...around,
  ].filter(isFree)
  const whole = { start: 0, end: base.text.length }
  const references = mendsIn(base, whole, null, goals).filter(
    (edit) => isFree(edit) && !values.some((one) => isWithin(edit, one)),
  )
  const source = applyEdits(base.text, [...slots, ...values, ...references])
  const model: Model = {
    path: base.path,
    text: base.text,
    slots: gaps.map(({ ranges, edges }, index) => ({
      start: ranges[0]!.start,
      end: ranges[0]!.end,
      name: isLabel[index] ? null : names[index]!,
      edges,
    })),
    written: [
      ...values.flatMap(({ start, end, text }) => (start === end ? [] : [{ start, end, by: text }])),
      ...written.map(({ start, end, text }) => ({ start, end, by: text })),
    ],
  }
  function* heldByPages(): ReturnType<Lifted['held']> {
    for (const [at, page] of pages.entries()) {
      const slots: Record<string, string> = {}
      for (const [index, { ranges }] of gaps.entries()) {
        const range = ranges[at]!
        if (isLabel[index] || range.start === range.end) continue
        const to = goals.names.pages.get(page.id)!.path
        const text = sliceWith(page.text, range, mendsIn(page, range, to, goals))
        slots[names[index]!] = withoutLead(text, leadAt(base.text, ranges[0]!.start))
      }
      for (const { tags, attribute, slot } of own) {
        const value = tags[at]!.attributes.get(attribute)?.value
        if (value !== undefined) slots[slot] = value
      }
      yield { page, slots }
    }
  }
  return { source, model, held: heldByPages }
}
