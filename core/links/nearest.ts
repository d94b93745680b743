import { likeness } from '#core/plan'
import type { Names } from '#core/naming'
import { trialFolder } from '#core/naming'

/** Paths compared letter by letter, at most; where there are more, only equal spellings are found. */
const mostCompared = 3_000
/** Less alike, it is a guess that helps nobody. */
const alikeEnough = 0.6

/** Paths that are offered for one. */
const mostNear = 3

interface Index {
  readonly byCase: ReadonlyMap<string, string>
  /** Paths by the name of their file alone, the first of those that share it. */
  readonly byName: ReadonlyMap<string, readonly string[]>
  readonly paths: readonly string[]
  readonly known: Map<string, readonly string[]>
}

const indexes = new WeakMap<Names, Index>()
const isHomeName = (name: string) => /^(index|default|home|welcome)\.\w+$/.test(name)
const folderIn = (path: string) => path.slice(0, path.lastIndexOf('/') + 1).toLowerCase()
const nameIn = (path: string) => path.slice(path.lastIndexOf('/') + 1).toLowerCase()

function indexOf(names: Names): Index {
  let index = indexes.get(names)
  if (!index) {
    const byCase = new Map<string, string>()
    const byName = new Map<string, string[]>()
    const paths = [...names.byPath.keys()].filter((path) => !path.startsWith(trialFolder))
    for (const path of paths) {
      byCase.set(path.toLowerCase(), path)
      const alike = byName.get(nameIn(path))
      if (!alike) byName.set(nameIn(path), [path])
      else if (alike.length < mostNear) alike.push(path)
    }
    indexes.set(names, (index = { byCase, byName, paths, known: new Map() }))
  }
  return index
}

/**
 * The paths that a path which leads nowhere may have been meant to be, the likeliest first: spelled in another
 * case, in another folder, or nearly alike; none where nothing is near.
 */
export function nearPaths(names: Names, path: string): readonly string[] {
  const index = indexOf(names)
  const known = index.known.get(path)
  if (known !== undefined) return known
  const spelled = index.byCase.get(path.toLowerCase())
  const near = spelled ? [spelled] : nearIn(index, path)
  index.known.set(path, near)
  return near
}

function nearIn({ byName, paths }: Index, path: string): readonly string[] {
  const name = nameIn(path)
  // The home files of all folders have one name, which tells nothing of which is meant: that does the folder.
  if (isHomeName(name))
    return alikeTo(
      paths.filter((one) => nameIn(one) === name),
      path,
      folderIn,
    )
  return byName.get(name) ?? alikeTo(paths, path)
}

/** The path that a path which leads nowhere was most likely meant to be; null when nothing is near. */
export const nearestPath = (names: Names, path: string): string | null => {
  const near = nearPaths(names, path)
  // Of several that have its name in other folders none is likelier than another.
  return near.length > 1 && nameIn(near[0]!) === nameIn(path) ? null : (near[0] ?? null)
}

function alikeTo(
  paths: readonly string[],
  path: string,
  tellingOf: (path: string) => string = (whole) => whole,
): string[] {
  if (paths.length > mostCompared) return []
  const wanted = tellingOf(path)
  return paths
    .map((one) => ({ one, alike: likeness(tellingOf(one), wanted) }))
    .filter(({ alike }) => alike > alikeEnough)
    .sort((a, b) => b.alike - a.alike)
    .slice(0, mostNear)
    .map(({ one }) => one)
}
