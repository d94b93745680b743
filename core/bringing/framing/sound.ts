import { decodeHTML } from 'entities'
import type { Range } from '#core/markup'
import type { ReadPage } from '../reading/read-page'
import type { Group } from './group'

/** A stretch of a page without its scripts and style sheets, whose words nobody reads. Linear. */
function withoutCode(text: string): string {
  const small = text.toLowerCase()
  const begins = /<(script|style)\b/g
  let kept = ''
  let at = 0
  for (let found = begins.exec(small); found; found = begins.exec(small)) {
    kept += text.slice(at, found.index)
    const end = small.indexOf(`</${found[1]!}`, begins.lastIndex)
    if (end < 0) return kept
    at = begins.lastIndex = end
  }
  return kept + text.slice(at)
}

/** The words of a stretch of a page, as far as they are text. */
function wordsIn(text: string): string {
  const plain = withoutCode(text).replace(/<[^<>]*>/g, '')
  return (plain.includes('&') ? decodeHTML(plain) : plain).replace(/\s+/g, '')
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

/** The words of the frame as a page has them, with where its own stretches stand; null where those cross. */
function frameWords(group: Group, index: number): string | null {
  const holes = holesOf(group, index)
  if (!holes) return null
  const { text } = group.pages[index]!
  let words = ''
  let at = 0
  for (const { start, end, gap } of holes) {
    words += wordsIn(text.slice(at, start))
    if (gap !== null) words += `\0${gap}\0`
    at = end
  }
  return words + wordsIn(text.slice(at))
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
  const model = frameWords(group, 0)
  if (model === null) return null
  const odd = new Set<ReadPage>()
  for (let index = 1; index < pages.length; index++)
    if (frameWords(group, index) !== model) odd.add(pages[index]!)
  return odd.size * 2 > pages.length ? null : odd
}
