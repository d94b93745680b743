import { tableOf } from '#core/site'

/** Start tags that end a paragraph that is open (HTML §13.1.2.4, "p"). */
const endsParagraph = new Set(['address', 'article', 'aside', 'blockquote', 'details', 'dialog', 'div', 'dl', 'fieldset', 'figcaption', 'figure', 'footer', 'form', 'h1', 'h2', 'h3', 'h4', 'h5', 'h6', 'header', 'hgroup', 'hr', 'main', 'menu', 'nav', 'ol', 'p', 'pre', 'search', 'section', 'table', 'ul']) // prettier-ignore
const endsBefore = tableOf<readonly string[]>({
  li: ['li'], dt: ['dt', 'dd'], dd: ['dt', 'dd'], option: ['option'], optgroup: ['option', 'optgroup'], rt: ['rt', 'rp'], rp: ['rt', 'rp'],
  tr: ['td', 'th', 'tr', 'caption', 'colgroup'], td: ['td', 'th'], th: ['td', 'th'],
  tbody: ['td', 'th', 'tr', 'thead', 'tbody', 'caption', 'colgroup'], thead: ['caption', 'colgroup'],
  tfoot: ['td', 'th', 'tr', 'thead', 'tbody', 'caption', 'colgroup'], body: ['head'],
}) // prettier-ignore

const none: readonly string[] = []
const paragraph: readonly string[] = ['p']

/**
 * Whether a start tag begins what no heading holds (HTML §4.3.6: phrasing content): where the end tag of one is forgotten, the
 * parser lets it go on, and whoever wrote it meant it to be over.
 */
export const endsHeading = (name: string): boolean => endsParagraph.has(name) || name === 'center'

/** Elements that a start tag ends where one of them is open right around it (HTML §13.1.2.4). */
export const endedBy = (name: string): readonly string[] =>
  endsBefore[name] ?? (endsParagraph.has(name) ? paragraph : none)
