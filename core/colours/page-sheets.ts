import { attributeOf, type HtmlNode } from '#core/markup'
import { elementsOf } from './page-tree'
import type { ColourScheme } from './shades'
import { type ImportOf, readRules, type SheetText, type StyleRule } from './sheet-rules'

/** A finished page, and what it takes its styles from. Paths are from the top of the site. */
export interface ColouredPage {
  readonly path: string
  readonly html: string
  /** The text of a style sheet of the site; null where there is none. */
  readonly sheetAt: (path: string) => string | null
}

/** Where the site is taken to stand, so that paths are told from other sites. */
const here = 'https://site.invalid/'

/** The path that a reference of a place leads to; null for one of another site. */
function pathOf(href: string, from: string): string | null {
  try {
    const { origin, pathname } = new URL(href.trim(), from)
    return `${origin}/` === here ? decodeURIComponent(pathname.slice(1)) : null
  } catch {
    // What is no address leads nowhere, here.
    return ''
  }
}

const addressOf = (path: string) => here + path.split('/').map(encodeURIComponent).join('/')

/** Where references of a page start from (HTML §4.2.3). */
function baseOf(root: HtmlNode, path: string): string {
  for (const element of elementsOf(root)) {
    const href = element.tagName === 'base' ? attributeOf(element, 'href') : undefined
    if (href !== undefined)
      return URL.canParse(href, addressOf(path)) ? new URL(href, addressOf(path)).href : addressOf(path)
  }
  return addressOf(path)
}

/** Whether a sheet of another site brings fonts and nothing else, as its address says: most that are asked for do. */
const bringsFonts = (href: string) => /fonts?\b/i.test(href)

/** What a text that knows of a dark set has in it. */
export const saysDark = /color-scheme|light-dark/i

/**
 * The rules of all sheets of a page, in its light or its dark set.
 * @returns null where a sheet of another site has a say
 */
export function rulesOfPage(
  root: HtmlNode,
  page: Omit<ColouredPage, 'html'>,
  scheme: ColourScheme,
): { readonly rules: readonly StyleRule[]; readonly knowsDark: boolean } | null {
  const base = baseOf(root, page.path)
  const sheets = sheetsOf(root, page, base)
  let isFromElsewhere = sheets === null
  let knowsDark = sheets?.some(({ text }) => saysDark.test(text)) ?? false
  const importOf: ImportOf = (href, from) => {
    const path = pathOf(href, from === null ? base : addressOf(from))
    if (path === null && !bringsFonts(href)) isFromElsewhere = true
    const text = path === null ? null : page.sheetAt(path)
    if (text === null) return null
    knowsDark ||= saysDark.test(text)
    return { path, text, media: null }
  }
  const rules = readRules(sheets ?? [], scheme, importOf)
  return isFromElsewhere ? null : { rules, knowsDark }
}

/** The sheets of a page in their order; null where one of another site has a say. */
function sheetsOf(root: HtmlNode, { sheetAt }: Omit<ColouredPage, 'html'>, base: string): SheetText[] | null {
  const sheets: SheetText[] = []
  for (const element of elementsOf(root)) {
    const media = attributeOf(element, 'media')?.trim() || null
    if (element.tagName === 'style') {
      const text = element.childNodes.map((node) => ('value' in node ? node.value : '')).join('')
      sheets.push({ path: null, text, media })
    } else if (element.tagName === 'link') {
      const kinds = (attributeOf(element, 'rel') ?? '').toLowerCase().split(/\s+/)
      if (!kinds.includes('stylesheet') || kinds.includes('alternate')) continue
      const path = pathOf(attributeOf(element, 'href') ?? '', base)
      if (path === null && bringsFonts(attributeOf(element, 'href')!)) continue
      if (path === null) return null
      const text = sheetAt(path)
      if (text !== null) sheets.push({ path, text, media })
    }
  }
  return sheets
}
