import { attributesThatSay, type TextKind } from '#core/find'
import {
  attributeOf,
  attributePlace,
  type HtmlElement,
  type HtmlNode,
  isElement,
  Lines,
  parseHtml,
  walkHtml,
} from '#core/markup'
import { expression } from '#core/template'

/** Words that are said one after the other without a break, in one language. */
export interface SaidRun {
  readonly text: string
  /** Tag of BCP 47; '' where it is not known. */
  readonly language: string
  /** The line of the source, from 1, that a place of its text stands on. */
  lineAt(index: number): number
}

/** What stands within a line of words (HTML §3.2.5.2.5): a word goes on through it. */
const withinLines: ReadonlySet<string> = new Set([
  'a', 'abbr', 'acronym', 'b', 'bdi', 'bdo', 'big', 'cite', 'data', 'del', 'dfn', 'em', 'font', 'i', 'ins', 'label', 'mark', 'q',
  'ruby', 's', 'small', 'span', 'strike', 'strong', 'sub', 'sup', 'time', 'tt', 'u', 'var', 'wbr',
]) // prettier-ignore

/** What is in no language: programs, what is typed and what comes out (HTML §4.5.15 to §4.5.19). */
const noLanguage: ReadonlySet<string> = new Set(['code', 'kbd', 'samp', 'script', 'style', 'var', 'math'])

/** Letters of the longest tag of a language that is read: what is known of its words is kept by it. */
const longestTag = 60

/** What is said of an element and holds for all in it. */
interface State {
  readonly language: string
  /** Whether its words are looked at: neither what is not translated nor what says that it is not (HTML §3.2.6.5, §6.8.5). */
  readonly isLooked: boolean
  /** What its words end at. */
  readonly block: HtmlNode | null
}

function stateOf(element: HtmlElement, around: State): State {
  const lang = attributeOf(element, 'lang')
  const says = (name: string) => attributeOf(element, name)?.trim().toLowerCase()
  const [translate, spellcheck] = [says('translate'), says('spellcheck')]
  const isName = element.tagName.includes('-')
  return {
    // In a template it may be an expression: what the page is in.
    language:
      lang === undefined || lang.includes('{')
        ? around.language
        : lang.length > longestTag
          ? ''
          : // As some write it.
            lang.trim().replaceAll('_', '-'),
    isLooked:
      spellcheck === 'true' || translate === 'yes'
        ? true
        : around.isLooked && spellcheck !== 'false' && translate !== 'no' && !noLanguage.has(element.tagName),
    block: withinLines.has(element.tagName) || isName ? around.block : element,
  }
}

/** Letters that stand for no letter: where a word may be parted (HTML §4.5.27; U+00AD), and the like. */
const silent = /[\u00ad\u200b\u2060]/g

/** What of a text is said, run by run, in order; of a template nothing that an expression stands for. */
export function runsSaid(text: string, kind: TextKind, language: string): SaidRun[] {
  if (kind === 'source') return []
  const withoutExpressions = (words: string) => (kind === 'template' || kind === 'pattern' ? words.replace(expression, ' {} ') : words)
  if (kind === 'words' || kind === 'pattern') {
    const lines = new Lines(text)
    return [{ text: withoutExpressions(text), language, lineAt: (index) => lines.placeOf(index).line }]
  }
  const lines = new Lines(text)
  const runs: SaidRun[] = []
  let open: { block: HtmlNode | null; language: string; pieces: string[]; starts: { at: number; line: number }[]; length: number } | null = null
  const end = () => {
    if (open) {
      const { pieces, starts, language } = open
      const all = pieces.join('')
      if (/\p{L}/u.test(all)) runs.push({ text: all, language, lineAt: (index) => lineIn(all, starts, index) })
    }
    open = null
  }
  const states = new Map<HtmlNode | null, State>()
  const root: State = { language, isLooked: true, block: null }
  walkHtml(parseHtml(text, /<!doctype|<html/i.test(text)).root, (node) => {
    const parent = 'parentNode' in node ? node.parentNode : null
    const around = states.get(parent) ?? root
    if (isElement(node)) {
      const state = stateOf(node, around)
      states.set(node, state)
      if ('content' in node) states.set(node.content as HtmlNode, state)
      if (state.block === node) end()
      for (const name of state.isLooked ? attributesThatSay(node) : []) {
        const said = attributeOf(node, name) ?? ''
        const place = attributePlace(node, name) ?? node.sourceCodeLocation
        const { line } = lines.placeOf(place?.startOffset ?? 0)
        if (/\p{L}/u.test(said))
          runs.push({ text: withoutExpressions(said).replace(silent, ''), language: state.language, lineAt: () => line })
      }
    } else if (node.nodeName === '#text' && 'value' in node) {
      if (!around.isLooked || !node.sourceCodeLocation) return end()
      if (open && (open.block !== around.block || open.language !== around.language)) end()
      open ??= { block: around.block, language: around.language, pieces: [], starts: [], length: 0 }
      const said = withoutExpressions(node.value).replace(silent, '')
      open.starts.push({ at: open.length, line: lines.placeOf(node.sourceCodeLocation.startOffset).line })
      open.pieces.push(said)
      open.length += said.length
    }
  })
  end()
  return runs
} // prettier-ignore

/** The line that a place of several pieces stands on: line breaks of a source are those of what it says. */
function lineIn(text: string, starts: readonly { at: number; line: number }[], index: number): number {
  let [low, high] = [0, starts.length - 1]
  while (low < high) {
    const middle = (low + high + 1) >> 1
    if (starts[middle]!.at <= index) low = middle
    else high = middle - 1
  }
  const { at, line } = starts[low]!
  return line + (text.slice(at, index).split('\n').length - 1)
}
