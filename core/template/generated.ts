import { directionOf, writeDate } from '#core/language'
import { escapeAttribute, escapeText } from '#core/markup'
import { ancestorsOf } from '#core/plan'
import type { Page } from '#core/site'
import type { CompiledTemplate } from './compiled'
import { addressFrom } from './addressing'
import { kindredOf, type SiteContext } from './context'
import { plainPath } from './output-reference'
import { type Look, lookOf } from './look'
import { type Entry, homeFor } from './parts'
import type { EntryValue } from './value-names'

type Placed = CompiledTemplate['generated'][number]

/** What a part is on every page, worked out once. */
interface Fixed {
  /** Equal for parts that are written alike. */
  readonly key: string
  readonly look: Look
  readonly omitsOwn: boolean
  readonly dates: boolean
  readonly describes: boolean
  readonly sharedLevels: number | null
  readonly isSiblings: boolean
}

export const fixedOf = (() => {
  const known = new WeakMap<Placed, Fixed>()
  return (placed: Placed): Fixed => {
    let fixed = known.get(placed)
    if (!fixed) known.set(placed, (fixed = workOut(placed)))
    return fixed
  }
})()

function workOut({ part, attributes, pattern, within }: Placed): Fixed {
  return {
    key: JSON.stringify([part.name, attributes, within.listsLanguages, pattern?.source]),
    look: lookOf(part, attributes),
    omitsOwn: part.omitsOwn?.(attributes) ?? false,
    dates: pattern ? pattern.dates : (part.dates?.(attributes) ?? false),
    describes: (part.describes?.(attributes) || pattern?.describes) ?? false,
    sharedLevels: part.sharedLevels?.(attributes) ?? null,
    isSiblings: part.isSharedBySiblings ?? false,
  }
}

export const pageTitle = (page: Page): string => page.title ?? page.label

/** What says that the words of a page stand in one of another language (HTML §3.2.6.2, WCAG 2.2 §3.1.2); '' in its own. */
function otherLanguage({ languages }: SiteContext, on: Page, page: Page): string {
  if (languages.all.length === 1) return ''
  const [language, around] = [languages.of(page), languages.of(on)]
  if (language === around) return ''
  const direction = directionOf(language)
  return ` lang="${language}"${direction === directionOf(around) ? '' : ` dir="${direction}"`}`
}

/** Whether what a part lists keeps to the page's language. */
export const keepsLanguage = ({ part, attributes, within }: Pick<Placed, 'part' | 'attributes' | 'within'>) =>
  within.listsLanguages || (part.keepsLanguage?.(attributes) ?? false)

/** What a part lists on a page. */
export const entriesOf = (context: SiteContext, placed: Placed, page: Page) =>
  placed.part.entries(context, placed.attributes, page, keepsLanguage(placed))

/** The date of a page where a part says it; '' where it does not, and where all that its label says is a date. */
const dateIn = (context: SiteContext, placed: Placed, page: Page): string => {
  const dated = fixedOf(placed).dates ? context.dates.of(page) : null
  return dated && dated.label !== '' ? dated.date : ''
}

/** What a page is called in a part, without the date that the part says in front of it. */
const labelIn = (context: SiteContext, placed: Placed, page: Page): string =>
  placed.part.label?.(context, placed.attributes, page) ??
  (dateIn(context, placed, page) === '' ? page.label : context.dates.of(page)!.label)

/** An entry of a part whose author says how entries are written. */
export interface PatternEntry {
  readonly page: Page
  /** 1-based. */
  readonly level: number
  readonly which: 'own' | 'above' | 'other'
}

/** What a part lists on a page, one after the other. */
export function patternEntries(context: SiteContext, placed: Placed, page: Page): PatternEntry[] {
  const above = placed.part.marksAbove ? aboveOf(context, page) : []
  const found: PatternEntry[] = []
  const add = (entries: readonly Entry[], level: number) => {
    for (const { page: one, below } of entries) {
      const which = one.id === page.id ? 'own' : above.includes(one) ? 'above' : 'other'
      if (which !== 'own' || !fixedOf(placed).omitsOwn) found.push({ page: one, level, which })
      add(below, level + 1)
    }
  }
  add(entriesOf(context, placed, page), 1)
  return found
}

/** A value of an entry, as plain text; an address as it is written. */
export function entryValueOf(
  name: EntryValue,
  context: SiteContext,
  placed: Placed,
  page: Page,
  { page: entry, level }: PatternEntry,
): string {
  switch (name) {
    case 'entry.label':
      return labelIn(context, placed, entry)
    case 'entry.date':
      return writeDate(dateIn(context, placed, entry), context.languages.of(page))
    case 'entry.datetime':
      return dateIn(context, placed, entry)
    case 'entry.title':
      return pageTitle(entry)
    case 'entry.description':
      return entry.description ?? ''
    case 'entry.level':
      return String(level)
    case 'entry.address': {
      const to = context.names.pages.get(entry.id)!.path
      return addressFrom(context.addressing, context.names.pages.get(page.id)!.path, to, plainPath.test(to))
    }
  }
}

