import { Token, Tokenizer } from 'parse5'
import { endedBy } from './ended-tags'
import type { Range } from './indent'
import { textOnly } from './text-only'

/** A tag that does not match: an element left open, or a closing tag that closes nothing. */
export interface TagFault extends Range {
  readonly kind: 'unclosed' | 'stray'
  readonly name: string
}

/** Elements without an end tag (HTML §13.1.2), and those of which parsers know none either (HTML §13.2.6, §13.3). */
const voids = new Set(['area', 'base', 'basefont', 'bgsound', 'br', 'col', 'embed', 'frame', 'hr', 'img', 'input', 'keygen', 'link', 'meta', 'param', 'source', 'track', 'wbr']) // prettier-ignore
/** Elements whose end tag may be left out (HTML §13.1.2.4). */
const optional = new Set(['html', 'head', 'body', 'li', 'dt', 'dd', 'p', 'rt', 'rp', 'optgroup', 'option', 'colgroup', 'caption', 'thead', 'tbody', 'tfoot', 'tr', 'td', 'th']) // prettier-ignore
const mostFaults = 1_000
/** Elements open at once that are looked through for the one that is closed: what is deeper is no page. */
const mostOpen = 2_000

/**
 * Tags that do not match, in order. The standard lets browsers mend these without a word, each in its own
 * way of what was meant; a parser's list of errors does not name them all. One pass.
 * @param onUnfinished told where the tag begins in which the text ends
 */
export function findTagFaults(source: string, onUnfinished?: (start: number) => void): TagFault[] {
  const faults: TagFault[] = []
  /** `within`: how deep in drawings and formulas the element itself stands. */
  const open: { name: string; start: number; end: number; within: number }[] = []
  let foreign = 0
  const range = (token: Token.TagToken) => {
    const { startOffset: start, endOffset: end } = token.location!
    return { start, end }
  }
  const report = (kind: TagFault['kind'], name: string, { start, end }: Range) => {
    if (faults.length < mostFaults) faults.push({ kind, name, start, end })
  }
  const pop = () => {
    const last = open.pop()
    if (last) foreign = last.within
    return last
  }
  const top = () => open[open.length - 1]?.name ?? ''

  const tokenizer: Tokenizer = new Tokenizer(
    { sourceCodeLocationInfo: true },
    {
      onStartTag(token) {
        const name = token.tagName
        // A drawing has no rules but its tags.
        const ended = foreign === 0 ? endedBy(name) : []
        while (ended.includes(top())) pop()
        if ((foreign === 0 && voids.has(name)) || (token.selfClosing && foreign > 0)) return
        const within = foreign
        if (name === 'svg' || name === 'math') {
          if (token.selfClosing) return
          foreign += 1
        } else if (name === 'foreignobject') foreign = 0
        if (foreign === 0 && Object.hasOwn(textOnly, name)) tokenizer.state = textOnly[name]! as never
        tokenizer.lastStartTagName = name
        open.push({ name, ...range(token), within })
      },
      onEndTag(token) {
        const name = token.tagName
        if (top() === name) return void pop()
        let at = open.length - 1
        const from = Math.max(0, open.length - mostOpen)
        while (at >= from && open[at]!.name !== name) at--
        if (at < from) at = -1
        if (at < 0) return report('stray', name, range(token))
        // What is still open in it ends with it.
        while (open.length > at + 1) {
          const inner = pop()!
          if (!optional.has(inner.name)) report('unclosed', inner.name, inner)
        }
        pop()
      },
      onComment() {},
      onDoctype() {},
      onEof() {
        const last = tokenizer['currentToken']
        if (last?.type === Token.TokenType.START_TAG || last?.type === Token.TokenType.END_TAG)
          onUnfinished?.(last.location!.startOffset)
      },
      onCharacter() {},
      onNullCharacter() {},
      onWhitespaceCharacter() {},
    },
  )
  tokenizer.write(source, true)
  while (open.length > 0) {
    const last = pop()!
    if (!optional.has(last.name)) report('unclosed', last.name, last)
  }
  return faults.sort((a, b) => a.start - b.start)
}
