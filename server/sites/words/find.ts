import type { WordsOwner } from '#core/change'
import { findIn, type FoundLine, type Wanted } from '#core/find'
import type { Site } from '#core/site'
import { findWords } from '#server/contents'
import { eachBatch } from './batches'
import { linesSaid, textsHeld } from './owners'

export interface FoundInSite {
  readonly owner: WordsOwner
  readonly count: number
  /** The first of them. */
  readonly line: FoundLine
}

/** Owners that are told; all are counted. */
export const mostFoundTold = 10_000

/** Where words stand in a site: in what is said of it and of its pages, in its texts, and in files that are text. */
export async function findInSite(
  site: Site,
  wanted: Wanted,
  signal: AbortSignal,
): Promise<{ readonly found: FoundInSite[]; readonly placeCount: number; readonly ownerCount: number }> {
  const all: FoundInSite[] = []
  const tell = (owner: WordsOwner, { count, lines: [line] }: ReturnType<typeof findIn>) => {
    if (line) all.push({ owner, count, line })
  }
  for (const { owner, is } of linesSaid(site)) tell(owner, findIn(owner.was, is, wanted, 1))
  await eachBatch(textsHeld(site), signal, async (some, texts) => {
    const told = await findWords(texts, wanted, 1, signal)
    for (const [index, one] of told.entries()) tell(some[index]!.owner, one)
  })
  return {
    found: all.slice(0, mostFoundTold),
    placeCount: all.reduce((sum, { count }) => sum + count, 0),
    ownerCount: all.length,
  }
}
