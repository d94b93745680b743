import { encodeVariable, escapeAttribute, escapeSingleQuoted, escapeText, trimmedRange } from '#core/markup'
import type { Page, Site } from '#core/site'
import type { CompiledTemplate, Part, ValueName, ValueSyntax } from './compile'
import type { SiteContext } from './context'
import { pageTitle, renderGenerated } from './generated'
import { outputReference } from './output-reference'
import { placeContent, type SlotContent } from './place-content'

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

const escapes: Readonly<Record<ValueSyntax, (value: string) => string>> = {
  text: escapeText,
  url: encodeVariable,
  'double-quoted': escapeAttribute,
  'single-quoted': escapeSingleQuoted,
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

/** A page while it is written. */
class PageWriter {
  /** What is written, in pieces: put together once, since a text that grows is copied again and again. */
  readonly pieces: string[] = []
  #length = 0
  /** Whether the next text leaves out the rest of its line. */
  #skipsLine = false
  readonly #path: string

  constructor(
    private readonly context: SiteContext,
    private readonly template: CompiledTemplate,
    private readonly page: Page,
    private readonly slots: (name: string) => SlotContent | null,
    private readonly year: number,
    private readonly trace: Trace | undefined,
  ) {
    this.#path = context.names.pages.get(page.id)!.path
  }

  run(parts: readonly Part[]): void {
    const { context, page, year } = this
    for (const part of parts) {
      switch (part.kind) {
        case 'text':
          this.#write(part.text, 'template', part.at)
          break
        case 'value': {
          const value = valueOf(part.name, context.site, page, year)
          this.#write(escapes[part.syntax](value), 'value', part.at, part.name)
          break
        }
        case 'reference':
          this.#write(
            outputReference(context, part.planned, this.#path, '') ?? part.text,
            'template',
            part.at,
          )
          break
        case 'nothing':
          this.#drop(part)
          break
        case 'slot':
          this.#slot(part)
          break
        case 'generated': {
          const html = renderGenerated(context, part, page, part.indent, this.template.unit)
          if (html === '') this.#drop(part)
          else this.#write(this.#comment(part) + html, 'generated', part.at, part.part.name)
          break
        }
        case 'optional':
          if (part.needs.every((name) => valueOf(name, context.site, page, year) === '')) this.#drop(part)
          else this.run(part.parts)
          break
      }
    }
  }

  #slot(part: Extract<Part, { kind: 'slot' }>): void {
    const content = this.slots(part.name)
    if (content && /\S/.test(content.text)) {
      const before = this.#comment(part)
      const placed = placeContent(this.context, content, this.#path, part.indent)
      if (this.trace) {
        const cut = content.text.slice(0, trimmedRange(content.text).start)
        this.#write(before + placed.join(''), 'slot', part.at, part.name, breaksIn(cut) - breaksIn(before))
      } else {
        this.#write(before + placed[0]!, 'slot', part.at)
        for (let index = 1; index < placed.length; index++) this.#add(placed[index]!)
      }
    } else if (fallbackOnly(part.fallback)) this.#drop(part)
    else this.run(part.fallback)
  }

  #comment(part: Extract<Part, { kind: 'slot' | 'generated' }>): string {
    return this.context.site.output.comments && part.alone ? commentOf(part) : ''
  }

  #write(text: string, kind: Origin['kind'], at: number, name = '', lines = 0): void {
    if (this.#skipsLine) {
      this.#skipsLine = false
      const rest = text.replace(/^[ \t]*\n/, '')
      if (kind === 'template') at += text.length - rest.length
      text = rest
    }
    if (text === '') return
    this.#add(text)
    this.trace?.push({
      end: this.#length,
      origin: (kind === 'template'
        ? { kind, at }
        : kind === 'slot'
          ? { kind, at, name, lines }
          : { kind, at, name }) as Origin,
    })
  }

  #add(text: string): void {
    this.pieces.push(text)
    this.#length += text.length
  }

  /** Takes back the indentation, and has the next text leave out the rest of the line. */
  #drop(part: { readonly alone: boolean; readonly indent: string }): void {
    if (!part.alone) return
    const { pieces, trace } = this
    for (let left = part.indent.length; left > 0;) {
      const last = pieces.pop() ?? ''
      if (last.length > left) pieces.push(last.slice(0, -left))
      this.#length -= Math.min(left, last.length)
      left -= Math.max(1, last.length)
    }
    while (trace && (trace[trace.length - 1]?.end ?? 0) > this.#length) {
      const last = trace.pop()!
      const before = trace[trace.length - 1]?.end ?? 0
      if (before < this.#length) trace.push({ ...last, end: this.#length })
    }
    this.#skipsLine = true
  }
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
  const writer = new PageWriter(context, template, page, slots, year, trace)
  writer.run(template.parts)
  const { pieces } = writer
  // What is right already is not copied once more.
  const isEnded = /\S\n$/.test((pieces[pieces.length - 1] ?? '').slice(-2))
  return isEnded ? pieces.join('') : pieces.join('').trimEnd() + '\n'
}
