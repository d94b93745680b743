import { digestOfWords } from './digest'
import { languageOfText } from '#core/language'
import { endsHeading } from './ended-tags'
import type { Heading, HtmlFacts, PlacedRange, ReadLink, ReadPicture, SaidOfPage } from './html-facts'
import type { Reference } from './reference'
import { referencesOf, seenOnce, withAdded } from './html-references'
import type { Range } from './indent'
import { Lines } from './lines'
import { type ElementNote, fillerIn, notesOf } from './notes'
import { type ParsedHtml, parseHtml, pieceOf } from './parse'
import { styleFaultsOf } from './page-styles'
import { runsIn } from './runs'
import type { StyleFault } from './style-facts'
import { ownDocumentIn } from './own-document'
import { findTagFaults } from './tags'
import { attributeOf, type HtmlElement, type HtmlNode, walkHtml } from './tree'
import { wordsIn } from './words'

/** Letters that the language of a text is told by. */
const mostOfSample = 6_000

/** Whether an element in a page says a language of its own (HTML §3.2.6.2); what all of it is in is its document's to say. */
const saysLanguage = ({ tagName, attrs }: HtmlElement): boolean =>
  tagName !== 'html' && attrs.some(({ name, value }) => name === 'lang' && value.trim() !== '')

/** The name that makes an `a` a place that links lead to; null without one (HTML §7.4.6.4). */
const anchorOf = ({ tagName, attrs }: HtmlElement): string | null =>
  tagName === 'a' ? (attrs.find(({ name, value }) => name === 'name' && value !== '')?.value ?? null) : null

/** Every name by which a link can lead to a place in a text: its ids, and those of its anchors. */
export const placesIn = ({ ids, anchors }: Pick<HtmlFacts, 'ids' | 'anchors'>): readonly string[] =>
  anchors.length === 0 ? ids : [...new Set([...ids, ...anchors])]

/** Letters of a heading that are kept. */
const longestHeading = 200

/** A number of pixels as an attribute gives it (HTML §2.3.4.4); null for anything else. */
const pixels = (value: string | undefined): number | null => {
  const match = /^\s*(\d{1,6})(?:\.\d+)?(?:px)?\s*$/.exec(value ?? '')
  return match ? Number(match[1]) : null
}

/** Elements whose line breaks and spaces are part of what is shown or run. */
const verbatim = new Set(['pre', 'textarea', 'script', 'style', 'listing', 'xmp', 'plaintext'])

/** Adds where in an element white space counts: in what it shows as it is, and in its attributes. */
function addFixed(element: HtmlElement, lines: Lines, fixed: Range[]): void {
  const where = element.sourceCodeLocation
  if (!where) return
  for (const { at } of element.attrs)
    if (at && lines.hasBreak(at.startOffset, at.endOffset))
      fixed.push({ start: at.startOffset, end: at.endOffset })
  if (!verbatim.has(element.tagName)) return
  const start = where.startTag?.endOffset ?? where.startOffset
  const end = where.endTag?.startOffset ?? where.endOffset
  if (lines.hasBreak(start, end)) fixed.push({ start, end })
}

/** Notes that are told of one text, and links and pictures that are kept of it. */
const mostNotes = 1_000
/** Tables without heads whose cells are told. */
const mostTables = 100
const mostLinks = 2_000
/** Letters of a link that are kept. */
const longestLink = 80

/** Attributes whose values visitors read or hear (HTML §3.2.6.1, §4.8.4.4, §4.10.5; WAI-ARIA §6). */
export const attributesSaid: ReadonlySet<string> = new Set([
  'alt', 'title', 'placeholder', 'label', 'summary', 'aria-label', 'aria-description',
]) // prettier-ignore

/** Ids that labels are for. */
function labelledIn(root: HtmlNode, html: string): ReadonlySet<string> {
  const ids = new Set<string>()
  if (!/<label/i.test(html)) return ids
  walkHtml(root, (node) => {
    if ('tagName' in node && node.tagName === 'label') {
      const to = node.attrs.find((attr) => attr.name === 'for')
      if (to) ids.add(to.value)
    }
  })
  return ids
}

