import { diff3Merge } from 'node-diff3'

/** Lines, and tokens of lines that both changed, that are compared at the most: more is not merged but shown. */
const mostLines = 20_000
const mostTokens = 5_000
/** Comparing takes as many steps as equal pairs there are; empty lines and brackets come often. */
const mostPairs = 4_000_000

const linesOf = (text: string): string[] => text.match(/[^\n]*\n|[^\n]+$/g) ?? []
/** Words, the space between them, and the brackets of tags. */
const tokensOf = (text: string): string[] => text.match(/[<>]|\s+|[^\s<>]+/g) ?? []

/** How many equal pairs two lists have. */
function pairsOf(a: readonly string[], b: readonly string[]): number {
  const times = new Map<string, number>()
  for (const one of a) times.set(one, (times.get(one) ?? 0) + 1)
  return b.reduce((sum, one) => sum + (times.get(one) ?? 0), 0)
}

type Parts = readonly string[]

/** Three lists put together, what both changed by `settle`; null where it cannot be. */
function mergeParts(
  mine: Parts,
  base: Parts,
  theirs: Parts,
  most: number,
  settle: (mine: Parts, base: Parts, theirs: Parts) => string | null,
): string | null {
  if (Math.max(mine.length, base.length, theirs.length) > most) return null
  if (pairsOf(base, mine) + pairsOf(base, theirs) > mostPairs) return null
  let merged = ''
  for (const part of diff3Merge(mine as string[], base as string[], theirs as string[])) {
    const text = part.ok
      ? part.ok.join('')
      : part.conflict && settle(part.conflict.a, part.conflict.o, part.conflict.b)
    if (text === null || text === undefined) return null
    merged += text
  }
  return merged
}

/**
 * Two texts that were made of one put together: what each changed, where it does not touch what the other changed. Line by
 * line, and in lines that both changed word by word. Bounded in its input: what is too much to compare is not merged.
 * @returns null where both changed the same place: then both are to be shown
 */
export function mergeTexts(base: string, mine: string, theirs: string): string | null {
  if (mine === theirs || theirs === base) return mine
  if (mine === base) return theirs
  return mergeParts(linesOf(mine), linesOf(base), linesOf(theirs), mostLines, (a, o, b) =>
    mergeParts(
      tokensOf(a.join('')),
      tokensOf(o.join('')),
      tokensOf(b.join('')),
      mostTokens,
      // Both at one place: which of them comes first is not for a program to say.
      () => null,
    ),
  )
}
