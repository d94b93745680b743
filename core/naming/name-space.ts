import type { Scheme } from '#core/site'
import { clashKey, cutLetters } from './label-name'

/** Something that wants a name in a folder. */
export interface Claim<T> {
  readonly what: T
  readonly wanted: string
  /** Claims of a lower rank are served first; within one rank the older. */
  readonly rank: number
  readonly seq: number
  /** A second choice when the wanted name is taken. */
  readonly second: string | null
}

/** The outcome for one claim; `heldBy` is who has the wanted name, when that is somebody else. */
export interface Grant<T> {
  readonly what: T
  readonly name: string
  readonly wanted: string
  readonly heldBy: T | null
}

/** The rules of the scheme that settling needs. */
type Rules = Pick<Scheme, 'gap' | 'longest'>

/**
 * Gives every claim in one folder a name that no other has, also where case and Unicode form
 * are not told apart, and none longer than the scheme's longest. The older of two keeps the name; the
 * other takes its second choice, then a number.
 */
export function settleNames<T>(
  claims: readonly Claim<T>[],
  taken: Iterable<string>,
  rules: Rules,
): Grant<T>[] {
  const holders = new Map<string, T | null>()
  for (const name of taken) holders.set(clashKey(name), null)
  const nextNumber = new Map<string, number>()
  const inOrder = [...claims].sort((a, b) => a.rank - b.rank || a.seq - b.seq)
  return inOrder.map(({ what, wanted, second }) => {
    const take = (name: string): boolean => {
      const key = clashKey(name)
      if (holders.has(key)) return false
      holders.set(key, what)
      return true
    }
    if (take(wanted)) return { what, name: wanted, wanted, heldBy: null }
    const heldBy = holders.get(clashKey(wanted)) ?? null
    // A second choice that does not fit would be cut to what the wanted name was.
    const other = second !== null && second.length <= rules.longest ? second : null
    if (other !== null && take(other)) return { what, name: other, wanted, heldBy }
    const base = other ?? wanted
    for (let number = nextNumber.get(base) ?? 2; ; number++) {
      const name = numberedName(base, number, rules)
      if (!take(name)) continue
      nextNumber.set(base, number + 1)
      return { what, name, wanted, heldBy }
    }
  })
}

/** `terns` and 2 → `terns-2`, the name cut where both do not fit. */
export function numberedName(base: string, number: number, { gap, longest }: Rules): string {
  // "x2" for a scheme without gaps could be read as part of a number: "season20242".
  const joint = gap === '' && /\d$/.test(base) ? '-' : gap
  const suffix = `${joint}${number}`
  // A name of an author's own may be longer than the scheme's.
  const room = cutLetters(base, Math.max(longest, base.length) - suffix.length)
  const kept = room === base ? base : room.replace(/[-_]+$/, '')
  // Of a very short name nothing but the number would be left.
  return kept === '' ? `${cutLetters(base, 1)}${number}` : kept + suffix
}
