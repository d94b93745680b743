import {
  applyEdits,
  escapeText,
  type HtmlElement,
  type HtmlNode,
  parseHtml,
  type Range,
  readHtml,
  walkHtml,
} from '#core/markup'
import { cleanLabel } from '#core/plan'
import { cleanHtml } from './clean-html'
import { htmlOfMarkdown } from './markdown'
import { htmlOfRows, rowsOfValues } from './tables'

/** A page that a text file becomes. */
export interface PageOfFile {
  readonly label: string
  /** Whether its label is a heading of its own, which its text does without. */
  readonly isTitled: boolean
  readonly html: string
}

/** A file's name as a person would say it: `tide_times-2025.txt` is “Tide times 2025”. */
function labelOfName(name: string): string {
  const words = name
    .replace(/\.[^.]*$/, '')
    .replace(/[_\s]+|-(?=\p{L})/gu, ' ')
    .trim()
  return words.charAt(0).toUpperCase() + words.slice(1)
}

/**
 * Makes a page of a text file by what its name says it is: plain text, values that become a table, Markdown, or HTML (a fragment, or a
 * document whose body counts). A first heading that is above all others becomes the label.
 */
export function pageOfFile(name: string, text: string): PageOfFile {
  const written = text.replace(/^\ufeff/, '').replace(/\r\n?/g, '\n')
  if (/\.te?xt$/i.test(name)) return pageOf(htmlOfText(written), '', labelOfName(name))
  if (/\.[ct]sv$/i.test(name))
    return pageOf(cleanHtml(htmlOfRows(rowsOfValues(written))), '', labelOfName(name))
  if (!/\.html?$/i.test(name)) return pageOfHtml(htmlOfMarkdown(written), name)
  // What is HTML already stays as its author wrote it.
  const { title, rest } = withoutTitle(bodyOf(written))
  return pageOf(rest, title, titleOf(written) || labelOfName(name))
}

/** A page of HTML that was made of something else: its headings begin below the one that the page has. */
export function pageOfHtml(html: string, name: string): PageOfFile {
  const { title, rest } = withoutTitle(html)
  return pageOf(belowTitle(rest), title, labelOfName(name))
}

const pageOf = (html: string, title: string, otherwise: string): PageOfFile => ({
  label: cleanLabel(title || otherwise).slice(0, 300) || 'Page',
  isTitled: title !== '',
  html: html.trim() === '' ? '' : `${html.trim()}\n`,
})

/** The page has its label for its first heading: the one that nothing stands before, and that is above all others. */
function withoutTitle(html: string): { title: string; rest: string } {
  const [first, ...others] = readHtml(html).headings
  const isTitle =
    first &&
    first.text !== '' &&
    others.every(({ level }) => level > first.level) &&
    html.slice(0, first.start).replace(/<[^>]*>/g, '').trim() === ''
  if (!isTitle) return { title: '', rest: html }
  return { title: first.text, rest: html.slice(0, first.start) + html.slice(first.end).replace(/^\s+/, '') }
} // prettier-ignore

/** The text of such a page as a part of another: its title a heading, and its own headings below that. */
export const partOfPage = ({ label, isTitled, html }: PageOfFile): string =>
  isTitled ? `<h2>${escapeText(label)}</h2>\n${lowered(html)}` : html

/** Headings a level lower each, where some are as high as that of the page itself (HTML §4.3.11). */
const belowTitle = (html: string): string =>
  readHtml(html).headings.some(({ level }) => level === 1) ? lowered(html) : html

function lowered(html: string): string {
  return applyEdits(
    html,
    readHtml(html).headings.flatMap(({ start, level, endNameAt }) => {
      const text = `h${Math.min(6, level + 1)}`
      const names = [start + 1, ...(endNameAt === null ? [] : [endNameAt])]
      return names.map((at) => ({ start: at, end: at + 2, text }))
    }),
  )
}

/** Paragraphs of plain text: parted by empty lines, a line that is followed by others kept as one. */
const htmlOfText = (text: string): string =>
  text
    .split(/\n[ \t]*\n+/)
    .map((paragraph) => paragraph.replace(/\s+$/gm, '').trim())
    .filter((paragraph) => paragraph !== '')
    .map((paragraph) => `<p>${escapeText(paragraph).replace(/\n/g, '<br>\n')}</p>`)
    .join('\n')

/** Where the body of a document stands, without its tags; all of a fragment. */
export function bodyRange(html: string, root: HtmlNode): Range {
  const all = { start: 0, end: html.length }
  let body: HtmlElement | null = null
  walkHtml(root, (node) => {
    if ('tagName' in node && node.tagName === 'body') body ??= node
  })
  const where = (body as HtmlElement | null)?.sourceCodeLocation
  if (where?.startTag)
    return { start: where.startTag.endOffset, end: where.endTag?.startOffset ?? where.endOffset }
  const isDocument = /<(!doctype|html|head)[\s>]/i.test(html)
  if (!isDocument) return all
  // A document that leaves its body tag out: what follows its head.
  const head = /<\/head\s*>/i.exec(html)
  return head ? { start: head.index + head[0].length, end: html.length } : all
}

/** What stands in the body of a document, to the letter; all of a fragment. */
function bodyOf(html: string): string {
  const { start, end } = bodyRange(html, parseHtml(html, true).root)
  const body = html.slice(start, end)
  // Where the body's own tag is left out, or lost in a title without an end, what ends it may stand there still.
  return end === html.length ? body.replace(/<\/?(?:body|html)(?=[\s>])[^<>]*>/gi, '') : body
}

function titleOf(html: string): string {
  let title = ''
  walkHtml(parseHtml(html, true).root, (node) => {
    if (title !== '' || !('tagName' in node) || node.tagName !== 'title') return
    const [text] = node.childNodes
    if (!text || !('value' in text)) return
    // Where its end tag is forgotten all that follows is its text (HTML §13.2.6.2).
    const said = node.sourceCodeLocation?.endTag ? text.value : text.value.split('<')[0]!
    title = said.replace(/\s+/g, ' ').trim()
  })
  return title
}
