import { likeness } from '#core/plan'
import { isSlip } from './slip'
import type { Names } from '#core/naming'
import { trialFolder } from '#core/naming'

/** Paths compared letter by letter, at most; where there are more, only equal spellings are found. */
const mostCompared = 3_000
/** Less alike, it is a guess that helps nobody. */
const alikeEnough = 0.6

/** Paths that are offered for one. */
const mostNear = 3

/** A path with what it is told by. */
interface Candidate {
  readonly one: string
  readonly telling: string
  readonly kind: string
}

interface Index {
  readonly byCase: ReadonlyMap<string, string>
  /** Paths by the name of their file alone, the first of those that share it. */
  readonly byName: ReadonlyMap<string, readonly string[]>
  readonly candidates: readonly Candidate[]
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
    const candidates = paths.map((one) => ({ one, telling: tellingOf(one), kind: kindIn(one) }))
    indexes.set(names, (index = { byCase, byName, candidates, known: new Map() }))
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

function nearIn({ byName, candidates }: Index, path: string): readonly string[] {
  const name = nameIn(path)
  // The home files of all folders have one name, which tells nothing of which is meant: that does the folder.
  if (isHomeName(name))
    return alikeTo(
      candidates.filter(({ one }) => nameIn(one) === name),
      path,
    )
  return byName.get(name) ?? alikeTo(candidates, path)
}

/** The path that a path which leads nowhere was surely meant to be; null when none is, or several may be. */
export const nearestPath = (names: Names, path: string): string | null => {
  const near = nearPaths(names, path)
  const [first, second] = near
  if (first === undefined) return null
  if (first.toLowerCase() === path.toLowerCase()) return first
  // Of several that have its name in other folders none is likelier than another.
  if (nameIn(first) === nameIn(path) && !isHomeName(nameIn(path))) return second === undefined ? first : null
  const wanted = tellingOf(path)
  return isSlip(tellingOf(first), wanted) && (second === undefined || !isSlip(tellingOf(second), wanted))
    ? first
    : null
}

/** The word that tells a path from others: the name of its file without the ending, or of the folder that it is the home of. */
function tellingOf(path: string): string {
  const name = nameIn(path)
  if (name !== '' && !isHomeName(name)) return name.replace(/\.[a-z0-9]{1,5}$/, '')
  return folderIn(path).split('/').at(-2) ?? ''
}

/** What a file is for, by its ending: what is written instead of another is of its kind. */
function kindIn(path: string): string {
  const ending = /\.([a-z0-9]{1,5})$/.exec(nameIn(path))?.[1] ?? ''
  if (/^(?:|[xs]?html?|php\d?|aspx?|jsp|cgi)$/.test(ending)) return 'page'
  return /^(?:jpe?g|png|gif|webp|avif|svg|bmp|tiff?)$/.test(ending) ? 'picture' : ending
}

/** Paths of its kind that are called nearly so, the likeliest first; of equal ones those in a folder that is called so. */
function alikeTo(candidates: readonly Candidate[], path: string): string[] {
  if (candidates.length > mostCompared) return []
  const [wanted, ofKind, folder] = [tellingOf(path), kindIn(path), folderIn(path)]
  return candidates
    .filter(({ kind }) => kind === ofKind)
    .map(({ one, telling }) => ({ one, isNear: isSlip(telling, wanted), alike: likeness(telling, wanted) }))
    .filter(({ isNear, alike }) => isNear || alike > alikeEnough)
    .map((near) => ({ ...near, inFolder: likeness(folderIn(near.one), folder) }))
    .sort((a, b) => Number(b.isNear) - Number(a.isNear) || b.alike - a.alike || b.inFolder - a.inFolder)
    .slice(0, mostNear)
    .map(({ one }) => one)
}
