import type { ReadPage } from './reading/read-page'

/** What all titles share, and what is left of one. */
export interface Titles {
  /** For `{page}` and `{site}`. */
  readonly pattern: string
  /** What stands for `{site}`; null where titles share nothing. */
  readonly siteName: string | null
  /** A title without what all share; null where a page has none. */
  readonly titleOf: (page: ReadPage) => string | null
  /** Whether a page's title comes out by the pattern, as what `titleOf` leaves of it. */
  readonly follows: (page: ReadPage) => boolean
}

const share = 0.5
const separators = /\s+[-–—|·•:»«/]\s+|:\s+/g

/** Finds what titles end or begin with, parted from the rest by a sign that is used for that. */
export function readTitles(pages: readonly ReadPage[]): Titles {
  const titles = pages.flatMap(({ title }) => (title && title.text !== '' ? [title.text] : []))
  const counts = new Map<string, number>()
  for (const title of titles)
    for (const match of title.matchAll(separators)) {
      const after = `end ${title.slice(match.index)}`
      const before = `start ${title.slice(0, match.index + match[0].length)}`
      for (const key of [after, before]) counts.set(key, (counts.get(key) ?? 0) + 1)
    }
  const [best] = [...counts].sort((a, b) => b[1] - a[1] || b[0].length - a[0].length)
  if (!best || best[1] < Math.max(2, titles.length * share))
    return {
      pattern: '{page}',
      siteName: null,
      titleOf: ({ title }) => title?.text || null,
      follows: () => true,
    }
  const [, side, shared] = /^(end|start) ([\s\S]*)$/.exec(best[0])!
  const sign =
    /^(\s+[-–—|·•:»«/]\s+|:\s+)/.exec(shared!)?.[0] ?? /(\s+[-–—|·•:»«/]\s+|:\s+)$/.exec(shared!)![0]
  const siteName = shared!.replace(sign, '')
  /** What is left of a title without what all share; null where it has that not, or says nothing but the site's name. */
  const within = ({ title }: ReadPage): string | null => {
    const text = title?.text ?? ''
    const follows = side === 'end' ? text.endsWith(shared!) : text.startsWith(shared!)
    const left = side === 'end' ? text.slice(0, -shared!.length) : text.slice(shared!.length)
    return follows && left !== siteName ? left : null
  }
  return {
    pattern: side === 'end' ? `{page}${sign}{site}` : `{site}${sign}{page}`,
    siteName,
    follows: (page) => within(page) !== null,
    titleOf: (page) => within(page) ?? (page.title?.text || null),
  }
}

/** A title without what a site's pattern puts around it; null where it does not follow that pattern. */
export function titleWithout(title: string, pattern: string, siteName: string): string | null {
  const [front, back] = pattern.replaceAll('{site}', siteName).split('{page}')
  if (front === undefined || back === undefined || front + back === '') return null
  if (title.length <= front.length + back.length) return null
  return title.startsWith(front) && title.endsWith(back)
    ? title.slice(front.length, title.length - back.length)
    : null
}
