import { diffLines } from 'diff'

/** A stretch of two texts: alike, or what one has in the place of what the other has. */
export type Hunk =
  | { readonly kind: 'same'; readonly lines: readonly string[] }
  | { readonly kind: 'other'; readonly was: readonly string[]; readonly now: readonly string[] }

/** Texts that have next to nothing in common are told as a whole; finding the least that differs would take for ever. */
const patienceMs = 2_000

const linesOf = (text: string) => text.replace(/\n$/, '').split('\n')

/** What differs between an earlier text and that of now, line by line. */
export function hunksOf(was: string, now: string): Hunk[] {
  const hunks: Hunk[] = []
  const parts = diffLines(was, now, { timeout: patienceMs })
  if (!parts) return [{ kind: 'other', was: linesOf(was), now: linesOf(now) }]
  for (const { value, added, removed } of parts) {
    const lines = linesOf(value)
    if (!added && !removed) {
      hunks.push({ kind: 'same', lines })
      continue
    }
    const last = hunks.at(-1)
    const open = last?.kind === 'other' ? last : null
    const hunk = open ?? { kind: 'other' as const, was: [], now: [] }
    const next = added ? { ...hunk, now: [...hunk.now, ...lines] } : { ...hunk, was: [...hunk.was, ...lines] }
    if (open) hunks[hunks.length - 1] = next
    else hunks.push(next)
  }
  return hunks
}

/** The text of now, with one stretch as it was. */
export function withHunk(hunks: readonly Hunk[], chosen: number): string {
  const lines = hunks.flatMap((hunk, index) =>
    hunk.kind === 'same' ? hunk.lines : index === chosen ? hunk.was : hunk.now,
  )
  return `${lines.join('\n')}\n`
}
