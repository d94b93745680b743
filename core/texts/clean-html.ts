import { tableOf } from '#core/site'
import { escapeAttribute, escapeText, type HtmlElement, type HtmlNode, parseHtml } from '#core/markup'
import { makeHeads } from './bold-heads'
import { makeLists } from './listed-paragraphs'

/** Elements that are kept, and the attributes that say something of theirs (HTML §4). */
const kept = tableOf<readonly string[]>({
  p: [], h1: [], h2: [], h3: [], h4: [], h5: [], h6: [], blockquote: ['cite'], pre: [], hr: [], br: [],
  ul: [], ol: ['start', 'reversed', 'type'], li: ['value'], dl: [], dt: [], dd: [], figure: [], figcaption: [],
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
const dropped = new Set(['script', 'style', 'head', 'title', 'meta', 'link', 'template', 'noscript', 'iframe', 'object', 'embed', 'svg', 'math', 'form', 'button', 'select', 'textarea', 'input', 'canvas', 'audio', 'video']) // prettier-ignore
/** Boxes without a meaning: a paragraph where text stands in them by itself. */
const boxes = new Set(['div', 'section', 'article', 'main', 'header', 'footer', 'aside', 'nav', 'center', 'address', 'body', 'html']) // prettier-ignore
const blocks = new Set(['p', 'h1', 'h2', 'h3', 'h4', 'h5', 'h6', 'blockquote', 'pre', 'hr', 'ul', 'ol', 'li', 'dl', 'dt', 'dd', 'figure', 'figcaption', 'table', 'caption', 'thead', 'tbody', 'tfoot', 'tr', 'th', 'td']) // prettier-ignore
/** Elements that stand in certain others only; elsewhere what is in them counts. */
const needs = tableOf<readonly string[]>({
  li: ['ul', 'ol'], dt: ['dl'], dd: ['dl'], figcaption: ['figure'], caption: ['table'], thead: ['table'], tbody: ['table'],
  tfoot: ['table'], tr: ['thead', 'tbody', 'tfoot'], th: ['tr'], td: ['tr'],
}) // prettier-ignore
const empty = new Set(['br', 'hr', 'img'])
/** Elements that hold blocks, and no text beside them. */
const holders = new Set(['ul', 'ol', 'dl', 'table', 'thead', 'tbody', 'tfoot', 'tr'])
const scheme = /^[a-z][a-z0-9+.-]*:/i
const isSafe = (href: string) => !scheme.test(href) || /^(https?|ftp|mailto|tel):/i.test(href)

interface Piece {
  readonly html: string
  /** Whether it stands on lines of its own. */
  readonly isBlock: boolean
}

/** Levels of elements that are followed; below, the text is kept without them. */
const mostLevels = 200

/**
 * HTML from a word processor or a web page as an author would have written it: only elements that the
 * standard knows and that say something, without styles, classes and empty shells.
 */
export function cleanHtml(html: string): string {
  // Programs mark what was chosen among what stands around it.
  const fragment = /<!--StartFragment-->([\s\S]*?)<!--EndFragment-->/.exec(html)?.[1] ?? html
  const { root } = parseHtml(fragment, false)
  makeLists(root)
  makeHeads(root, html)
  return blockText(cleanAll(root, 0, ''), '').trim()
}

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
  const tag = nameOf(node)
  if (tag === null || dropped.has(tag)) return []
  const isKept = Object.hasOwn(kept, tag) && (!Object.hasOwn(needs, tag) || needs[tag]!.includes(parent))
  const inside = cleanAll(node, level, isKept ? tag : parent)
  if (boxes.has(tag)) {
    const isText = inside.every((piece) => !piece.isBlock)
    if (!isText) return inside
    const text = inlineText(inside)
    return text === '' ? [] : [{ html: `<p>${text}</p>`, isBlock: true }]
  }
  // Text of its own that lost its place stands by itself.
  if (!isKept)
    return blocks.has(tag) &&
      inside.every((piece) => !piece.isBlock) &&
      inlineText(inside) !== '' &&
      !holders.has(parent)
      ? [{ html: `<p>${inlineText(inside)}</p>`, isBlock: true }]
      : inside
  const attributes = attributesOf(node, tag)
  if (tag === 'img') return /src=/.test(attributes) ? [{ html: `<img${attributes}>`, isBlock: false }] : []
  if (empty.has(tag)) return [{ html: `<${tag}>`, isBlock: tag === 'hr' }]
  if (tag === 'pre') {
    const text = textOf(node)
    return text.trim() === '' ? [] : [{ html: `<pre>${escapeText(text)}</pre>`, isBlock: true }]
  }
  const isBlock = blocks.has(tag)
  // A link to nowhere, or around nothing, says nothing.
  if (tag === 'a' && (attributes === '' || inside.some((piece) => /<a[\s>]/.test(piece.html)))) return inside
  if (!isBlock) {
    if (inside.some((piece) => piece.isBlock)) return inside
    const text = inside.map((piece) => piece.html).join('')
    return text.trim() === '' ? inside : [{ html: around(tag, attributes, text), isBlock: false }]
  }
  const holdsBlocks = inside.some((piece) => piece.isBlock)
  // A paragraph or a heading holds words alone; blocks in it stand by themselves.
  if (holdsBlocks && /^(p|h[1-6])$/.test(tag)) return inside
  if (!holdsBlocks && holders.has(tag)) return []
  const entry = tag === 'li' ? entryWithLists(inside) : null
  const body = entry ?? (holdsBlocks ? `\n${blockText(inside, '  ')}\n` : inlineText(inside))
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

/** What an element says, by its name or by the style that a program gave it; null for what says nothing. */
function nameOf(element: HtmlElement): string | null {
  const tag = element.tagName
  // Of office programs and the like: what is in it counts, and it does not.
  if (tag.includes(':')) return element.childNodes.length > 0 ? 'span' : null
  const style = (element.attrs.find(({ name }) => name === 'style')?.value ?? '').toLowerCase()
  if (/mso-list:\s*ignore|display:\s*none/.test(style)) return null
  if (tag === 'b' && /font-weight:\s*(normal|400)/.test(style)) return 'span'
  if (tag === 'span' || tag === 'font') {
    if (/font-weight:\s*(bold|[6-9]00)/.test(style)) return 'strong'
    if (/font-style:\s*italic/.test(style)) return 'em'
    if (/vertical-align:\s*super/.test(style)) return 'sup'
    if (/vertical-align:\s*sub/.test(style)) return 'sub'
    return 'span'
  }
  return renamed[tag] ?? tag
}

function attributesOf(element: HtmlElement, tag: string): string {
  return element.attrs
    .filter(({ name, value }) => {
      if (!kept[tag]!.includes(name)) return false
      if (name === 'href') return value.trim() !== '' && isSafe(value.trim())
      if (name === 'src') return isSafe(value.trim()) || /^data:image\//i.test(value)
      if (name === 'width' || name === 'height') return /^\d{1,5}$/.test(value)
      return name === 'alt' || value !== ''
    })
    .map(({ name, value }) => ` ${name}="${escapeAttribute(value.trim())}"`)
    .join('')
}

/** All text in an element as it stands, without that of what is left out. */
function textOf(node: HtmlNode): string {
  let text = ''
  // A stack instead of recursion: what is pasted may be thousands of levels deep.
  const stack: HtmlNode[] = [node]
  while (stack.length > 0) {
    const one = stack.pop()!
    if (one.nodeName === '#text' && 'value' in one) text += one.value
    else if ('childNodes' in one && (!('tagName' in one) || !dropped.has(one.tagName)))
      stack.push(...(one.childNodes as HtmlNode[]).toReversed())
  }
  return text
}

/** Text with its marks on one line, without white space at its ends. */
const inlineText = (pieces: readonly Piece[]): string =>
  pieces
    .map((piece) => piece.html)
    .join('')
    .replace(/ {2,}/g, ' ')
    .replace(/^(?: |<br>)+|(?: |<br>)+$/g, '')

/** Blocks on lines of their own; text between them becomes a paragraph. */
function blockText(pieces: readonly Piece[], indent: string): string {
  const lines: string[] = []
  let text: Piece[] = []
  const end = () => {
    const line = inlineText(text)
    if (line !== '') lines.push(pieces.some((piece) => piece.isBlock) ? `<p>${line}</p>` : line)
    text = []
  }
  for (const piece of pieces)
    if (piece.isBlock) {
      end()
      lines.push(piece.html)
    } else text.push(piece)
  end()
  return lines
    .map((line) => (indent === '' || line.startsWith('<pre') ? line : line.replace(/^(?=.)/gm, indent)))
    .join('\n')
}