/** Whether a text is a document of its own and no piece of one. */
const isDocument = (html: string): boolean =>
  /^\s*(?:<!--[\s\S]*?-->\s*)?<(?:!doctype|html|head)[\s>]/i.test(html)

/**
 * Reads a fragment (a slot's content) or a whole document once, for all that later steps ask.
 * @param parsed the same text, where it has been parsed already
 */
export function readHtml(
  html: string,
  whole = isDocument(html),
  parsed: ParsedHtml = parseHtml(html, whole),
): HtmlFacts {
  const { root, errors, errorCount } = parsed
  const found: Reference[] = []
  const ids: string[] = []
  const anchors: string[] = []
  let lastAnchor = null as { name: string; wordsBefore: number } | null
  const fixed: Range[] = []
  const bases: (PlacedRange & { href: string })[] = []
  const lines = new Lines(html)
  const hasBreaks = html.includes('\n')
  const headings: (Heading & { text: string; id: string | null; end: number })[] = []
  /** Whether the heading that began last has said anything yet. */
  let isHeadingSaid = false
  let tables = 0
  const isSeen = seenOnce()
  const notes: ElementNote[] = []
  const links: ReadLink[] = []
  const pictures: ReadPicture[] = []
  const styleFaults: StyleFault[] = []
  let wordCount = 0
  /** What is read of it, in its order. */
  const spoken: string[] = []
  let isUnlisted = false as boolean
  const says = new Set<SaidOfPage>()
  let sample = ''
  /** Where the part ends that says its own language. */
  let saysOwnUntil = -1
  const labelled = labelledIn(root, html)
  walkHtml(root, (node) => {
    if (!('tagName' in node)) {
      if (node.nodeName === '#text' && 'value' in node) {
        const holder = 'parentNode' in node ? node.parentNode?.nodeName : undefined
        if (holder === 'script' || holder === 'style') return
        wordCount += countWords(node.value)
        spoken.push(node.value)
        const at = node.sourceCodeLocation
        const isSample = sample.length < mostOfSample && !/^(code|pre|kbd|samp|textarea)$/.test(holder ?? '')
        if (isSample && (at?.startOffset ?? 0) >= saysOwnUntil)
          sample += `${node.value.slice(0, mostOfSample)} `
        const filler = at && notes.length < mostNotes ? fillerIn(html.slice(at.startOffset, at.endOffset), at.startOffset) : null // prettier-ignore
        if (filler) notes.push(filler)
      }
      // What stands in the heading that began last; of one within another only its own is told.
      const open = headings[headings.length - 1]
      if (open && node.nodeName === '#text' && 'value' in node && open.text.length < longestHeading)
        if ((node.sourceCodeLocation?.startOffset ?? Infinity) < open.end) {
          open.text += node.value
          isHeadingSaid ||= /\S/.test(node.value)
        }
      return
    }
    if (isSeen(node)) return
    const begun = headings[headings.length - 1]
    if (begun && isHeadingSaid && begun.endNameAt === null && endsHeading(node.tagName))
      begun.end = Math.min(begun.end, node.sourceCodeLocation?.startOffset ?? Infinity)
    if (saysLanguage(node)) saysOwnUntil = Math.max(saysOwnUntil, node.sourceCodeLocation?.endOffset ?? -1)
    const id = node.attrs.find((attr) => attr.name === 'id')
    if (id) ids.push(id.value)
    const anchor = anchorOf(node)
    if (anchor !== null) {
      anchors.push(anchor)
      const open = headings[headings.length - 1]
      if (open && (node.sourceCodeLocation?.startOffset ?? Infinity) < open.end) open.id ??= anchor
      else lastAnchor = { name: anchor, wordsBefore: wordCount }
    }
    for (const { name, value } of node.attrs) if (attributesSaid.has(name)) spoken.push(value)
    referencesOf(html, node, found)
    styleFaultsOf(html, node, styleFaults)
    if (notes.length < mostNotes)
      for (const note of notesOf(node, labelled)) {
        const { heads, ...rest } = note
        notes.push(heads && ++tables > mostTables ? rest : note)
      }
    const tag = node.sourceCodeLocation?.startTag ?? node.sourceCodeLocation
    if (tag && node.tagName === 'a' && links.length < mostLinks) {
      const href = node.attrs.find((attr) => attr.name === 'href')?.value.trim()
      const range = { start: tag.startOffset, end: tag.endOffset, ...lines.placeOf(tag.startOffset) }
      const current = node.attrs.find((attr) => attr.name === 'aria-current')?.value.trim()
      const isCurrent = current !== undefined && current !== '' && current !== 'false'
      if (href !== undefined)
        links.push({ href, words: wordsIn(node, longestLink), ...(isCurrent && { isCurrent }), ...range })
    }
    if (tag && node.tagName === 'img' && pictures.length < mostLinks) {
      const value = (name: string) => node.attrs.find((attr) => attr.name === name)?.value
      const range = { start: tag.startOffset, end: tag.endOffset, ...lines.placeOf(tag.startOffset) }
      const size = { width: pixels(value('width')), height: pixels(value('height')) }
      pictures.push({ src: value('src')?.trim() ?? '', ...size, ...range })
    }
    if (hasBreaks) addFixed(node, lines, fixed)
    isUnlisted ||= node.tagName === 'meta' && asksToBeUnlisted(node)
    const ofPage = saidOfPage(node)
    if (ofPage) says.add(ofPage)
    const where = node.sourceCodeLocation
    const base = baseIn(node, lines)
    if (base) bases.push(base)
    if (/^h[1-6]$/.test(node.tagName) && where?.startTag) {
      isHeadingSaid = false
      headings.push({
        level: Number(node.tagName[1]),
        text: '',
        id: id?.value ?? (lastAnchor?.wordsBefore === wordCount ? lastAnchor.name : null),
        idAt: where.startOffset + 1 + node.tagName.length,
        endNameAt: where.endTag ? where.endTag.startOffset + 2 : null,
        start: where.startOffset,
        end: where.endOffset,
        ...lines.placeOf(where.startOffset),
      })
    }
  })
  withAdded(html, parsed.added, found)
  for (const heading of headings)
    heading.text = heading.text.replace(/\s+/g, ' ').trim().slice(0, longestHeading)
  fixed.sort((a, b) => a.start - b.start)
  const references = found.map((one) => ({ ...one, ...lines.placeOf(one.start) }))
  const told = <T extends Range>(one: T) => ({
    ...one,
    ...lines.placeOf(one.start),
    piece: pieceOf(html, one.start, one.end),
  })
  const own = ownDocumentIn(html)
  const language = languageOfText(sample)
  return {
    references,
    errors,
    errorCount,
    fixed,
    bases,
    ids,
    anchors,
    headings,
    tags: parsed.isPlain ? [] : findTagFaults(html).map(told),
    notes: notes.map(told),
    runs: runsIn(root, html).map(told),
    styleFaults: styleFaults.map(told),
    ...(own && { document: told(own) }),
    links,
    pictures,
    size: html.length,
    wordCount,
    said: wordCount === 0 ? '' : digestOfWords(spoken),
    ...(language !== null && { language }),
    ...(isUnlisted && { isUnlisted }),
    ...(says.size > 0 && { says: [...says] }),
  }
}

