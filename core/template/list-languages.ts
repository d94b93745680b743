import { type HtmlElement, parseHtml, type TextEdit, walkHtml } from '#core/markup'
import { headEdits } from './skeleton/write-skeleton'

/**
 * Edits after which a template that is a whole document lists the languages of each page: after the menu of its header, else
 * where its header or its body begins. None where it has no body that is written.
 */
export function listLanguages(source: string): TextEdit[] {
  const { root } = parseHtml(source, true)
  let header: HtmlElement | null = null
  let menu: HtmlElement | null = null
  let body: HtmlElement | null = null
  walkHtml(root, (node) => {
    if (!('tagName' in node) || !node.sourceCodeLocation) return
    if (node.tagName === 'header') header ??= node
    if (node.tagName === 'site-menu') menu ??= node
    if (node.tagName === 'body') body ??= node
  })
  const part = '<page-languages missing="above" aria-label="Languages"></page-languages>'
  const [of, into] = [menu as HtmlElement | null, (header ?? body) as HtmlElement | null]
  // A menu without an end tag runs on to who knows where.
  if (of?.sourceCodeLocation?.endTag) {
    const { startOffset, endOffset } = of.sourceCodeLocation
    return [{ start: endOffset, end: endOffset, text: `\n${leadAt(source, startOffset)}${part}` }]
  }
  const start = into?.sourceCodeLocation?.startTag
  if (!start) return []
  const [first] = into!.childNodes.filter((node) => 'tagName' in node)
  const place = first && 'sourceCodeLocation' in first ? first.sourceCodeLocation : null
  const lead = place ? leadAt(source, place.startOffset) : `${leadAt(source, start.startOffset)}  `
  return [{ start: start.endOffset, end: start.endOffset, text: `\n${lead}${part}` }]
}

/** Edits after which a template says to search engines where each page is in other languages (HTML §4.6.7.1); none where it does. */
export const sayTranslations = (source: string): TextEdit[] =>
  headEdits(source, { part: 'translations', value: '{translation.address}' })

const leadAt = (source: string, place: number) =>
  /^[ \t]*/.exec(source.slice(source.lastIndexOf('\n', place - 1) + 1, place))![0]
