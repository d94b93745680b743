import { escapeAttribute, escapeText, type HtmlElement, type HtmlNode, parseHtml } from '#core/markup'
import { makeHeads } from './bold-heads'
import { blocks, boxes, isOfCode, kept, mayStandIn, nameOf, textOf } from './elements'
import { forgetPlaces, keepPlaces, standingPlaces } from './kept-places'
import { dissolveLayout } from './layout-tables'
import { frameHtml, mediaHtml } from './media'
import { makeLists } from './listed-paragraphs'

const empty = new Set(['br', 'hr', 'img'])
/** Elements that hold blocks, and no text beside them. */
const holders = new Set(['ul', 'ol', 'dl', 'table', 'thead', 'tbody', 'tfoot', 'tr'])
const scheme = /^[a-z][a-z0-9+.-]*:/i
const isSafe = (href: string) => !scheme.test(href) || /^(https?|ftp|mailto|tel):/i.test(href)

/** A line break in a `pre`, where no indentation may come: no text that was parsed has this letter (HTML §13.2.5). */
const keptBreak = '\0'

interface Piece {
  readonly html: string
  /** Whether it stands on lines of its own. */
  readonly isBlock: boolean
}

/** Marks around what was chosen. */
const [begins, ends] = ['<!--StartFragment-->', '<!--EndFragment-->']

/** Levels of elements that are followed; below, the text is kept without them. */
const mostLevels = 200

/**
 * HTML from a word processor or a web page as an author would have written it: only elements that the
 * standard knows and that say something, without styles, classes, empty shells and tables that only lay out. Footnotes and
 * lists of contents go on leading where they led.
 * @param into the text that it is pasted into, whose ids stay its own
 */
export function cleanHtml(html: string, into = ''): string {
  const { root } = parseHtml(chosenOf(html), false)
  makeLists(root)
  dissolveLayout(root)
  makeHeads(root, html)
  const written = () =>
    blockText(cleanAll(root, 0, ''), '')
      .trim()
      .replaceAll(keptBreak, '\n')
  const taken = idsIn(into)
  if (!keepPlaces(root, taken)) return written()
  // What carried a place may have said nothing else, and is gone; with the links to it, other places may go.
  const first = written()
  const stays = standingPlaces(first, taken)
  if (stays === null) return first
  forgetPlaces(root, (place) => !stays.has(place) && !taken.has(place))
  const second = written()
  if (standingPlaces(second, taken) === null) return second
  forgetPlaces(root, () => true)
  return written()
}

/** What a parser drops where no table stands around it (HTML §13.2.6.4.7). */
const ofTable = /^<(?:caption|col|colgroup|tbody|td|tfoot|th|thead|tr)[\s>]/i

/** What a text begins with, white space and comments aside. */
function beginningOf(html: string): string {
  const letter = /\S/g
  for (;;) {
    const at = letter.exec(html)?.index ?? html.length
    if (!html.startsWith('<!--', at)) return html.slice(at, at + 20)
    const end = html.indexOf('-->', at)
    if (end < 0) return ''
    letter.lastIndex = end + 3
  }
}

/** What was chosen, which programs mark among what stands around it; spreadsheets mark the rows, within their table. */
function chosenOf(html: string): string {
  const from = html.indexOf(begins)
  const to = from < 0 ? -1 : html.indexOf(ends, from)
  const chosen = to < 0 ? html : html.slice(from + begins.length, to)
  return ofTable.test(beginningOf(chosen)) ? `<table>${chosen}</table>` : chosen
}

