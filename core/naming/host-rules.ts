import type { Scheme, Site } from '#core/site'
import { isReservedName } from './label-name'
import { splitFileName } from './file-names'
import { type Nameable, namesOf, trialFolder } from './names'

/** Kinds of hosts by what they make of a name. */
export type HostKind = 'case-kept' | 'case-folded' | 'oldest'

/**
 * What hosts with the oldest rules hold of one name, extension and dot included: ISO 9660:1988, level 2,
 * 7.5.1 and 10.2, and the file systems of its time. Their letters are those of the POSIX portable file
 * name character set (IEEE 1003.1, 3.265), and one dot.
 */
const oldestLongest = 31
const oldestName = /^[A-Za-z0-9_-]+(\.[A-Za-z0-9]+)?$/

export const hostKinds: Readonly<Record<HostKind, { readonly name: string; readonly hint: string }>> = {
  'case-kept': { name: 'case kept and told apart', hint: 'Linux and most web space' },
  'case-folded': { name: 'case not told apart', hint: 'Windows and macOS servers, and many USB sticks' },
  oldest: {
    name: 'the strictest rules',
    hint: `Letters, digits, hyphen, underscore and one dot, ${oldestLongest} in all; case not told apart`,
  },
}

/** What such a host makes of one path. */
export interface HostRemark {
  readonly path: string
  readonly kind: 'clash' | 'cut' | 'refused' | 'shown-otherwise' | 'home'
  readonly text: string
}

/** How a path is compared on a host: two of one key are one file there. */
function keyOn(kind: HostKind, path: string): string {
  if (kind === 'case-kept') return path
  // Folding hosts also take letters of one look in two Unicode forms for one.
  const folded = path.normalize('NFC').toUpperCase().toLowerCase()
  if (kind === 'case-folded') return folded
  return shortPath(folded)
}

/** What is left of a name where it is too long: the end of its stem is cut off. */
const shortName = (name: string) => {
  if (name.length <= oldestLongest) return name
  const { extension } = splitFileName(name)
  return name.slice(0, oldestLongest - extension.length) + extension
}

const shortPath = (path: string) => path.split('/').map(shortName).join('/')

/** Names of home files in the order in which most servers look for them. */
const homeOrder = ['index.html', 'index.htm', 'default.html', 'default.htm', 'home.html']

/** Everything that a kind of host would clash on, refuse or show otherwise, by path. */
export function remarksOfHost(site: Nameable & Pick<Site, 'scheme'>, kind: HostKind): HostRemark[] {
  const remarks: HostRemark[] = []
  const names = namesOf(site)
  const paths = [...names.byPath.keys()].filter((path) => !path.startsWith(trialFolder)).sort()
  const held = new Map<string, string>()
  for (const path of paths) {
    const key = keyOn(kind, path)
    const other = held.get(key)
    if (other)
      remarks.push({
        path,
        kind: 'clash',
        text: `is the same file as ${other} there; one would overwrite the other`,
      })
    else held.set(key, path)
    if (kind === 'oldest' && shortPath(path) !== path)
      remarks.push({
        path,
        kind: 'cut',
        text: `becomes ${shortPath(path)}, and links miss it`,
      })
    const refusal = refusedOn(kind, path)
    if (refusal) remarks.push({ path, kind: 'refused', text: refusal })
    const shown = encodeURI(path)
    if (shown !== path)
      remarks.push({ path, kind: 'shown-otherwise', text: `is shown as ${shown} by some programs` })
  }
  const home = site.scheme.homeName + site.scheme.extension
  if (!homeOrder.includes(home))
    remarks.push({
      path: home,
      kind: 'home',
      text: 'is no name that servers look for by themselves; visitors of the bare address would see a list of files or an error',
    })
  else if (home !== 'index.html')
    remarks.push({
      path: home,
      kind: 'home',
      text: `is looked for after ${homeOrder.slice(0, homeOrder.indexOf(home)).join(', ')}; a file of that name there would win`,
    })
  return remarks
}

/** The scheme with as little changed as hosts with the oldest rules need. */
export const schemeForOldest = (scheme: Scheme): Scheme => ({
  ...scheme,
  letters: 'ascii',
  longest: Math.min(scheme.longest, oldestLongest - '.html'.length),
})

function refusedOn(kind: HostKind, path: string): string | null {
  const names = path.split('/')
  if (kind !== 'case-kept' && names.some(isReservedName))
    return 'has a name that such systems keep for themselves'
  if (kind === 'oldest' && !names.every((name) => oldestName.test(name)))
    return 'has letters that such a host does not take'
  if (names.some((name) => new TextEncoder().encode(name).length > 255))
    return 'has a name longer than 255 bytes, which no system takes'
  return null
}