const nothingTold: Omit<HtmlFacts, 'references' | 'fixed' | 'bases' | 'size'> = {
  errors: [],
  errorCount: 0,
  ids: [],
  anchors: [],
  headings: [],
  tags: [],
  notes: [],
  runs: [],
  styleFaults: [],
  links: [],
  pictures: [],
  wordCount: 0,
  said: '',
}

/**
 * Reads of a text what it takes to place it on a page, or to mend its references, and nothing that is told of it: for
 * texts that are read on the way and not kept.
 * @param parsed the same text, where it has been parsed already
 */
export function readToPlace(
  html: string,
  whole = isDocument(html),
  parsed: ParsedHtml = parseHtml(html, whole),
): HtmlFacts {
  const references: Reference[] = []
  const fixed: Range[] = []
  const bases: HtmlFacts['bases'][number][] = []
  const lines = new Lines(html)
  const hasBreaks = html.includes('\n')
  const isSeen = seenOnce()
  walkHtml(parsed.root, (node) => {
    if (!('tagName' in node) || isSeen(node)) return
    referencesOf(html, node, references)
    if (hasBreaks) addFixed(node, lines, fixed)
    const base = baseIn(node, lines)
    if (base) bases.push(base)
  })
  withAdded(html, parsed.added, references)
  fixed.sort((a, b) => a.start - b.start)
  const placed = references.map((one) => ({ ...one, ...lines.placeOf(one.start) }))
  return { ...nothingTold, references: placed, fixed, bases, size: html.length }
}

