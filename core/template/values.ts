import { encodeVariable, escapeAttribute, escapeSingleQuoted, escapeText } from '#core/markup'
import type { Page, Site } from '#core/site'
import type { ValueName, ValueSyntax } from './compile'
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
export function valueOf(name: ValueName, site: Site, page: Page, year: number): string {
  switch (name) {
    case 'page':
      return pageTitle(page)
    case 'title':
      return fullTitle(site, page, year)
    case 'description':
      return page.description ?? ''
    default:
      return siteValueOf(name, site, year)
  }
}

/** An expression that has one value on all pages. */
export const isOfSite = (name: ValueName): name is 'site' | 'language' | 'year' =>
  name === 'site' || name === 'language' || name === 'year'

/** Its value, as plain text. */
export function siteValueOf(name: 'site' | 'language' | 'year', site: Site, year: number): string {
  switch (name) {
    case 'site':
      return site.name
    case 'language':
      return site.language
    case 'year':
      return String(year)
  }
}

/** How a value is written where it stands. */
export const escapes: Readonly<Record<ValueSyntax, (value: string) => string>> = {
  text: escapeText,
  url: encodeVariable,
  'double-quoted': escapeAttribute,
  'single-quoted': escapeSingleQuoted,
}
