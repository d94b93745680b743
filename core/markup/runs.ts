import type { TextEdit } from './edits'
import type { Range } from './indent'
import { type HtmlElement, type HtmlNode } from './tree'

/** Text that stands straight in a content, in paragraphs that nothing but blank lines part: a browser shows one of it. */
export interface Run extends Range {
  /** Two at least, in order; each without the white space around it. */
  readonly paragraphs: readonly Range[]
}

/** Puts the paragraphs of a run into `p` elements. */
export const paragraphEdits = ({ paragraphs }: Run): TextEdit[] =>
  paragraphs.flatMap(({ start, end }) => [
    { start, end: start, text: '<p>' },
    { start: end, end, text: '</p>' },
  ])

/** Elements that stand in a line of text (HTML §3.2.5.2.5, phrasing content), but for those that show nothing. */
const inText = new Set(
  'a abbr acronym b bdi bdo big br button cite code data dfn em font i img input kbd label mark meter nobr output picture progress q s samp select small span strike strong sub sup svg time tt u var wbr'.split(
    ' ',
  ),
)

/** Runs that are told of one text, and paragraphs that are looked at for them; of more, the first ones are mended first. */
const mostRuns = 100
const mostParagraphs = 2_000

const blankLine = /\n[ \t\r\f]*\n/g

/** A paragraph while it is read. */
interface Open {
  start: number
  end: number
  hasWords: boolean
}

/**
 * Text at the top of a content, or in the body of a document, whose blank lines part nothing.
 * @param root of the same text
 */
export function runsIn(root: HtmlNode, html: string): Run[] {
  const runs: Run[] = []
  let paragraphs: Open[] = []
  let isParted = true
  let isAfterBreak = false
  let count = 0
  const end = () => {
    // What stands beside it alone, pictures above all, is no paragraph that somebody wrote.
    if (paragraphs.filter(({ hasWords }) => hasWords).length > 1)
      runs.push({
        start: paragraphs[0]!.start,
        end: paragraphs.at(-1)!.end,
        paragraphs: paragraphs.map((one) => ({ start: one.start, end: one.end })),
      })
    paragraphs = []
    isParted = true
    isAfterBreak = false
  }
  const add = (start: number, to: number, hasWords: boolean) => {
    const open = paragraphs.at(-1)
    if (open && !isParted) {
      open.end = to
      open.hasWords ||= hasWords
    } else {
      count += 1
      paragraphs.push({ start, end: to, hasWords })
    }
    isParted = false
  }
  /** @param at where the text stands */
  const addText = (text: string, at: number) => {
    for (let from = 0; count < mostParagraphs;) {
      blankLine.lastIndex = from
      const gap = blankLine.exec(text)
      const to = gap ? gap.index : text.length
      const piece = text.slice(from, to)
      if (piece.trim() !== '') {
        const start = from + piece.length - piece.trimStart().length
        add(at + start, at + from + piece.trimEnd().length, true)
        isAfterBreak = false
      }
      if (!gap) return
      // After a line break that is written as one, the blank line is there for whoever reads the source.
      if (!isAfterBreak) isParted = true
      from = to + gap[0].length - 1
    }
  }
  let last = 0
  for (const node of contentOf(root)) {
    if (runs.length >= mostRuns || count >= mostParagraphs) break
    const where = 'sourceCodeLocation' in node ? node.sourceCodeLocation : null
    if (node.nodeName === '#comment') continue
    // One that the parser has opened again stands where the first of it does.
    const isInOrder = where && where.startOffset >= last
    last = Math.max(last, where?.endOffset ?? 0)
    if (!isInOrder) end()
    else if (node.nodeName === '#text') {
      const text = html.slice(where.startOffset, where.endOffset)
      // Text that the parser took out of a table stands elsewhere than its places say.
      if (text.includes('<')) end()
      else addText(text, where.startOffset)
    } else if ('tagName' in node && isInText(node)) {
      if (node.tagName === 'br') isParted = false
      add(where.startOffset, where.endOffset, hasWords(node))
      isAfterBreak = node.tagName === 'br'
    } else end()
  }
  end()
  return runs
}

/** What stands straight in a content: in the body of a document, or at the top of a piece of one. */
function contentOf(root: HtmlNode): readonly HtmlNode[] {
  if (!('childNodes' in root)) return []
  const html = root.childNodes.find((node) => node.nodeName === 'html')
  const body =
    html && 'childNodes' in html ? html.childNodes.find((node) => node.nodeName === 'body') : undefined
  return body && 'childNodes' in body ? body.childNodes : html ? [] : root.childNodes
}

function hasWords(element: HtmlElement): boolean {
  const stack: HtmlNode[] = [element]
  while (stack.length > 0) {
    const node = stack.pop()!
    if (node.nodeName === '#text' && 'value' in node && node.value.trim() !== '') return true
    if ('childNodes' in node) stack.push(...node.childNodes)
  }
  return false
}

/** Whether an element stands in a line of text with all that is in it. */
function isInText(element: HtmlElement): boolean {
  const stack: HtmlNode[] = [element]
  while (stack.length > 0) {
    const node = stack.pop()!
    if (!('tagName' in node)) continue
    if (!inText.has(node.tagName) && !isWithin(node)) return false
    if (node.tagName !== 'svg') stack.push(...node.childNodes)
  }
  return true
}

/** Parts of elements that stand in text. */
const isWithin = ({ tagName }: HtmlElement) => /^(?:option|optgroup|source)$/.test(tagName)
