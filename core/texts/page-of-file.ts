import {
  escapeText,
  type HtmlElement,
  type HtmlNode,
  parseHtml,
  type Range,
  readHtml,
  walkHtml,
} from '#core/markup'
import { cleanLabel } from '#core/plan'
import { htmlOfMarkdown } from './markdown'

/** A page that a text file becomes. */
export interface PageOfFile {
  readonly label: string
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
 * Makes a page of a text file by what its name says it is: plain text, Markdown, or HTML (a fragment, or a
 * document whose body counts). The first heading becomes the label.
 */
export function pageOfFile(name: string, text: string): PageOfFile {
  const written = text.replace(/^\ufeff/, '').replace(/\r\n?/g, '\n')
  const isPlain = /\.te?xt$/i.test(name)
  const html = isPlain ? htmlOfText(written) : /\.html?$/i.test(name) ? bodyOf(written) : htmlOfMarkdown(written)
  const heading = isPlain ? undefined : readHtml(html).headings[0]
  const isFirst = heading && heading.text !== '' && html.slice(0, heading.start).replace(/<[^>]*>/g, '').trim() === ''
  const label = cleanLabel((isFirst ? heading.text : titleOf(name, written)) || labelOfName(name)).slice(0, 300)
  // The page has its label for its first heading.
  const rest = isFirst ? html.slice(0, heading.start) + html.slice(heading.end).replace(/^\s+/, '') : html
  return { label: label || 'Page', html: rest.trim() === '' ? '' : `${rest.trim()}\n` }
} // prettier-ignore

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
  // Where the body's own tag is left out, what ends it may stand there still.
  return end === html.length ? body.replace(/<\/(body|html)\s*>/gi, '') : body
}

function titleOf(name: string, html: string): string {
  if (!/\.html?$/i.test(name)) return ''
  let title = ''
  walkHtml(parseHtml(html, true).root, (node) => {
    if (title !== '' || !('tagName' in node) || node.tagName !== 'title') return
    const [text] = node.childNodes
    if (text && 'value' in text) title = text.value.replace(/\s+/g, ' ').trim()
  })
  return title
}
