import { relativeReference, resolveReference } from '#core/links'
import {
  applyEdits,
  encodeVariable,
  escapeAttribute,
  escapeSingleQuoted,
  escapeText,
  type HtmlFacts,
  indentEdits,
  indentUnit,
  leadInUnits,
  type Range,
  type Reference,
  type TextEdit,
  trimmedRange,
  writeReference,
} from '#core/markup'
import { trialFolder } from '#core/naming'
import type { Page, Site } from '#core/site'
import type { CompiledTemplate, Part, ValueName, ValueSyntax } from './compile'
import { unitOf } from './compose'
import type { SiteContext } from './context'
import { pageTitle, renderGenerated } from './generated'

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
    case 'site':
      return site.name
    case 'description':
      return page.description ?? ''
    case 'language':
      return site.language
    case 'year':
      return String(year)
  }
}

/** The home file's name, which stands for its folder. */
export const homeFileOf = (site: Pick<Site, 'scheme'>): string => site.scheme.homeName + site.scheme.extension

/**
 * A reference as it has to stand in the finished file at `path`, or null when what is written is
 * right already: relative, and naming a file, not a folder, so that it works from a disk too.
 * @param from where it is understood from: `path` for a content, '' for the template
 */
export function outputReference(
  context: SiteContext,
  reference: Reference,
  path: string,
  from = path,
): string | null {
  const target = resolveReference(reference.href, from, context.names, homeFileOf(context.site))
  if (target.kind === 'elsewhere' || target.kind === 'here') return null
  // A trial page is never part of what comes out: a link to one is written as it will be right once the
  // page is none, and is a finding until then.
  if (target.path.startsWith(trialFolder) && !path.startsWith(trialFolder))
    return relativeReference(path, target.path.slice(trialFolder.length)) + target.suffix
  // A relative one that names a file exactly is the author's spelling, and stays.
  const rooted = reference.href.startsWith('/') || from !== path
  if (
    !rooted &&
    (target.kind === 'missing' || reference.href.split(/[?#]/)[0]!.endsWith(target.path.split('/').pop()!))
  )
    return null
  return relativeReference(path, target.path) + target.suffix
}

const escapes: Readonly<Record<ValueSyntax, (value: string) => string>> = {
  text: escapeText,
  url: encodeVariable,
  'double-quoted': escapeAttribute,
  'single-quoted': escapeSingleQuoted,
}

/** What a page puts into a slot, already read. */
export interface SlotContent {
  readonly text: string
  readonly facts: HtmlFacts
}

/** A content for the place where it will stand: references written for it, lines indented, all in one pass. */
function placeContent(
  context: SiteContext,
  { text, facts }: SlotContent,
  path: string,
  indent: string,
): string {
  const range = trimmedRange(text)
  const { output } = context.site
  const edits: TextEdit[] = []
  if (output.indent !== 'as-written') {
    const own = leadInUnits(indentUnit(text, facts.fixed), unitOf(output, text, facts.fixed))
    edits.push(...indentEdits(text, range, facts.fixed, (lead) => indent + own(lead)))
  } else if (indent !== '') edits.push(...indentEdits(text, range, facts.fixed, (lead) => indent + lead))
  for (const reference of facts.references) {
    const href = outputReference(context, reference, path)
    if (href !== null && href !== reference.href)
      edits.push({ start: reference.start, end: reference.end, text: writeReference(reference, href) })
  }
  const cuts: readonly Range[] = [
    { start: 0, end: range.start },
    ...facts.bases,
    { start: range.end, end: text.length },
  ]
  const isCut = ({ start, end }: Range) => cuts.some((cut) => cut.start < end && start < cut.end)
  return applyEdits(text, [
    ...(facts.bases.length > 0 ? edits.filter((edit) => !isCut(edit)) : edits),
    ...cuts.map((cut) => ({ ...cut, text: '' })),
  ])
}

const fallbackOnly = (parts: readonly Part[]) =>
  parts.every((part) => part.kind === 'text' && part.text.trim() === '')

/** What wrote a stretch of a finished page. */
export type Origin =
  /** The template itself; `at` counts in it as it was composed. */
  | { readonly kind: 'template'; readonly at: number }
  | { readonly kind: 'value'; readonly at: number; readonly name: ValueName }
  | { readonly kind: 'generated'; readonly at: number; readonly name: string }
  /** `lines`: how many lines its text has that are not in the page, less those that are put in front of it. */
  | { readonly kind: 'slot'; readonly at: number; readonly name: string; readonly lines: number }

/** Stretches of a finished page in order, each up to `end`, and what wrote them. */
export type Trace = { end: number; readonly origin: Origin }[]

const breaksIn = (text: string): number => text.split('\n').length - 1

/** Words of the comment in front of a part, where comments are wanted. */
const commentOf = (part: Extract<Part, { kind: 'slot' | 'generated' }>): string => {
  const words = part.kind === 'slot' ? part.name : (part.attributes['aria-label'] ?? part.part.name)
  // Nothing that could end a comment, or make it an error (HTML §13.1.6).
  return `<!-- ${words.replace(/--+|[<>]/g, ' ').trim()} -->\n${part.indent}`
}

/**
 * One page's HTML: the template with its slots filled, generated parts made, values put in and
 * references relative to the page. Line ends are `\n`.
 * @param trace gets what wrote each stretch of it
 */
export function renderPage(
  context: SiteContext,
  template: CompiledTemplate,
  page: Page,
  slots: (name: string) => SlotContent | null,
  year: number,
  trace?: Trace,
): string {
  const { site } = context
  const path = context.names.pages.get(page.id)!.path
  let out = ''

  /** Takes back the indentation, and tells the next text to skip the rest of the line. */
  let skipNewline = false
  const drop = (part: { alone: boolean; indent: string }) => {
    if (!part.alone) return
    out = out.slice(0, out.length - part.indent.length)
    while (trace && (trace[trace.length - 1]?.end ?? 0) > out.length) {
      const last = trace.pop()!
      const before = trace[trace.length - 1]?.end ?? 0
      if (before < out.length) trace.push({ ...last, end: out.length })
    }
    skipNewline = true
  }
  const write = (text: string, origin: Origin) => {
    if (skipNewline) {
      skipNewline = false
      const rest = text.replace(/^[ \t]*\n/, '')
      if (trace && origin.kind === 'template')
        origin = { ...origin, at: origin.at + text.length - rest.length }
      text = rest
    }
    out += text
    if (trace && text !== '') trace.push({ end: out.length, origin })
  }
  const comment = (part: Extract<Part, { kind: 'slot' | 'generated' }>) =>
    site.output.comments && part.alone ? commentOf(part) : ''
  const slot = (part: Extract<Part, { kind: 'slot' }>) => {
    const content = slots(part.name)
    if (content && content.text.trim() !== '') {
      const before = comment(part)
      const cut = trace ? content.text.slice(0, trimmedRange(content.text).start) : ''
      write(before + placeContent(context, content, path, part.indent), {
        kind: 'slot',
        at: part.at,
        name: part.name,
        lines: breaksIn(cut) - breaksIn(before),
      })
    } else if (fallbackOnly(part.fallback)) drop(part)
    else run(part.fallback)
  }
  function run(parts: readonly Part[]): void {
    for (const part of parts) {
      switch (part.kind) {
        case 'text':
          write(part.text, { kind: 'template', at: part.at })
          break
        case 'value': {
          const value = valueOf(part.name, site, page, year)
          write(escapes[part.syntax](value), { kind: 'value', at: part.at, name: part.name })
          break
        }
        case 'reference': {
          const href = outputReference(context, part.reference, path, '')
          write(writeReference(part.reference, href ?? part.reference.href), {
            kind: 'template',
            at: part.at,
          })
          break
        }
        case 'nothing':
          drop(part)
          break
        case 'slot':
          slot(part)
          break
        case 'generated': {
          const html = renderGenerated(context, part, page, part.indent, template.unit)
          if (html === '') drop(part)
          else write(comment(part) + html, { kind: 'generated', at: part.at, name: part.part.name })
          break
        }
        case 'optional':
          if (part.needs.every((name) => valueOf(name, site, page, year) === '')) drop(part)
          else run(part.parts)
          break
      }
    }
  }
  run(template.parts)
  return out.trimEnd() + '\n'
}
