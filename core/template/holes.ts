import type { Range } from '#core/markup'
import type { Content, Part } from './compiled'

/** A stretch of a template's source, and what stands for it. */
export interface Hole {
  /** Of holes that start at one place: quotes come before what they enclose. */
  readonly first?: true
  readonly start: number
  readonly end: number
  /** Taken apart again over its own range, where it must not meet itself. */
  readonly optional?: true
  /** The optional one that it is a piece of: at the very end of that, where it would be one of what follows, too. */
  readonly pieceOf?: Range
  readonly make: () => Content
}

/**
 * Takes a source apart: what stands in its holes, and the text between them, of any stretch of it.
 * @param holes in any order; they are sorted in place
 */
export function partsBetween(source: string, holes: Hole[]): (start: number, end: number) => Part[] {
  // Outer holes before the ones inside them.
  holes.sort((a, b) => a.start - b.start || Number(b.first ?? 0) - Number(a.first ?? 0) || b.end - a.end)

  /** The first hole at or after a place. */
  function firstFrom(place: number): number {
    let [low, high] = [0, holes.length]
    while (low < high) {
      const middle = (low + high) >> 1
      if (holes[middle]!.start < place) low = middle + 1
      else high = middle
    }
    return low
  }

  return (start, end) => {
    const parts: Part[] = []
    let at = start
    const text = (to: number) => {
      if (to > at) parts.push({ kind: 'text', at, text: source.slice(at, to) })
    }
    for (let index = firstFrom(start); index < holes.length; index++) {
      const hole = holes[index]!
      if (hole.start > end) break
      if (hole.start < at || hole.end > end) continue
      if (hole.optional && hole.start === start && hole.end === end) continue
      if (hole.pieceOf && (hole.pieceOf.start !== start || hole.pieceOf.end !== end)) continue
      text(hole.start)
      parts.push({ at: hole.start, ...hole.make() })
      at = hole.end
    }
    text(end)
    return parts
  }
}