/** A link to a page; `from` is the path of the page that it stands on. */
function link(
  context: SiteContext,
  placed: Placed,
  on: Page,
  from: string,
  page: Page,
  above: boolean,
): string {
  const to = context.names.pages.get(page.id)!.path
  const isPlain = plainPath.test(to)
  const address = addressFrom(context.addressing, from, to, isPlain)
  const href = isPlain ? address : escapeAttribute(address)
  const rel = placed.part.rel?.(context, placed.attributes, on, page, keepsLanguage(placed)) ?? ''
  const marked = above ? ' aria-current="true"' : ''
  const other = otherLanguage(context, on, page)
  const leads = other && `${other} hreflang="${context.languages.of(page)}"`
  const { linkAttributes, aboveAttributes } = fixedOf(placed).look
  return `<a${rel && ` rel="${rel}"`}${above ? aboveAttributes : linkAttributes} href="${href}"${leads}${marked}>${escapeText(labelIn(context, placed, page))}</a>`
}

/**
 * A generated part for one page as HTML lines, or '' when it has nothing to show.
 * @param unit one level of indentation
 */
export function renderGenerated(context: SiteContext, placed: Placed, page: Page, unit: string): string {
  const { sharedLevels } = fixedOf(placed)
  const make = () => render(context, placed, page, unit, escapeText(labelIn(context, placed, page)))
  return sharedLevels === null ? make() : madeOnce(context, placed, sharedLevels, page, unit, make)
}

/** Stands for the page's own label in what its siblings share: no text and no tag has it. */
const ownLabel = '<>'

/**
 * A part that is the same on all pages of a folder under one parent: what comes before and after their own labels, as one
 * text where it does not say them. Null where each of them has its own.
 * @param page one of them, and no home page
 */
export function renderForSiblings(
  context: SiteContext,
  placed: Placed,
  page: Page,
  unit: string,
): readonly string[] | null {
  const { sharedLevels, isSiblings } = fixedOf(placed)
  if (placed.pattern) return null
  if (isSiblings) return render(context, placed, page, unit, ownLabel).split(ownLabel)
  if (sharedLevels === null) return null
  // Where they are entries of it themselves, each marks its own.
  const isEntry = aboveOf(context, page).length < levelsUnder(context, placed, sharedLevels, page)
  return isEntry ? null : [renderGenerated(context, placed, page, unit)]
}

/** A part's first level is what stands below the home page of the page's language, wherever that is. */
function levelsUnder(context: SiteContext, placed: Placed, ofPart: number, page: Page): number {
  const home = homeFor(context, page, keepsLanguage(placed))
  return ofPart + (home.id === context.site.homeId ? 0 : context.tree.placeOf.get(home.id)!.depth + 1)
}

/**
 * What a part whose author says how entries are written is on a page: made once for all pages that it is the same on, where
 * it says nothing of the page itself.
 */
export function patternText(context: SiteContext, placed: Placed, page: Page, make: () => string): string {
  const { sharedLevels } = fixedOf(placed)
  if (sharedLevels === null || !placed.pattern?.isOfEntries) return make()
  return madeOnce(context, placed, sharedLevels, page, '', make)
}

/** @param ofPart levels of it that pages have to stand alike under */
function madeOnce(
  context: SiteContext,
  placed: Placed,
  ofPart: number,
  page: Page,
  unit: string,
  make: () => string,
): string {
  const kindred = kindredOf(context, page)
  const above = aboveOf(context, page)
  const levels = levelsUnder(context, placed, ofPart, page)
  const isEntry = above.length < levels
  const known = context.latestParts.get(placed)
  if (known && !isEntry && known.isShared && known.kindred === kindred && sameTo(levels, known.above, above))
    return known.html
  const marks = [...above, page].slice(0, levels).map((one) => one.id)
  const key = `${fixedOf(placed).key} ${placed.indent}|${unit}|${isEntry ? 1 : 0}${kindred}|${marks.join()}`
  const html = context.made.get(key, make)
  context.latestParts.set(placed, { kindred, above, isShared: !isEntry, html })
  return html
}

const sameTo = (count: number, these: readonly Page[], those: readonly Page[]): boolean => {
  for (let at = 0; at < count; at++) if (these[at] !== those[at]) return false
  return true
}

