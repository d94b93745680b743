import { escapeText, trimmedRange } from '#core/markup'
import type { Page } from '#core/site'
import type { CompiledTemplate, Part, Pattern } from './compiled'
import type { SiteContext } from './context'
import { commentOf } from './comment'
import { type FolderPart, folderParts } from './folder-parts'
import { entryValueOf, type PatternEntry, patternEntries, patternText, renderGenerated } from './generated'
import { templateReference } from './home-reference'
import { placeContent, type SlotContent } from './place-content'
import { isEntryValue, isSlotValue, isTranslationValue, slotOfValue, type ValueName } from './value-names'
import { translationValueOf, valueOf, writtenValue } from './values'

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

type Generated = Extract<Part, { kind: 'generated' }>

/** A text without the spaces and tabs at its end: a pattern would try each row of them within it. */
function withoutBlanks(text: string): string {
  let end = text.length
  while (end > 0 && (text[end - 1] === ' ' || text[end - 1] === '\t')) end--
  return text.slice(0, end)
}

/** A page while it is written. */
class PageWriter {
  /** What is written, in pieces: put together once, since a text that grows is copied again and again. */
  readonly pieces: string[] = []
  #length = 0
  /** Whether the next text leaves out the rest of its line. */
  #skipsLine = false
  readonly #path: string
  /** The page in the language that is being written of. */
  #translation: Page | null = null
  /** The entry of a part that is being written, in its author's own way. */
  #entry: { readonly part: Generated; readonly entry: PatternEntry } | null = null

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

