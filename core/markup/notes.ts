import type { DefaultTreeAdapterMap } from 'parse5'
import type { Range } from './indent'

type HtmlElement = DefaultTreeAdapterMap['element']
type HtmlNode = DefaultTreeAdapterMap['node']

/** Something about an element that a visitor, or a browser, makes less of than was meant. */
export interface ElementNote extends Range {
  readonly kind: 'no-alt' | 'empty-link' | 'obsolete'
  /** Its tag; of an attribute, `tag attribute`. */
  readonly name: string
}

/** Elements that the standard has dropped (HTML §16.2). */
const obsoleteTags = new Set(
  'acronym applet basefont bgsound big blink center dir font frame frameset isindex listing marquee menuitem multicol nobr noembed noframes param plaintext rb rtc spacer strike tt xmp'.split(
    ' ',
  ),
)
/** Attributes of looks that it has dropped, on any element. */
const obsoleteAttributes = new Set([
  'bgcolor',
  'background',
  'align',
  'valign',
  'link',
  'vlink',
  'alink',
  'hspace',
  'vspace',
  'nowrap',
  'cellpadding',
  'cellspacing',
])

const valueOf = (element: HtmlElement, name: string) => element.attrs.find((one) => one.name === name)?.value

/** Whether something within an element can be read out. */
function saysSomething(element: HtmlElement): boolean {
  const stack: HtmlNode[] = [element]
  while (stack.length > 0) {
    const node = stack.pop()!
    if (node.nodeName === '#text' && 'value' in node && node.value.trim() !== '') return true
    if ('tagName' in node) {
      if (['aria-label', 'aria-labelledby', 'title'].some((name) => valueOf(node, name)?.trim())) return true
      if (/^(img|input|area)$/.test(node.tagName) && valueOf(node, 'alt')?.trim()) return true
      // A part or a slot of a template, or another document, whose words are not known here.
      if (/-|^(slot|iframe|object|video|audio)$/.test(node.tagName)) return true
    }
    if ('childNodes' in node) stack.push(...node.childNodes)
  }
  return false
}

/** What there is to say of one element. */
export function notesOf(element: HtmlElement): ElementNote[] {
  const where = element.sourceCodeLocation
  if (!where) return []
  const tag = element.tagName
  const range = { start: where.startOffset, end: where.startTag?.endOffset ?? where.endOffset }
  const notes: ElementNote[] = []
  const isHidden =
    valueOf(element, 'aria-hidden') === 'true' || /^(none|presentation)$/.test(valueOf(element, 'role') ?? '')
  if (tag === 'img' && valueOf(element, 'alt') === undefined && !isHidden)
    notes.push({ kind: 'no-alt', name: tag, ...range })
  if (tag === 'a' && valueOf(element, 'href') !== undefined && !isHidden && !saysSomething(element))
    notes.push({ kind: 'empty-link', name: tag, ...range })
  if (obsoleteTags.has(tag)) notes.push({ kind: 'obsolete', name: tag, ...range })
  for (const { name } of element.attrs) {
    const at = where.attrs?.[name]
    if (at && obsoleteAttributes.has(name) && !element.namespaceURI.endsWith('svg'))
      notes.push({ kind: 'obsolete', name: `${tag} ${name}`, start: at.startOffset, end: at.endOffset })
  }
  return notes
}
