import type { Range } from './indent'
import { headsIn, type TableHeads } from './table-heads'
import type { HtmlElement, HtmlNode } from './tree'
import { valueOf, wordsIn } from './words'

/** Something about an element that a visitor, or a browser, makes less of than was meant. */
export interface ElementNote extends Range {
  readonly kind:
    | 'no-alt'
    | 'alt-of-file'
    | 'empty-link'
    | 'vague-link'
    | 'empty-heading'
    | 'no-headers'
    | 'no-label'
    | 'no-size'
    | 'no-controls'
    | 'plays-alone'
    | 'no-captions'
    | 'filler'
    | 'obsolete'
  /** Its tag; of an attribute, `tag attribute`; of words, those. */
  readonly name: string
  /** Of a table without heads: what could be some. */
  readonly heads?: TableHeads
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

/** Words of a link that say nothing where they stand alone, as in a list of all links (WCAG 2.2 §2.4.4). */
const vagueWords =
  /^(?:click )?here$|^(?:read |see |learn )?more$|^(?:this )?(?:link|page)$|^continue$|^details$/i
/** Text that stands in for one that is still to be written, wherever it does. */
const fillerWords = /\b(?:TODO|TBD|FIXME|[Ll]orem ipsum|LOREM IPSUM|[Dd]olor sit amet)\b/
/** Words that do so where they are all that is said: in the midst of other words they are words like others. */
const fillerAlone = /\b(?:under construction|coming soon|placeholder text)\b/i
/** Letters of a text that says little else. */
const sayingLittle = 60
/** The name of a picture's file, as a camera or a careless hand gives it. */
const fileName = /^[\w .()-]+\.(?:jpe?g|png|gif|webp|avif|svg|bmp)$/i

/** Text that is still to be written, where it stands. */
export function fillerIn(text: string, start: number): ElementNote | null {
  const match = fillerWords.exec(text) ?? (text.trim().length <= sayingLittle ? fillerAlone.exec(text) : null)
  if (!match) return null
  const at = start + match.index
  return { kind: 'filler', name: match[0], start: at, end: at + match[0].length }
}

/** Whether a table shows data: several rows of several cells, and none of it for looks only. */
function isDataTable(table: HtmlElement): boolean {
  if (/^(none|presentation)$/.test(valueOf(table, 'role') ?? '')) return false
  let rows = 0
  const stack: HtmlNode[] = [...table.childNodes]
  while (stack.length > 0) {
    const node = stack.pop()!
    if (!('tagName' in node)) continue
    if (node.tagName === 'th') return false
    // What holds other tables, or whole blocks, is there to put them side by side.
    if (/^(table|nav|form|h[1-6]|ul|ol|div|slot)$/.test(node.tagName) || node.tagName.includes('-'))
      return false
    if (node.tagName === 'tr' && node.childNodes.filter((one) => 'tagName' in one).length > 1) rows += 1
    stack.push(...node.childNodes)
  }
  return rows > 1
}

/** Whether a control has a name of its own, whatever labels stand elsewhere. */
const isNamed = (element: HtmlElement) =>
  ['aria-label', 'aria-labelledby', 'title'].some((name) => valueOf(element, name)?.trim())

/** What people fill in; buttons name themselves. */
const isField = (element: HtmlElement) =>
  /^(select|textarea)$/.test(element.tagName) ||
  (element.tagName === 'input' &&
    !/^(hidden|submit|reset|button|image)$/i.test(valueOf(element, 'type') ?? ''))

function isWithin(element: HtmlElement, tag: string): boolean {
  for (let at: HtmlNode | null = element; at; at = 'parentNode' in at ? at.parentNode : null)
    if ('tagName' in at && at.tagName === tag) return true
  return false
}

/** What there is to say of a film or a sound. */
function notesOfRecording(element: HtmlElement): ElementNote['kind'][] {
  const has = (name: string) => valueOf(element, name) !== undefined
  const isTexted = element.childNodes.some(
    (child) =>
      'tagName' in child &&
      child.tagName === 'track' &&
      // Without a kind it is one of subtitles (HTML §4.8.11.11.1).
      /^(?:captions|subtitles)?$/i.test(valueOf(child, 'kind') ?? ''),
  )
  const kinds: ElementNote['kind'][] = []
  if (!has('controls') && !has('autoplay')) kinds.push('no-controls')
  if (has('autoplay') && !has('muted')) kinds.push('plays-alone')
  if (element.tagName === 'video' && !has('muted') && !isTexted) kinds.push('no-captions')
  return kinds
}

/**
 * What there is to say of one element.
 * @param labelled ids that a `label` is for
 */
export function notesOf(element: HtmlElement, labelled: ReadonlySet<string>): ElementNote[] {
  const where = element.sourceCodeLocation
  if (!where) return []
  const tag = element.tagName
  const range = { start: where.startOffset, end: where.startTag?.endOffset ?? where.endOffset }
  const notes: ElementNote[] = []
  const isHidden =
    valueOf(element, 'aria-hidden') === 'true' || /^(none|presentation)$/.test(valueOf(element, 'role') ?? '')
  if (tag === 'img' && valueOf(element, 'alt') === undefined && !isHidden)
    notes.push({ kind: 'no-alt', name: tag, ...range })
  if (tag === 'img' && fileName.test(valueOf(element, 'alt')?.trim() ?? ''))
    notes.push({ kind: 'alt-of-file', name: valueOf(element, 'alt')!.trim(), ...range })
  // A browser then keeps no room for it, and what follows jumps when it comes (HTML §4.8.17).
  if (tag === 'img' && !/\d/.test(`${valueOf(element, 'width')}${valueOf(element, 'height')}`))
    notes.push({ kind: 'no-size', name: tag, ...range })
  if (tag === 'video' || tag === 'audio')
    for (const kind of notesOfRecording(element)) notes.push({ kind, name: tag, ...range })
  if (tag === 'a' && valueOf(element, 'href') !== undefined && !isHidden) {
    if (!saysSomething(element)) notes.push({ kind: 'empty-link', name: tag, ...range })
    const words = isNamed(element) ? '' : wordsIn(element).replace(/[\s.…»›>→:]+$/, '')
    if (vagueWords.test(words)) notes.push({ kind: 'vague-link', name: words, ...range })
  }
  if (/^h[1-6]$/.test(tag) && !saysSomething(element))
    notes.push({ kind: 'empty-heading', name: tag, ...range })
  if (tag === 'table' && isDataTable(element)) {
    const heads = headsIn(element)
    notes.push({ kind: 'no-headers', name: tag, ...range, ...(heads && { heads }) })
  }
  if (isField(element) && !isNamed(element) && !isWithin(element, 'label'))
    if (!labelled.has(valueOf(element, 'id') ?? '')) notes.push({ kind: 'no-label', name: tag, ...range })
  if (obsoleteTags.has(tag)) notes.push({ kind: 'obsolete', name: tag, ...range })
  for (const { name, at } of element.attrs)
    if (at && obsoleteAttributes.has(name) && !element.namespaceURI.endsWith('svg'))
      notes.push({ kind: 'obsolete', name: `${tag} ${name}`, start: at.startOffset, end: at.endOffset })
  return notes
}