/**
 * Whether white space may count anywhere in a text, told without parsing it: not where no such element begins, no value in
 * quotes goes over its line, and no sign between a name and its value stands at the end of one or in front. May be wrong by
 * saying that it does.
 */
function mayBeFixed(html: string): boolean {
  if (/<(?:pre|textarea|script|style|listing|xmp|plaintext)/i.test(html)) return true
  let line = html.indexOf('\n')
  for (let at = html.indexOf('='); at >= 0 && line >= 0; at = html.indexOf('=', at + 1)) {
    let before = at - 1
    while (before >= 0 && ' \t\r\n\f'.includes(html[before]!)) if (html[before--] === '\n') return true
    let after = at + 1
    while (after < html.length && ' \t\r\n\f'.includes(html[after]!)) if (html[after++] === '\n') return true
    const quote = html[after]
    if (quote !== '"' && quote !== "'") continue
    const end = html.indexOf(quote, after + 1)
    if (line < after) line = html.indexOf('\n', after)
    if (line >= 0 && (end < 0 || line < end)) return true
  }
  return false
}

/** Stretches of more than one line in which white space counts, sorted by where they start. */
export const fixedIn = (html: string): readonly Range[] => (mayBeFixed(html) ? readToPlace(html).fixed : [])

/** A `meta` for robots that keeps its page out of what they list. */
const asksToBeUnlisted = (meta: HtmlElement): boolean =>
  /^robots$/i.test(attributeOf(meta, 'name')?.trim() ?? '') &&
  /(?:^|[\s,])(?:noindex|none)(?:$|[\s,])/i.test(attributeOf(meta, 'content') ?? '')

/** What an element says of its page as a whole; a title within a drawing is that of the drawing. */
function saidOfPage(element: HtmlElement): SaidOfPage | null {
  if (element.tagName === 'title') return element.namespaceURI.endsWith('/xhtml') ? 'title' : null
  if (element.tagName !== 'meta') return null
  if (/^viewport$/i.test(attributeOf(element, 'name')?.trim() ?? '')) return 'viewport'
  const isOfType = /^content-type$/i.test(attributeOf(element, 'http-equiv')?.trim() ?? '')
  const isSaid = isOfType && /charset/i.test(attributeOf(element, 'content') ?? '')
  return isSaid || attributeOf(element, 'charset') !== undefined ? 'charset' : null
}

/** Whether a document asks search engines not to list it. */
export function saysUnlisted(html: string): boolean {
  if (!/robots/i.test(html)) return false
  let isUnlisted = false
  walkHtml(parseHtml(html, true).root, (node) => {
    isUnlisted ||= 'tagName' in node && node.tagName === 'meta' && asksToBeUnlisted(node)
  })
  return isUnlisted
}

/** A `base` element that has an address (HTML §4.2.3). */
function baseIn(node: HtmlElement, lines: Lines): HtmlFacts['bases'][number] | null {
  const where = node.sourceCodeLocation
  const base = node.tagName === 'base' ? node.attrs.find((attr) => attr.name === 'href') : undefined
  if (!base || !where) return null
  const range = { start: where.startOffset, end: where.endOffset, ...lines.placeOf(where.startOffset) }
  return { href: base.value.trim(), ...range }
}

/** Words between white space, without making a list of them. */
function countWords(text: string): number {
  let count = 0
  let isIn = false
  for (let at = 0; at < text.length; at++) {
    const isBlank = text.charCodeAt(at) <= 32
    if (!isBlank && !isIn) count += 1
    isIn = !isBlank
  }
  return count
}