/** The pages above a page: the same list for siblings that are asked for one after the other. */
function aboveOf(context: SiteContext, page: Page): readonly Page[] {
  if (context.latestAbove?.parentId !== page.parentId)
    context.latestAbove = { parentId: page.parentId, above: ancestorsOf(context.tree, page) }
  return context.latestAbove!.above
}

/** @param own its own label, as it is written */
function render(context: SiteContext, placed: Placed, page: Page, unit: string, own: string): string {
  const { part, indent } = placed
  const entries = entriesOf(context, placed, page)
  if (entries.length === 0) return ''
  const { look, omitsOwn, describes } = fixedOf(placed)
  const { opening, closing, between, mark } = look
  const from = context.names.pages.get(page.id)!.path
  const above = part.marksAbove ? aboveOf(context, page) : []
  // An `a` without `href` is the standard's own way to show where one stands (HTML §4.5.1).
  const marked = `<${mark}${look.ownAttributes} aria-current="page">${own}</${mark}>`
  const anchorOf = (one: Page) => {
    const date = dateIn(context, placed, one)
    const words = date && writeDate(date, context.languages.of(page))
    return (
      (date && `<time datetime="${date}">${escapeText(words)}</time> `) +
      (one.id === page.id ? marked : link(context, placed, page, from, one, above.includes(one)))
    )
  }
  if (between !== null) {
    const shown = inOrder(entries).filter((one) => !(omitsOwn && one.id === page.id))
    return shown.length === 0 ? '' : opening + shown.map(anchorOf).join(between) + closing
  }
  let html = opening
  let count = 0
  const list = (items: readonly Entry[], depth: string, attributes: string) => {
    const begin = `\n${depth}${unit}`
    html += `\n${depth}<${part.list}${attributes}>`
    for (const { page: one, below } of items) {
      if (omitsOwn && one.id === page.id && below.length === 0) continue
      count += 1
      const anchor = anchorOf(one)
      const isAbove = above.includes(one)
      const item =
        one.id === page.id ? look.ownItemAttributes : isAbove ? look.aboveItemAttributes : look.itemAttributes
      const description = describes ? (one.description ?? '') : ''
      if (below.length === 0 && description === '') html += `${begin}<li${item}>${anchor}</li>`
      else {
        html += `${begin}<li${item}>${begin}${unit}${anchor}`
        if (description !== '')
          html += `${begin}${unit}<p${otherLanguage(context, page, one)}>${escapeText(description)}</p>`
        if (below.length > 0) list(below, `${depth}${unit}${unit}`, '')
        html += `${begin}</li>`
      }
    }
    html += `\n${depth}</${part.list}>`
  }
  list(entries, opening === '' ? indent : `${indent}${unit}`, look.listAttributes)
  // With nothing but empty lists it leaves nothing behind.
  if (count === 0) return ''
  return opening === '' ? html.slice(`\n${indent}`.length) : `${html}\n${indent}${closing}`
}

/** Pages of entries, each before those below it. */
const inOrder = (entries: readonly Entry[]): Page[] =>
  entries.flatMap(({ page, below }) => [page, ...inOrder(below)])

/** What is the same on all pages that share it; null where each page has its own. */
export function sharedKey(context: SiteContext, placed: Placed, page: Page): string | null {
  const depends = placed.part.dependsOn?.(context, placed.attributes, page, keepsLanguage(placed))
  return depends === undefined ? null : `${fixedOf(placed).key} ${depends}`
}

/**
 * Everything of other pages that a part shows on this one; equal texts, equal parts. What is the same
 * for a whole section is written once for it.
 * @param digest makes a short text of a long one
 */
export function generatedSignature(
  context: SiteContext,
  placed: Placed,
  page: Page,
  digest: (text: string) => string,
): string {
  const { describes } = fixedOf(placed)
  const { languages } = context
  const told = (one: Page) => {
    const label = `${dateIn(context, placed, one)}\u0005${labelIn(context, placed, one)}`
    const said = describes
      ? `${label}\u0003${one.description ?? ''}\u0003${placed.pattern ? pageTitle(one) : ''}`
      : label
    return languages.all.length > 1 ? `${languages.of(one)}\u0004${said}` : said
  }
  const write = (entries: readonly Entry[]): string =>
    entries
      .map(
        (one) => `${told(one.page)}\u0001${context.names.pages.get(one.page.id)!.path}(${write(one.below)})`,
      )
      .join('\u0002')
  const made = () => digest(write(entriesOf(context, placed, page)))
  const key = sharedKey(context, placed, page)
  if (key === null) return made()
  let signature = context.signatures.get(key)
  if (signature === undefined) context.signatures.set(key, (signature = made()))
  return signature
}
