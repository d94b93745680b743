import { type Token, Tokenizer } from 'parse5'
import type { Range } from './indent'
import { textOnly } from './text-only'

/** What a text has of a document of its own (HTML §4.1, §13.1): from its first tag of that kind to the end of it. */
export interface OwnDocument extends Range {
  /** What is left out where it is put into another: those tags, and what its head says to browsers about a document. */
  readonly extra: readonly Range[]
}

const around = /<!doctype|<\/?(?:html|head|body)(?![\w-])/i
const aroundTag = /^(?:html|head|body)$/
/** Elements of a head (HTML §4.2); what is drawn or run counts in a body too. */
const ofHead = /^(?:title|meta|base|link|style|script|noscript|template)$/
const mostExtra = 1_000

/** Whether a `link` fetches what counts wherever it stands (HTML §4.2.4, "body-ok"). */
const isBodyOk = (token: Token.TagToken): boolean =>
  token.attrs.some(({ name, value }) => name === 'rel' && /\b(?:stylesheet|preload|modulepreload|prefetch|preconnect|dns-prefetch)\b/i.test(value)) // prettier-ignore

/** Tells of a text that stands in a page whether it is a page itself; null where it is a piece of one, as it should be. One pass. */
export function ownDocumentIn(html: string): OwnDocument | null {
  if (!around.test(html)) return null
  const extra: Range[] = []
  let first: Range | null = null
  let isInHead = false
  let isInContent = false
  /** Where the title begins that is open. */
  let title = -1
  let foreign = 0
  const take = (range: Range) => {
    const last = extra[extra.length - 1]
    // What stands beside it on a line goes with it.
    if (last && isBlank(html, last.end, range.start)) extra[extra.length - 1] = { ...last, end: range.end }
    else if (extra.length < mostExtra) extra.push(range)
  }
  const rangeOf = (token: Token.TagToken | Token.DoctypeToken): Range => {
    const { startOffset: start, endOffset: end } = token.location!
    return { start, end }
  }
  const tokenizer: Tokenizer = new Tokenizer(
    { sourceCodeLocationInfo: true },
    {
      onDoctype(token) {
        first ??= rangeOf(token)
        isInHead = !isInContent
        take(rangeOf(token))
      },
      onStartTag(token) {
        const name = token.tagName
        if (foreign === 0 && Object.hasOwn(textOnly, name)) tokenizer.state = textOnly[name]! as never
        tokenizer.lastStartTagName = name
        if (name === 'svg' || name === 'math') {
          if (!token.selfClosing) foreign += 1
        }
        if (foreign > 0) return
        if (aroundTag.test(name)) {
          first ??= rangeOf(token)
          take(rangeOf(token))
          isInHead = name !== 'body' && !isInContent
          return
        }
        if (!ofHead.test(name)) {
          isInHead = false
          isInContent = true
          return
        }
        if (!isInHead) return
        if (name === 'title') title = token.location!.startOffset
        else if (name === 'meta' || name === 'base' || (name === 'link' && !isBodyOk(token)))
          take(rangeOf(token))
      },
      onEndTag(token) {
        const name = token.tagName
        if (name === 'svg' || name === 'math') foreign = Math.max(0, foreign - 1)
        if (foreign > 0) return
        if (aroundTag.test(name)) {
          first ??= rangeOf(token)
          take(rangeOf(token))
          if (name === 'head') isInHead = false
        } else if (name === 'title' && title >= 0) {
          take({ start: title, end: token.location!.endOffset })
          title = -1
        }
      },
      onCharacter() {},
      onComment() {},
      onEof() {},
      onNullCharacter() {},
      onWhitespaceCharacter() {},
    },
  )
  tokenizer.write(html, true)
  return first && { ...(first as Range), extra: extra.map((range) => wholeLine(html, range)) }
}

/** Whether nothing but blanks of one line stands between two places. */
function isBlank(html: string, start: number, end: number): boolean {
  let at = start
  while (at < end && (html[at] === ' ' || html[at] === '\t')) at++
  return at >= end
}

/** A stretch with its line, where nothing else stands on that. */
function wholeLine(html: string, { start, end }: Range): Range {
  let from = start
  while (from > 0 && (html[from - 1] === ' ' || html[from - 1] === '\t')) from--
  let to = end
  while (to < html.length && (html[to] === ' ' || html[to] === '\t' || html[to] === '\r')) to++
  const isAlone = (from === 0 || html[from - 1] === '\n') && (to === html.length || html[to] === '\n')
  return isAlone ? { start: from, end: Math.min(html.length, to + 1) } : { start, end }
}
