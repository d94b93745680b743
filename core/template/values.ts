import { directionOf, readLabelDate, writeDate } from '#core/language'
import { encodePath, encodeVariable, escapeAttribute, escapeSingleQuoted, escapeText } from '#core/markup'
import type { Page, Site } from '#core/site'
import type { ValueSyntax } from './compiled'
import type { EntryValue, SlotValue, TranslationValue, ValueName } from './value-names'
import type { SiteContext } from './context'
import { feedId, namesOf } from '#core/naming'
import { homeFileOf, isErrorPage } from './addressing'
import { pageTitle } from './generated'

let latestPattern: { readonly pattern: string; readonly parts: readonly string[] } | null = null

/** A title pattern in pieces; the same one is asked for by every page. */
function patternParts(pattern: string): readonly string[] {
  if (latestPattern?.pattern !== pattern)
    latestPattern = { pattern, parts: pattern.split(/(\{(?:page|site|year)\})/) }
  return latestPattern.parts
}

/** A page's title as it stands in the browser's tab: the pattern over `{page}` and `{site}`. */
export function fullTitle(
  site: Pick<Site, 'name' | 'titlePattern' | 'homeTitlePattern' | 'homeId'>,
  page: Page,
  year: number,
): string {
  const title = pageTitle(page)
  if (page.titleAlone) return title
  const isHome = page.id === site.homeId
  // "Marrow Skerry Light – Marrow Skerry Light" helps nobody, unless it was asked for.
  if (title === site.name && !(isHome && site.homeTitlePattern !== '')) return title
  const pattern = (isHome && site.homeTitlePattern) || site.titlePattern
  let out = ''
  for (const part of patternParts(pattern))
    out += part === '{page}' ? title : part === '{site}' ? site.name : part === '{year}' ? year : part
  return out
}

/** The value of an expression on one page, as plain text. */
export function valueOf(
  name: Exclude<ValueName, SlotValue | TranslationValue | EntryValue>,
  context: SiteContext,
  page: Page,
  year: number,
): string {
  const { site, languages, dates } = context
  switch (name) {
    case 'page':
      return pageTitle(page)
    case 'title':
      return fullTitle(site, page, year)
    case 'description':
      return page.description ?? ''
    case 'address':
      return pageAddress(site, page)
    case 'site':
      return site.name
    case 'language':
      return languages.of(page)
    case 'direction':
      return directionOf(languages.of(page))
    case 'year':
      return String(year)
    case 'date':
      return shownDate(context, page)
    case 'datetime':
      return dates.of(page)?.date ?? ''
    case 'feed':
      return feedAddress(site, languages.of(page))
  }
}

/** A page's date as it is read; '' where its title says it already, as it mostly does where the label has it. */
function shownDate({ dates, languages }: SiteContext, page: Page): string {
  const language = languages.of(page)
  const date = dates.of(page)?.date ?? ''
  return date === '' || readLabelDate(pageTitle(page), language)?.date === date
    ? ''
    : writeDate(date, language)
}

/** What is said of a page in one of the languages that it is in. */
export const translationValueOf = (
  name: TranslationValue,
  { site, languages }: SiteContext,
  translation: Page,
): string => (name === 'translation.language' ? languages.of(translation) : pageAddress(site, translation))

/** Expressions that have one value on all pages of one language. */
const ofKindred = ['site', 'language', 'direction', 'year', 'feed'] as const
export const isOfKindred = (name: ValueName): name is (typeof ofKindred)[number] =>
  (ofKindred as readonly string[]).includes(name)

/**
 * Where visitors find a page: its whole address (RFC 3986 §3), percent-encoded, a home page's that of its folder, which is
 * the same on every host; '' where nothing is said of the site's, and for a page that hosts show in place of others.
 */
export function pageAddress(site: Site, page: Page): string {
  if (site.publicAddress === '') return ''
  const { path } = namesOf(site).pages.get(page.id)!
  if (isErrorPage(path)) return ''
  const homeFile = homeFileOf(site)
  const isHome = path === homeFile || path.endsWith(`/${homeFile}`)
  return site.publicAddress + encodePath(isHome ? path.slice(0, -homeFile.length) : path)
}

/** Where feed readers find what is new in a language: a whole address, '' where no feed of it is made. */
export function feedAddress(site: Site, language: string): string {
  const path = namesOf(site).files.get(feedId(language))
  return path === undefined ? '' : site.publicAddress + encodePath(path)
}

/** Values that are an address as a whole. */
const addresses: readonly ValueName[] = ['address', 'feed', 'translation.address', 'entry.address']

/** How a value is written where it stands. */
const escapes: Readonly<Record<ValueSyntax, (value: string) => string>> = {
  text: escapeText,
  url: encodeVariable,
  'double-quoted': escapeAttribute,
  'single-quoted': escapeSingleQuoted,
}

/** A value as it is written where it stands. */
export function writtenValue(name: ValueName, syntax: ValueSyntax, value: string): string {
  // An address is one as a whole, whichever quotes are around it.
  if (syntax === 'url' && addresses.includes(name)) return escapeAttribute(value).replace(/'/g, '&#39;')
  return escapes[syntax](value)
}
