import { likeness } from '#core/plan'
import type { Names } from '#core/naming'
import { trialFolder } from '#core/naming'

/** Paths compared letter by letter, at most; where there are more, only equal spellings are found. */
const mostCompared = 3_000
/** Less alike, it is a guess that helps nobody. */
const alikeEnough = 0.6

interface Index {
  readonly byCase: ReadonlyMap<string, string>
  /** Paths by the name of their file alone; null for a name that several have. */
  readonly byName: ReadonlyMap<string, string | null>
  readonly paths: readonly string[]
  readonly known: Map<string, string | null>
}

const indexes = new WeakMap<Names, Index>()
const nameIn = (path: string) => path.slice(path.lastIndexOf('/') + 1).toLowerCase()

function indexOf(names: Names): Index {
  let index = indexes.get(names)
  if (!index) {
    const byCase = new Map<string, string>()
    const byName = new Map<string, string | null>()
    const paths = [...names.byPath.keys()].filter((path) => !path.startsWith(trialFolder))
    for (const path of paths) {
      byCase.set(path.toLowerCase(), path)
      byName.set(nameIn(path), byName.has(nameIn(path)) ? null : path)
    }
    indexes.set(names, (index = { byCase, byName, paths, known: new Map() }))
  }
  return index
}

/**
 * The path that a path which leads nowhere was most likely meant to be: spelled in another case, in another
 * folder, or nearly alike; null when nothing is near.
 */
export function nearestPath(names: Names, path: string): string | null {
  const index = indexOf(names)
  const known = index.known.get(path)
  if (known !== undefined) return known
  const near =
    index.byCase.get(path.toLowerCase()) ?? index.byName.get(nameIn(path)) ?? alikeTo(index.paths, path)
  index.known.set(path, near)
  return near
}

function alikeTo(paths: readonly string[], path: string): string | null {
  if (paths.length > mostCompared) return null
  let best: string | null = null
  let most = alikeEnough
  for (const one of paths) {
    const alike = likeness(one, path)
    if (alike > most) [best, most] = [one, alike]
  }
  return best
}