  run(parts: readonly FolderPart[]): void {
    const { context, page } = this
    for (const part of parts) {
      const from = this.#length
      switch (part.kind) {
        case 'text': {
          const skipped = this.#add(part.text)
          this.#tell(from, { kind: 'template', at: part.at + skipped })
          break
        }
        case 'label':
          this.#add(escapeText(page.label))
          break
        case 'value':
          this.#add(writtenValue(part.name, part.syntax, this.#valueOf(part.name)))
          this.#tell(from, { kind: 'value', at: part.at, name: part.name })
          break
        case 'reference':
          this.#add(templateReference(context, this.template, part.planned, page) ?? part.text)
          this.#tell(from, { kind: 'template', at: part.at })
          break
        case 'nothing':
          this.#drop(part)
          break
        case 'slot':
          this.#slot(part, from)
          break
        case 'generated': {
          if (part.pattern) {
            this.#pattern(part, part.pattern, from)
            break
          }
          const html = renderGenerated(context, part, page, this.template.unit)
          if (html === '') {
            this.#drop(part)
            break
          }
          this.#add(this.#comment(part))
          this.#add(html)
          this.#tell(from, { kind: 'generated', at: part.at, name: part.part.name })
          break
        }
        case 'optional':
          if (part.needs.every((name) => this.#valueOf(name) === '')) this.#drop(part)
          else this.run(part.parts)
          break
        case 'each':
          this.#each(part)
          break
        case 'attribute':
          if (this.#valueOf(part.name) !== '') this.run(part.parts)
          break
      }
    }
  }

  #valueOf(name: ValueName): string {
    if (isSlotValue(name)) return this.slots(slotOfValue(name))?.text.trim() ?? ''
    if (isTranslationValue(name))
      return translationValueOf(name, this.context, this.#translation ?? this.page)
    if (isEntryValue(name))
      return this.#entry
        ? entryValueOf(name, this.context, this.#entry.part, this.page, this.#entry.entry)
        : ''
    return valueOf(name, this.context, this.page, this.year)
  }

  /** Once for each language of the page in which it says all that it says, each on a line of its own. */
  #each(part: Extract<Part, { kind: 'each' }>): void {
    const { context, page } = this
    let isFirst = true
    for (const translation of context.translations.of(page)) {
      this.#translation = translation
      if (part.needs.some((name) => this.#valueOf(name) === '')) continue
      if (!isFirst && part.alone) this.#add(`\n${part.indent}`)
      isFirst = false
      this.run(part.parts)
    }
    this.#translation = null
    if (isFirst) this.#drop(part)
  }

  /** What a part lists, each entry as its author writes such ones. */
  #pattern(part: Generated, pattern: Pattern, from: number): void {
    const html = patternText(this.context, part, this.page, () => this.#written(part, pattern))
    if (html === '') return this.#drop(part)
    this.#add(this.#comment(part))
    this.#add(html)
    this.#tell(from, { kind: 'generated', at: part.at, name: part.part.name })
  }

  /** Its entries one after the other, by themselves; '' where there are none. */
  #written(part: Generated, pattern: Pattern): string {
    const entries = patternEntries(this.context, part, this.page)
    if (entries.length === 0) return ''
    const writer = new PageWriter(this.context, this.template, this.page, this.slots, this.year, undefined)
    const { first, joint } = pattern
    writer.run(pattern.before)
    writer.#add(first)
    for (const [nth, entry] of entries.entries()) {
      if (nth > 0) writer.#add(joint)
      if (nth > 0 && pattern.between) {
        writer.run(pattern.between)
        writer.#add(joint)
      }
      writer.#entry = { part, entry }
      writer.run((entry.which === 'other' ? null : pattern[entry.which]) ?? pattern.each)
      writer.#entry = null
    }
    writer.run(pattern.after)
    return writer.pieces.join('')
  }

  #slot(part: Extract<Part, { kind: 'slot' }>, from: number): void {
    const content = this.slots(part.name)
    if (content && /\S/.test(content.text)) {
      const comment = this.#comment(part)
      this.#add(comment)
      const first = this.pieces.length
      placeContent(this.context, content, this.#path, part.indent, this.pieces)
      this.#added(first)
      if (!this.trace) return
      const cut = content.text.slice(0, trimmedRange(content.text).start)
      const lines = breaksIn(cut) - breaksIn(comment)
      this.#tell(from, { kind: 'slot', at: part.at, name: part.name, lines })
    } else if (fallbackOnly(part.fallback)) this.#drop(part)
    else this.run(part.fallback)
  }

  #comment(part: Extract<Part, { kind: 'slot' | 'generated' }>): string {
    return commentOf(part, this.context.site.output)
  }

  /** @returns how much of the text's beginning was left out */
  #add(text: string): number {
    if (text === '') return 0
    this.pieces.push(text)
    return this.#added(this.pieces.length - 1)
  }

  /**
   * Counts pieces that were added from a place on.
   * @returns how much of the beginning was left out
   */
  #added(first: number): number {
    const { pieces } = this
    let skipped = 0
    if (this.#skipsLine) {
      const at = pieces.findIndex((piece, nth) => nth >= first && piece !== '')
      if (at < 0) return 0
      this.#skipsLine = false
      skipped = /^[ \t]*\n|/.exec(pieces[at]!)![0].length
      pieces[at] = pieces[at]!.slice(skipped)
    }
    // Where it is not told what wrote what, nobody asks.
    if (this.trace) for (let at = first; at < pieces.length; at++) this.#length += pieces[at]!.length
    return skipped
  }

  /** Notes what wrote all from a place on. */
  #tell(from: number, origin: Origin): void {
    if (this.trace && this.#length > from) this.trace.push({ end: this.#length, origin })
  }

  /** Takes back the indentation, and has the next text leave out the rest of the line. */
  #drop(part: { readonly alone: boolean }): void {
    if (!part.alone) return
    const { pieces, trace } = this
    // However much it is: what stands within something else has been indented with that.
    for (let last = pieces.pop(); last !== undefined; last = pieces.pop()) {
      const kept = withoutBlanks(last)
      this.#length -= last.length - kept.length
      if (kept === '') continue
      pieces.push(kept)
      break
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
  // What wrote each stretch is told of the parts as they are; what is written is the same.
  writer.run(trace ? template.parts : folderParts(context, template, page, year))
  const { pieces } = writer
  // What is right already is not copied once more.
  const isEnded = /\S\n$/.test((pieces[pieces.length - 1] ?? '').slice(-2))
  return isEnded ? pieces.join('') : pieces.join('').trimEnd() + '\n'
}
