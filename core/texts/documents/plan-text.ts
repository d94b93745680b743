import { attributeOf, type HtmlNode, isElement, parseTree } from '#core/markup'
import { htmlOfDocument } from './document'
import { makeLists } from '../listed-paragraphs'
import { styleOf } from '../made'
import { isRichText } from './rich-tokens'
import { rowsOfSpreadsheet } from './spreadsheet'

/** What stands in a document beside its headings, as far as a plan may be told by it. */
interface Found {
  readonly headings: string[]
  readonly entries: string[]
  readonly rows: string[]
  readonly paragraphs: string[]
}

const indent = (depth: number, words: string) => '  '.repeat(depth) + words

const childrenOf = (node: HtmlNode): readonly HtmlNode[] => ('childNodes' in node ? node.childNodes : [])

/** The words of an element, but for those of lists in it; line breaks as spaces. */
function wordsOf(node: HtmlNode): string {
  if (node.nodeName === '#text' && 'value' in node) return node.value
  if (!isElement(node)) return ''
  if (node.tagName === 'br') return ' '
  if (/mso-list:\s*ignore/i.test(styleOf(node))) return ''
  return /^(ul|ol|sup)$/.test(node.tagName) ? '' : childrenOf(node).map(wordsOf).join('')
}

/** Words on one line; tabs stay where they part something. */
const onOneLine = (node: HtmlNode) => wordsOf(node).replace(/[^\S\t]+/gu, ' ').trim() // prettier-ignore
const inCell = (node: HtmlNode) => wordsOf(node).replace(/\s+/gu, ' ').trim()

/** Gathers what may be a plan: headings by their level, lists below the heading that they stand under, tables, and lines. */
function gather(root: HtmlNode): Found {
  const found: Found = { headings: [], entries: [], rows: [], paragraphs: [] }
  let below = 0
  const listed = (list: HtmlNode, depth: number): void => {
    for (const entry of childrenOf(list)) {
      // Notes are no pages.
      if (!isElement(entry) || entry.tagName !== 'li' || /note/.test(attributeOf(entry, 'id') ?? '')) continue
      const words = inCell(entry)
      if (words !== '') found.entries.push(indent(depth, words))
      for (const inner of childrenOf(entry))
        if (isElement(inner) && /^[uo]l$/.test(inner.tagName)) listed(inner, depth + 1)
    }
  }
  const visit = (node: HtmlNode): void => {
    if (!isElement(node)) return childrenOf(node).forEach(visit)
    const level = /^h([1-6])$/.exec(node.tagName)?.[1]
    if (level !== undefined) {
      // What a document itself is called is no page of its plan.
      if (attributeOf(node, 'class') === 'title' || inCell(node) === '') return
      below = Number(level)
      found.headings.push(indent(below - 1, inCell(node)))
      found.entries.push(indent(below - 1, inCell(node)))
    } else if (/^[uo]l$/.test(node.tagName)) listed(node, below)
    else if (node.tagName === 'tr')
      found.rows.push(
        childrenOf(node)
          .filter((cell) => isElement(cell) && /^t[dh]$/.test(cell.tagName))
          .map(inCell)
          .join('\t'),
      )
    else if (node.tagName === 'p') found.paragraphs.push(onOneLine(node))
    else childrenOf(node).forEach(visit)
  }
  visit(root)
  return found
}

/** Of one column it is a text as any other. */
const ofRows = (rows: readonly string[]): PlanInDocument => ({
  text: rows.join('\n'),
  isTable: rows.some((row) => row.includes('\t')),
})
const hasWords = (line: string) => line.trim() !== ''

/** A plan as it stood in a document. */
export interface PlanInDocument {
  /** '' where there is nothing that could be one. */
  readonly text: string
  /** Whether it is rows of cells, parted by tabs. */
  readonly isTable: boolean
}

/**
 * A plan that somebody has in a spreadsheet or in a document, as text: the rows of a sheet; lists, below the headings that they stand
 * under; headings alone; a table; else what is written, a line a paragraph.
 * @throws Problem `not-a-document`, `document-locked`, `document-too-large`
 */
export async function planInDocument(bytes: Uint8Array): Promise<PlanInDocument> {
  const sheet = isRichText(bytes) ? null : await rowsOfSpreadsheet(bytes)
  if (sheet) return ofRows(sheet.map((row) => row.join('\t')))
  const root = parseTree(await htmlOfDocument(bytes))
  makeLists(root)
  const { headings, entries, rows, paragraphs } = gather(root)
  const ofLines = (lines: readonly string[]) => ({ text: lines.join('\n'), isTable: false })
  if (entries.length > headings.length) return ofLines(entries)
  // A table below headings is of what one of them is about.
  if (headings.length > 1) return ofLines(headings)
  const table = rows.filter(hasWords)
  return table.length > 1 ? ofRows(table) : ofLines(paragraphs.filter(hasWords))
}
