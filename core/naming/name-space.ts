import { clashKey } from './label-name'

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

/**
 * Gives every claim in one folder a name that no other has, also where case and Unicode form
 * are not told apart. The older of two keeps the name; the other takes its second choice, then
 * a number.
 */
export function settleNames<T>(
  claims: readonly Claim<T>[],
  taken: Iterable<string>,
  gap: string,
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
    if (second && take(second)) return { what, name: second, wanted, heldBy }
    const base = second ?? wanted
    // "x2" for a scheme without gaps could be read as part of a number: "season20242".
    const joint = gap === '' && /\d$/.test(base) ? '-' : gap
    for (let number = nextNumber.get(base) ?? 2; ; number++) {
      const name = `${base}${joint}${number}`
      if (!take(name)) continue
      nextNumber.set(base, number + 1)
      return { what, name, wanted, heldBy }
    }
  })
}
