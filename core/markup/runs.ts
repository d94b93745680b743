import type { TextEdit } from './edits'
import type { Range } from './indent'
import { type HtmlElement, type HtmlNode } from './tree'

/** Text whose paragraphs nothing but blank lines part: a browser shows one of it. */
export interface Run extends Range {
  /** Two at least, in order; each without the white space around it. */
  readonly paragraphs: readonly Range[]
  /** Null where it stands straight in a content; otherwise the tag it is in, and the start tag of one more where that is a `p`. */
  readonly within: { readonly tagName: string; readonly again?: string } | null
}

/** Makes the paragraphs of a run `p` elements: each one, or where they stand in one of them, those after the first. */
export function paragraphEdits({ paragraphs, within }: Run): TextEdit[] {
  const again = within?.again
  return paragraphs.flatMap(({ start, end }, index) => [
    ...(again === undefined || index > 0 ? [{ start, end: start, text: again ?? '<p>' }] : []),
    ...(again === undefined || index < paragraphs.length - 1 ? [{ start: end, end, text: '</p>' }] : []),
  ])
}

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
const anyBlankLine = /\n[ \t\r\f]*\n/

/** Elements that hold text, in paragraphs or as one (HTML §3.2.5.2.2, flow content), but for those whose lines are kept. */
const holders = new Set(
  'p div section article main aside header footer center blockquote details td li dd'.split(' '),
)
/** A start tag that is written once more, as long as anybody writes one. */
const longestTag = 200

/** Lines that a style keeps as they are written part what they look as if they did. */
const keepsLines = (element: HtmlElement) =>
  /white-space/i.test(element.attrs.find(({ name }) => name === 'style')?.value ?? '')

/** A paragraph while it is read. */
interface Open {
  start: number
  end: number
  hasWords: boolean
  /** Whether it has words beside those of elements: lines of links, fields or pictures are no paragraphs. */
  hasProse: boolean
}

/**
 * Text of a content, or of the body of a document, whose blank lines part nothing: straight in it, or in its elements.
 * @param root of the same text
 */
export function runsIn(root: HtmlNode, html: string): Run[] {
  // Nearly every text has tags for its paragraphs, and is not looked through.
  if (!anyBlankLine.test(html)) return []
  const runs: Run[] = []
  const room = { paragraphs: mostParagraphs }
  const top = topOf(root)
  const stack: HtmlNode[] = top ? [top] : []
  while (stack.length > 0 && runs.length < mostRuns && room.paragraphs > 0) {
    const node = stack.pop()!
    if (!('childNodes' in node)) continue
    if (node === top) runs.push(...runsOf(node, null, html, room))
    else if ('tagName' in node && holders.has(node.tagName) && !keepsLines(node))
      runs.push(...runsOf(node, withinOf(node, html), html, room))
    for (let at = node.childNodes.length - 1; at >= 0; at--) {
      const child = node.childNodes[at]!
      if (!('tagName' in child && keepsText.test(child.tagName))) stack.push(child)
    }
  }
  return runs.slice(0, mostRuns).sort((one, two) => one.start - two.start)
}

/** Elements whose lines are kept, or whose text is none of the page's. */
const keepsText = /^(?:pre|textarea|script|style|svg|math|template|select|xmp|listing|plaintext)$/

function withinOf(element: HtmlElement, html: string): Run['within'] {
  const { tagName, sourceCodeLocation: where } = element
  if (tagName !== 'p') return { tagName }
  const tag = where?.startTag ? html.slice(where.startTag.startOffset, where.startTag.endOffset) : ''
  const isBare = element.attrs.length === 0 || tag.length > longestTag
  // An id names one element.
  const again = isBare || element.attrs.some(({ name }) => name === 'id') ? '<p>' : tag
  return { tagName, again }
}

/** Such text straight in one node. */
function runsOf(
  holder: HtmlNode & { readonly childNodes: readonly HtmlNode[] },
  within: Run['within'],
  html: string,
  room: { paragraphs: number },
): Run[] {
  const runs: Run[] = []
  let paragraphs: Open[] = []
  let isParted = true
  let isAfterBreak = false
  const isParagraph = (one: Open) => (within === null ? one.hasWords : one.hasProse)
  const end = () => {
    // What stands beside it alone, pictures above all, is no paragraph that somebody wrote.
    if (paragraphs.filter(isParagraph).length > 1)
      runs.push({
        within,
        start: paragraphs[0]!.start,
        end: paragraphs.at(-1)!.end,
        paragraphs: paragraphs.map((one) => ({ start: one.start, end: one.end })),
      })
    paragraphs = []
    isParted = true
    isAfterBreak = false
  }
  const add = (start: number, to: number, hasWords: boolean, hasProse: boolean) => {
    const open = paragraphs.at(-1)
    if (open && !isParted) {
      open.end = to
      open.hasWords ||= hasWords
      open.hasProse ||= hasProse
    } else {
      room.paragraphs -= 1
      paragraphs.push({ start, end: to, hasWords, hasProse })
    }
    isParted = false
  }
  /** @param at where the text stands */
  const addText = (text: string, at: number) => {
    for (let from = 0; room.paragraphs > 0;) {
      blankLine.lastIndex = from
      const gap = blankLine.exec(text)
      const to = gap ? gap.index : text.length
      const piece = text.slice(from, to)
      if (piece.trim() !== '') {
        const start = from + piece.length - piece.trimStart().length
        add(at + start, at + from + piece.trimEnd().length, true, prose.test(piece))
        isAfterBreak = false
      }
      if (!gap) return
      // After a line break that is written as one, the blank line is there for whoever reads the source.
      if (!isAfterBreak) isParted = true
      from = to + gap[0].length - 1
    }
  }
  let last = 0
  for (const node of holder.childNodes) {
    if (runs.length >= mostRuns || room.paragraphs <= 0) break
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
      add(where.startOffset, where.endOffset, hasWords(node), false)
      isAfterBreak = node.tagName === 'br'
    } else end()
  }
  end()
  return runs
}

/** What a content stands in: the body of a document, or the top of a piece of one. */
function topOf(root: HtmlNode) {
  if (!('childNodes' in root)) return null
  const html = root.childNodes.find((node) => node.nodeName === 'html')
  if (!html) return root
  const body = 'childNodes' in html ? html.childNodes.find((node) => node.nodeName === 'body') : undefined
  return body && 'childNodes' in body ? body : null
}

/** The end of one word and the beginning of the next: looked for from a letter alone, no word is gone through twice. */
const prose = /\p{L}[,;:]?\s+\p{L}/u

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
