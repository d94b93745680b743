import { tableOf } from '#core/site'
import { type HtmlElement, type HtmlNode, isElement } from '#core/markup'
import { styleOf } from './made'

/** Elements that are kept, and the attributes that say something of theirs (HTML §4), beside an `id` that is linked to. */
export const kept = tableOf<readonly string[]>({
  p: [], h1: [], h2: [], h3: [], h4: [], h5: [], h6: [], blockquote: ['cite'], pre: [], hr: [], br: [],
  details: [], summary: [], ul: [], ol: ['start', 'reversed', 'type'], li: ['value'], dl: [], dt: [], dd: [], figure: [], figcaption: [],
  table: [], caption: [], thead: [], tbody: [], tfoot: [], tr: [], th: ['colspan', 'rowspan', 'scope'], td: ['colspan', 'rowspan'],
  a: ['href', 'hreflang'], em: [], strong: [], small: [], s: [], cite: [], q: ['cite'], dfn: [], abbr: ['title'], code: [], var: [],
  samp: [], kbd: [], sub: [], sup: [], mark: [], time: ['datetime'], del: ['datetime'], ins: ['datetime'],
  img: ['src', 'alt', 'width', 'height'],
}) // prettier-ignore
/** Ways of writing that the standard has another element for. */
const renamed = tableOf<string>({
  b: 'strong',
  i: 'em',
  strike: 's',
  tt: 'code',
  acronym: 'abbr',
})
/** What is left out with all that is in it. */
const dropped = new Set(['script', 'style', 'head', 'title', 'meta', 'link', 'template', 'noscript', 'iframe', 'object', 'embed', 'svg', 'math', 'form', 'button', 'select', 'textarea', 'input', 'canvas']) // prettier-ignore
/** Boxes without a meaning: a paragraph where text stands in them by itself. */
export const boxes = new Set(['div', 'section', 'article', 'main', 'header', 'footer', 'aside', 'nav', 'center', 'address', 'body', 'html']) // prettier-ignore
export const blocks = new Set(['p', 'h1', 'h2', 'h3', 'h4', 'h5', 'h6', 'blockquote', 'pre', 'hr', 'ul', 'ol', 'li', 'dl', 'dt', 'dd', 'figure', 'figcaption', 'details', 'summary', 'table', 'caption', 'thead', 'tbody', 'tfoot', 'tr', 'th', 'td']) // prettier-ignore
const listed = tableOf<readonly string[]>({
  li: ['ul', 'ol'], dt: ['dl'], dd: ['dl'], figcaption: ['figure'], summary: ['details'], caption: ['table'], thead: ['table'], tbody: ['table'],
  tfoot: ['table'], tr: ['thead', 'tbody', 'tfoot'], th: ['tr'], td: ['tr'],
}) // prettier-ignore
/** Whether an element may stand where it does: some stand in certain others only; elsewhere what is in them counts. */
export const mayStandIn = (parent: string, tag: string): boolean =>
  !Object.hasOwn(listed, tag) || listed[tag]!.includes(parent)

/** What an element says, by its name or by the style that a program gave it; null for what is left out. */
export function nameOf(element: HtmlElement): string | null {
  const tag = element.tagName
  if (dropped.has(tag)) return null
  // Of office programs and the like: what is in it counts, and it does not.
  if (tag.includes(':')) return element.childNodes.length > 0 ? 'span' : null
  const style = styleOf(element).toLowerCase()
  if (/mso-list:\s*ignore|display:\s*none/.test(style)) return null
  if (tag === 'b' && /font-weight:\s*(normal|400)/.test(style)) return 'span'
  if (tag === 'span' || tag === 'font') {
    if (/font-weight:\s*(bold|[6-9]00)/.test(style)) return 'strong'
    if (/font-style:\s*italic/.test(style)) return 'em'
    if (/vertical-align:\s*super/.test(style)) return 'sup'
    if (/vertical-align:\s*sub/.test(style)) return 'sub'
    return 'span'
  }
  // Source as its editor shows it, a box for each line.
  if (boxes.has(tag) && /white-space:\s*pre\b(?!-)/.test(style) && /font-family:[^;]*mono/.test(style))
    return 'pre'
  return renamed[tag] ?? tag
}

/**
 * The text of a `pre` as it stands, with the breaks that elements make in it, and without that of what is left out.
 */
export function textOf(root: HtmlNode): string {
  let text = ''
  const line = () => void (text !== '' && !text.endsWith('\n') && (text += '\n'))
  // A stack instead of recursion: what is pasted may be thousands of levels deep.
  const stack: (HtmlNode | 'end')[] = [root]
  while (stack.length > 0) {
    const one = stack.pop()!
    if (one === 'end') line()
    else if (one.nodeName === '#text' && 'value' in one) text += one.value
    else if (one.nodeName === 'br') text += '\n'
    else if ('childNodes' in one && !('tagName' in one && nameOf(one) === null)) {
      if (one !== root && (boxes.has(one.nodeName) || blocks.has(one.nodeName))) {
        line()
        stack.push('end')
      }
      for (let at = one.childNodes.length - 1; at >= 0; at--) stack.push(one.childNodes[at]!)
    }
  }
  return text
}

/** Whether all that a `pre` says is code (HTML §4.4.3). */
export const isOfCode = (pre: HtmlElement): boolean =>
  pre.childNodes.every((child) =>
    isElement(child) ? child.tagName === 'code' : !('value' in child) || child.value.trim() === '',
  )
