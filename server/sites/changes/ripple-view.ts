import type { Rewrite, Ripple } from '#core/change'
import { namesOf } from '#core/naming'
import type { Site } from '#core/site'

/** References told one by one, for each of which a text is read; of more, the count tells. */
const linesAtMost = 2_000

/** A reference that a change rewrites, where it stands. */
export interface RippleLine {
  readonly owner: string
  readonly line: number
  readonly was: string
  readonly now: string
}

/** A ripple in a size a window can show. */
export interface RippleView extends Omit<Ripple, 'rewrites' | 'moved' | 'addresses'> {
  readonly movedCount: number
  readonly moved: Ripple['moved']
  readonly lines: readonly RippleLine[]
  readonly addressCount: number
}

/** Which texts have to be read to show the lines of a ripple. */
export const textsToShow = (rewrites: readonly Rewrite[]): string[] => shown(rewrites).map(({ hash }) => hash)

function shown(rewrites: readonly Rewrite[]): Rewrite[] {
  const some: Rewrite[] = []
  let count = 0
  for (const rewrite of rewrites) {
    if (count >= linesAtMost) break
    some.push(rewrite)
    count += rewrite.edits.length
  }
  return some
}

export function viewRipple(before: Site, ripple: Ripple, textOf: (hash: string) => string): RippleView {
  const { moved, rewrites, addresses, ...rest } = ripple
  const names = namesOf(before)
  const owners: Record<Rewrite['owner']['kind'], (id: string) => string> = {
    page: (id) => names.pages.get(id)?.path ?? '',
    file: (id) => names.files.get(id) ?? '',
    template: (id) => before.templates.find((one) => one.id === id)?.name ?? '',
  }
  const lines = shown(rewrites).flatMap(({ owner, hash, edits }) => {
    const text = textOf(hash)
    return edits.map((edit) => ({
      owner: owners[owner.kind](owner.id),
      line: text.slice(0, edit.start).split('\n').length,
      was: edit.was,
      now: edit.text,
    }))
  })
  return {
    ...rest,
    movedCount: moved.length,
    moved,
    lines: lines.slice(0, linesAtMost),
    addressCount: addresses.length,
  }
}
