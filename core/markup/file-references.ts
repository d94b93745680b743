import { tableOf } from '#core/site'
import { findCssReferences } from './css'
import { type LinePlace, Lines } from './lines'
import { referencesIn } from './html-references'
import type { Reference } from './reference'
import { findRobotsReferences, findXmlReferences } from './xml-references'
import { findSettingsReferences } from './settings-references'
import { findDataReferences, findScriptReferences } from './script-references'

/** What a file is read as for what it refers to. */
export type FileSyntax = 'css' | 'script' | 'data' | 'manifest' | 'drawing' | 'xml' | 'robots' | 'settings'

const syntaxes = tableOf<FileSyntax>({
  css: 'css',
  js: 'script',
  mjs: 'script',
  json: 'data',
  webmanifest: 'manifest',
  svg: 'drawing',
  xml: 'xml',
  rss: 'xml',
  atom: 'xml',
  opml: 'xml',
  xspf: 'xml',
})

/** Bytes of a file that is read for what it refers to; what is longer was made by a machine, and is made by it again. */
const longest = 5_000_000

/** What a file is read as, by its name; null for one whose references are not known. */
export function fileSyntaxOf(name: string, sizeBytes: number): FileSyntax | null {
  if (sizeBytes > longest && !/\.css$/i.test(name)) return null
  const base = name.slice(name.lastIndexOf('/') + 1).toLowerCase()
  if (base === 'manifest.json') return 'manifest'
  if (base === 'robots.txt') return 'robots'
  if (base === '.htaccess') return 'settings'
  return syntaxes[base.slice(base.lastIndexOf('.') + 1)] ?? null
}

/** Whether a text can refer to anything, told without parsing it; may be wrong by saying that it does. */
export function mayRefer(text: string, syntax: FileSyntax): boolean {
  if (syntax === 'css') return /url\(|@import/i.test(text)
  if (syntax === 'drawing') return /href\s*=\s*["']?[^#"'\s]|url\(\s*["']?[^#"'\s]/i.test(text)
  if (syntax === 'robots') return /sitemap/i.test(text)
  if (syntax === 'settings') return /ErrorDocument|FallbackResource|Redirect|RewriteRule/i.test(text)
  return /["'`>]/.test(text)
}

/**
 * What a file refers to. One that was no text as a whole has none: written anew, it would not be what it was.
 * A drawing is read as pages have drawings (SVG 2 §16.1), linear in its length.
 */
export function referencesOfFile(text: string, syntax: FileSyntax): readonly Reference[] {
  if (syntax === 'css') return findCssReferences(text)
  if (text.includes('\ufffd')) return []
  switch (syntax) {
    case 'script':
      return findScriptReferences(text, true)
    case 'data':
      // Data says nothing of where its paths are meant from; what fetches it is a script.
      return findDataReferences(text).map((one) => ({ ...one, fromPage: true }))
    case 'manifest':
      return findDataReferences(text, true)
    case 'xml':
      return findXmlReferences(text)
    case 'robots':
      return findRobotsReferences(text)
    case 'settings':
      return findSettingsReferences(text)
    case 'drawing':
      return mayRefer(text, syntax) ? referencesIn(text) : []
  }
}

/** What one reading of a file yields that refers to others. Depends on nothing but its text. */
export interface FileFacts {
  readonly references: readonly (Reference & LinePlace)[]
}

/** Reads a file once, for all that later steps ask. */
export function readFile(text: string, syntax: FileSyntax): FileFacts {
  const lines = new Lines(text)
  return {
    references: referencesOfFile(text, syntax).map((one) => ({ ...one, ...lines.placeOf(one.start) })),
  }
}
