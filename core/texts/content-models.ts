import type { HtmlElement, HtmlNode } from '#core/markup'
import { isElement } from '#core/markup'

const words = (text: string): ReadonlySet<string> => new Set(text.split(' '))

/** Elements that are no phrasing content (HTML §3.2.5.2.5): they stand beside paragraphs, not in them. */
const flowOnly = words(
  'address article aside blockquote caption center col colgroup dd details dialog dir div dl dt fieldset figcaption figure footer form frame frameset h1 h2 h3 h4 h5 h6 header hgroup hr li main menu nav ol p pre search section summary table tbody td tfoot th thead tr ul',
)
/** Elements that paragraphs may stand in (HTML §4, flow content as their content model). */
const takesFlow = words(
  'address article aside blockquote body center dd details dialog div dt fieldset figcaption figure footer form header html li main nav search section td th',
)
/** Elements that hold others of one kind only, and no text. */
const takesEntries = words('dl menu ol table tbody tfoot thead tr ul colgroup hgroup dir')
/** Elements whose text is no HTML, or whose content is none of a page's text. */
const closed = words(
  'audio canvas iframe math noembed noframes object option script select style svg textarea title video xmp',
)

/** What may stand in an element, as far as it tells where a piece of HTML can go. */
export type Takes = 'flow' | 'phrasing' | 'entries' | 'nothing'
export const takes = ({ tagName, namespaceURI }: HtmlElement): Takes => {
  if (!namespaceURI.endsWith('/xhtml') || closed.has(tagName)) return 'nothing'
  if (takesEntries.has(tagName)) return 'entries'
  return takesFlow.has(tagName) || tagName === 'template' ? 'flow' : 'phrasing'
}

/** Whether a node stands beside paragraphs, and not in them. */
export const isOfFlow = (node: HtmlNode): node is HtmlElement => isElement(node) && flowOnly.has(node.tagName)