const idsIn = (text: string): Set<string> =>
  new Set([...text.matchAll(/\bid=["']?([^\s"'>]+)/gi)].map(([, id]) => id!))

function cleanAll(node: HtmlNode, level: number, parent: string): Piece[] {
  if (!('childNodes' in node)) return []
  return (node.childNodes as HtmlNode[]).flatMap((child) => clean(child, level + 1, parent))
}

/** @param parent the nearest element above it that is kept */
function clean(node: HtmlNode, level: number, parent: string): Piece[] {
  if (node.nodeName === '#text' && 'value' in node) {
    // A space that does not break is how word processors write every second one.
    const text = node.value.replace(/[\s\u00a0]+/g, ' ')
    return text === '' ? [] : [{ html: escapeText(text), isBlock: false }]
  }
  if (!('tagName' in node) || level > mostLevels) return []
  const asOne = (html: string | null) => (html === null ? [] : [{ html, isBlock: false }])
  if (node.tagName === 'iframe') return asOne(frameHtml(node))
  const tag = nameOf(node)
  if (tag === null) return []
  if (tag === 'audio' || tag === 'video') return asOne(mediaHtml(node))
  const isKept = Object.hasOwn(kept, tag) && mayStandIn(parent, tag)
  const found = cleanAll(node, level, isKept ? tag : parent)
  const inside = isKept && /^[uo]l$/.test(tag) ? withListsInEntries(found) : found
  if (boxes.has(tag)) {
    const isText = inside.every((piece) => !piece.isBlock)
    if (!isText) return inside
    return paragraphsOf(inside, attributesOf(node, 'p'))
  }
  // Text of its own that lost its place stands by itself.
  if (!isKept)
    return blocks.has(tag) &&
      inside.every((piece) => !piece.isBlock) &&
      inlineText(inside) !== '' &&
      !holders.has(parent)
      ? [{ html: `<p${attributesOf(node, 'p')}>${inlineText(inside)}</p>`, isBlock: true }]
      : inside
  const attributes = attributesOf(node, tag)
  if (tag === 'img') return /src=/.test(attributes) ? [{ html: `<img${attributes}>`, isBlock: false }] : []
  if (empty.has(tag)) return [{ html: `<${tag}>`, isBlock: tag === 'hr' }]
  if (tag === 'pre') {
    // The first line break in it would not count (HTML §13.2.6.4.7).
    const text = escapeText(textOf(node).replace(/^\n+/, '').trimEnd()).replaceAll('\n', keptBreak)
    const body = isOfCode(node) ? `<code>${text}</code>` : text
    return text.trim() === '' ? [] : [{ html: `<pre${attributes}>${body}</pre>`, isBlock: true }]
  }
  const isBlock = blocks.has(tag)
  // A link to nowhere, or around nothing, says nothing.
  if (tag === 'a' && (!/ href=/.test(attributes) || inside.some((piece) => /<a[\s>]/.test(piece.html))))
    return inside
  if (!isBlock) {
    if (inside.some((piece) => piece.isBlock)) return inside
    const text = inside.map((piece) => piece.html).join('')
    return text.trim() === '' ? inside : [{ html: around(tag, attributes, text), isBlock: false }]
  }
  const holdsBlocks = inside.some((piece) => piece.isBlock)
  if (tag === 'p' && !holdsBlocks) return paragraphsOf(inside, attributes)
  // A paragraph or a heading holds words alone; blocks in it stand by themselves.
  if (holdsBlocks && /^(p|h[1-6])$/.test(tag)) return inside
  if (!holdsBlocks && holders.has(tag)) return []
  const entry = tag === 'li' ? entryWithLists(inside) : null
  const body =
    entry ?? (holdsBlocks ? `\n${blockText(inside, '  ', tag !== 'figure')}\n` : inlineText(inside))
  if (body.trim() === '' && tag !== 'td' && tag !== 'th') return []
  // A paragraph in an entry or a cell, alone, is only its text.
  const only = inside.length === 1 && /^(li|td|th|dd|blockquote)$/.test(tag) ? /^<p>([\s\S]*)<\/p>$/.exec(inside[0]!.html) : null // prettier-ignore
  return [
    {
      html: `<${tag}${attributes}>${only && tag !== 'blockquote' ? only[1]! : body}</${tag}>`,
      isBlock: true,
    },
  ]
}

/** Lists that stand in a list by themselves go into the entry before them (HTML §4.4.6). */
function withListsInEntries(pieces: readonly Piece[]): Piece[] {
  const entries: { readonly piece: Piece; readonly lists: Piece[] }[] = []
  for (const piece of pieces) {
    if (!piece.isBlock && piece.html.trim() === '') continue
    const isList = /^<[uo]l[ >]/.test(piece.html)
    const before = entries.at(-1)
    if (isList && before && /^<li[ >]/.test(before.piece.html)) before.lists.push(piece)
    else if (isList) entries.push({ piece: { html: '<li></li>', isBlock: true }, lists: [piece] })
    else entries.push({ piece, lists: [] })
  }
  return entries.map(({ piece, lists }) => {
    if (lists.length === 0) return piece
    const words = piece.html.slice(0, -'</li>'.length).trimEnd()
    return { html: `${words}\n${blockText(lists, '  ')}\n</li>`, isBlock: true }
  })
}

/** An entry of words with nothing but lists below them: the words stand by themselves; null for any other. */
function entryWithLists(inside: readonly Piece[]): string | null {
  const at = inside.findIndex((piece) => piece.isBlock)
  const words = at < 0 ? '' : inlineText(inside.slice(0, at))
  const below = inside.slice(at).filter((piece) => piece.isBlock || piece.html.trim() !== '')
  if (words === '' || !below.every((piece) => /^<[uo]l[ >]/.test(piece.html))) return null
  return `${words}\n${blockText(below, '  ')}\n`
}

/** Space at the ends of a word that is marked stands outside of the mark. */
function around(tag: string, attributes: string, text: string): string {
  const [lead, trail] = [/^ */.exec(text)![0], / *$/.exec(text)![0]]
  return `${lead}<${tag}${attributes}>${text.trim()}</${tag}>${trail}`
}

function attributesOf(element: HtmlElement, tag: string): string {
  return element.attrs
    .filter(({ name, value }) => {
      if (name === 'id') return value !== ''
      if (!kept[tag]!.includes(name)) return false
      if (name === 'href') return value.trim() !== '' && isSafe(value.trim())
      // A picture on the author's own disk stays where it is shown: Checks tell of it there.
      if (name === 'src') return isSafe(value.trim()) || /^\s*(data:image\/|file:)/i.test(value)
      if (name === 'width' || name === 'height') return /^\d{1,5}$/.test(value)
      return name === 'alt' || value !== ''
    })
    .map(({ name, value }) => ` ${name}="${escapeAttribute(value.trim())}"`)
    .join('')
}

/** Text with its marks on one line, without white space at its ends. */
const inlineText = (pieces: readonly Piece[]): string =>
  pieces
    .map((piece) => piece.html)
    .join('')
    .replace(/ {2,}/g, ' ')
    .replace(/^(?: |<br>)+|(?: |<br>)+$/g, '')

/** Text parted where it breaks twice in a row: what follows is another paragraph, whatever it was written as. */
function partedByBreaks(pieces: readonly Piece[]): string[] {
  const parts: Piece[][] = [[]]
  let breaks = 0
  for (const piece of pieces) {
    if (piece.html === '<br>') breaks += 1
    else if (piece.html.trim() !== '') {
      if (breaks > 1) parts.push([])
      breaks = 0
    }
    parts.at(-1)!.push(piece)
  }
  return parts.map(inlineText).filter((text) => text !== '')
}

/** The paragraphs that a text is; the first has the attributes. */
const paragraphsOf = (pieces: readonly Piece[], attributes: string): Piece[] =>
  partedByBreaks(pieces).map((text, nth) => ({
    html: `<p${nth === 0 ? attributes : ''}>${text}</p>`,
    isBlock: true,
  }))

/** Blocks on lines of their own; text between them becomes a paragraph, but for a picture in its figure. */
function blockText(pieces: readonly Piece[], indent: string, wraps = true): string {
  const lines: string[] = []
  const hasBlocks = pieces.some((piece) => piece.isBlock)
  let text: Piece[] = []
  const end = () => {
    const parts = wraps ? partedByBreaks(text) : [inlineText(text)].filter((line) => line !== '')
    const areParagraphs = wraps && (hasBlocks || parts.length > 1)
    lines.push(...(areParagraphs ? parts.map((line) => `<p>${line}</p>`) : parts))
    text = []
  }
  for (const piece of pieces)
    if (piece.isBlock) {
      end()
      lines.push(piece.html)
    } else text.push(piece)
  end()
  return lines.map((line) => (indent === '' ? line : line.replace(/^(?=.)/gm, indent))).join('\n')
}
