import { decodeHTML } from 'entities'
import type { Range } from '#core/markup'
import type { ReadPage } from '../reading/read-page'
import type { Group } from './group'

/** Tags that may be left out, or that a second one adds to (HTML §13.1.2.4, §13.2.6.4.7): nothing is told by them. */
const untold = /^<(?:\/|(?:html|head|body|tbody|colgroup)[\s/>])/i

/** What a start tag says, in whatever order and however it is written. */
function saidByTag(tag: string): string {
  if (untold.test(tag)) return ''
  const plain = tag.includes('&') ? decodeHTML(tag) : tag
  return [...new Set(plain.toLowerCase().match(/[\p{L}\p{N}]+/gu))].sort().join()
}

/** What a stretch of a page says: its texts and codes, and its tags in whatever way they are written. Linear. */
function saidIn(text: string, own: ReadonlySet<number>, from: number): string {
  let said = ''
  let at = 0
  const add = (piece: string) => {
    const plain = piece.includes('&') ? decodeHTML(piece) : piece
    // A path is another one in each folder.
    said += plain.replace(/[\w./-]+/g, (word) => word.slice(word.lastIndexOf('/') + 1)).replace(/\s+/g, '')
  }
  for (const { 0: tag, 1: name, index } of text.matchAll(/<\/?([a-z][^\s/<>]*)[^<>]*>/gi)) {
    add(text.slice(at, index))
    // A tag of the frame that has something of each page's own.
    if (!own.has(from + index + 1 + name!.length)) said += `<${saidByTag(tag)}>`
    at = index + tag.length
  }
  add(text.slice(at))
  // What was left out there stands for nothing, and many words are written in any letters, a doctype's among them.
  return said.replaceAll('<>', '').toLowerCase()
}

/** What is not the frame's in a page; the gaps, which all pages have, are told by their numbers. */
interface Hole extends Range {
  readonly gap: number | null
}

/** Stretches of a page that the frame does not have, in their order; null where they cross. */
function holesOf({ gaps, parts, pages }: Group, index: number): Hole[] | null {
  const title = pages[index]!.title?.range
  const holes: Hole[] = [
    ...gaps.map(({ ranges }, gap) => ({ ...ranges[index]!, gap })),
    ...parts.flatMap(({ ranges }) => (ranges[index] ? [{ ...ranges[index], gap: null }] : [])),
  ].sort((a, b) => a.start - b.start || a.end - b.end)
  const areApart = holes.every(
    ({ start, end }, at) => end >= start && (at === 0 || start >= holes[at - 1]!.end),
  )
  if (!areApart) return null
  // A page's title is filled in wherever it stands.
  const isFree = title && holes.every(({ start, end }) => end <= title.start || start >= title.end)
  if (!isFree) return holes
  return [...holes, { ...title, gap: null }].sort((a, b) => a.start - b.start || a.end - b.end)
}

/** What the frame says as a page has it, with where its own stretches stand; null where those cross. */
function saidByFrame(group: Group, index: number): string | null {
  const holes = holesOf(group, index)
  if (!holes) return null
  const page = group.pages[index]!
  // What references lead to is told from other pages' by that, and is written in each page in its way.
  const text = withoutReferences(page)
  const own = new Set(group.own.map(({ tags }) => tags[index]!.start))
  let said = ''
  let at = 0
  for (const { start, end, gap } of holes) {
    said += saidIn(text.slice(at, start), own, at)
    if (gap !== null) said += `\0${gap}\0`
    at = end
  }
  return said + saidIn(text.slice(at), own, at)
}

/** A page's text with spaces in place of its references. */
function withoutReferences({ text, references }: ReadPage): string {
  const pieces: string[] = []
  let at = 0
  for (const { start, end } of references) {
    if (start < at) continue
    pieces.push(text.slice(at, start), ' '.repeat(end - start))
    at = end
  }
  return pieces.join('') + text.slice(at)
}

/**
 * Pages of a group that would not come out of its frame with the words they have: tags that cross one another part a page
 * otherwise than its source does, and what stands between two places of the tree may stand elsewhere in that.
 * @returns null where that is so of the model, or of too many to tell
 */
export function unsoundIn(group: Group): ReadonlySet<ReadPage> | null {
  const { pages, gaps } = group
  const html = pages[0]!.tops.get('html')?.start
  // Nor is anything of a page shared where all of it is each page's own.
  if (html !== undefined && gaps.some(({ ranges: [first] }) => first!.start <= html && html < first!.end))
    return null
  const model = saidByFrame(group, 0)
  if (model === null) return null
  const odd = new Set<ReadPage>()
  for (let index = 1; index < pages.length; index++)
    if (saidByFrame(group, index) !== model) odd.add(pages[index]!)
  return odd.size * 2 > pages.length ? null : odd
}
