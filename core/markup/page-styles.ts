import { findStyleFaults, type StyleFault } from './style-facts'
import { attributeValueRange, type HtmlElement } from './tree'

/** Style attributes of which it is known what is wrong with them: the same few stand on every page. */
const known = new Map<string, readonly StyleFault[]>()
const mostKnown = 1_000
/** Letters of what is known so: what is longer stands on one page. */
const longestKnown = 300
/** Faults told of one page. */
const mostFaults = 200

function inAttribute(css: string): readonly StyleFault[] {
  const found = known.get(css) ?? findStyleFaults(css, 'declarationList')
  if (css.length > longestKnown) return found
  if (known.size >= mostKnown) known.clear()
  known.set(css, found)
  return found
}

/** What browsers pass over in the styles that an element has, or is (HTML §4.2.6, CSS Style Attributes §2). */
export function styleFaultsOf(html: string, element: HtmlElement, found: StyleFault[]): void {
  if (found.length >= mostFaults) return
  for (const attr of element.attrs) {
    if (attr.name !== 'style' || attr.value.trim() === '') continue
    const range = attr.at && attributeValueRange(html, attr.at)
    // What a template still fills in is known only where it is filled in.
    if (!range || attr.value.includes('{')) continue
    const faults = inAttribute(attr.value)
    // A character reference is always longer than what it stands for; with one, the whole of it is shown.
    const isLiteral = attr.value.length === range.end - range.start
    for (const fault of faults)
      found.push(
        isLiteral
          ? { ...fault, start: range.start + fault.start, end: range.start + fault.end }
          : { ...fault, start: range.start, end: range.end },
      )
  }
  if (element.tagName !== 'style') return
  // Of another language than CSS, browsers take nothing.
  const type = element.attrs.find(({ name }) => name === 'type')?.value.trim() ?? ''
  const [text] = /^(text\/css)?$/i.test(type) ? element.childNodes : []
  if (text?.nodeName !== '#text' || !('value' in text) || !text.sourceCodeLocation) return
  const { startOffset, endOffset } = text.sourceCodeLocation
  const css = html.slice(startOffset, endOffset)
  // A value of a template stands for what nobody knows yet; no block of CSS has a word alone.
  if (/^\s*<!--|\{[a-z]+(?:\.[\w-]+)?\}/i.test(css)) return
  for (const fault of findStyleFaults(css))
    found.push({ ...fault, start: startOffset + fault.start, end: startOffset + fault.end })
}
