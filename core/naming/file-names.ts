import type { Scheme, Site, SiteFile } from '#core/site'
import { clashKey, nameLabel } from './label-name'
import { type Claim, settleNames } from './name-space'

/** A folder as what the paths in it begin with: '' or ending in a slash. */
export const asPrefix = (folder: string): string => (folder === '' ? '' : `${folder}/`)

/** Letters of a path of a file's own. */
const longestPath = 500
/** Where pages on trial are shown, and what a delivery leaves for a moment: no file of a site is there. */
const notOurs = /^\.trial(\/|$)|\.rubricant-(part|old)$/i
const unsafe = /[\u0000-\u001f\u007f\\?#]/

/**
 * The path of a file whose label begins with a slash, which is one from the top of the site: `/papers/Report.PDF`.
 * Such a file stands there under every scheme, as one does that came from elsewhere. Null for any other label, and
 * for one that is no path.
 */
export function ownPathOf(label: string): string | null {
  if (!label.startsWith('/') || label.length > longestPath) return null
  const path = label.slice(1)
  const isWhole = path.split('/').every((step) => step !== '' && step !== '.' && step !== '..')
  return isWhole && !unsafe.test(path) && !notOurs.test(path) ? path : null
}

/** What a file is called where its place does not matter. */
export const fileTitle = (label: string): string => label.slice(label.lastIndexOf('/') + 1) || label

/** What a file wants to be called in a folder. */
interface Wish extends Claim<SiteFile> {
  readonly folder: string
  /** As it is written after its name. */
  readonly extension: string
}

function wishOf(file: SiteFile, { scheme, language }: Pick<Site, 'scheme' | 'language'>): Wish {
  const own = ownPathOf(file.label)
  if (own !== null) {
    const cut = own.lastIndexOf('/') + 1
    const name = own.slice(cut)
    const { stem } = splitFileName(name)
    const claim = { what: file, wanted: stem, rank: 0, seq: file.seq, second: null }
    return { ...claim, folder: own.slice(0, cut), extension: name.slice(stem.length) }
  }
  const { stem, extension } = splitFileName(file.label)
  const { name } = nameLabel(stem, schemeFor(extension, scheme), language)
  const claim = { what: file, wanted: name, rank: 1, seq: file.seq, second: null }
  return { ...claim, folder: asPrefix(scheme.folders[file.kind]), extension }
}

/**
 * Names files in the folders of their kinds, or where paths of their own say, and where pages leave them room; each is
 * put into `byPath` as well.
 */
export function nameFiles(
  site: Pick<Site, 'files' | 'scheme' | 'language'>,
  byPath: Map<string, { kind: 'page' | 'file'; id: string }>,
) {
  const files = new Map<string, string>()
  const byFolder = new Map<string, Wish[]>()
  for (const file of site.files) {
    const wish = wishOf(file, site)
    // A host that does not tell case apart has one folder for both ways of writing it.
    const key = clashKey(wish.folder)
    const list = byFolder.get(key)
    if (list) list.push(wish)
    else byFolder.set(key, [wish])
  }
  const { stemsIn, foldersIn } = aroundFiles(site.scheme, byFolder, byPath.keys())
  for (const [folder, list] of byFolder) {
    // Told apart by the whole name: `pier.svg` and `pier.jpg` may stand side by side.
    const byExtension = new Map<string, Wish[]>()
    for (const wish of list) {
      const key = wish.extension.toLowerCase()
      const claims = byExtension.get(key)
      if (claims) claims.push(wish)
      else byExtension.set(key, [wish])
    }
    for (const [extension, claims] of byExtension) {
      const stems = [
        ...(stemsIn.get(folder)?.get(extension) ?? []),
        // No disk has a file beside a folder of its name; only one without an extension can want to be.
        ...(extension === '' ? foldersIn(folder) : []),
      ]
      const wishes = new Map(claims.map((one) => [one.what.id, one]))
      for (const grant of settleNames(claims, stems, schemeFor(extension, site.scheme))) {
        const wish = wishes.get(grant.what.id)!
        const path = wish.folder + grant.name + wish.extension
        files.set(grant.what.id, path)
        byPath.set(path, { kind: 'file', id: grant.what.id })
      }
    }
  }
  return files
}

/**
 * What stands in the folders that files are in: names of pages by their extension, and folders. Asked at every edit, so that
 * it looks no closer at the pages of other folders than at where they end.
 */
function aroundFiles(
  scheme: Scheme,
  byFolder: ReadonlyMap<string, readonly Wish[]>,
  pagePaths: Iterable<string>,
) {
  const stemsIn = new Map<string, Map<string, string[]>>()
  /** Folders as pages write them, and which of those with files each is. */
  const keys = new Map<string, string | null>()
  let folder = ''
  let key: string | null | undefined
  for (const path of pagePaths) {
    // Most stand where the one before them does.
    if (key === undefined || path.indexOf('/', folder.length) >= 0 || !path.startsWith(folder)) {
      folder = path.slice(0, path.lastIndexOf('/') + 1)
      key = keys.get(folder)
      if (key === undefined) {
        key = clashKey(folder)
        keys.set(folder, (key = byFolder.has(key) ? key : null))
      }
    }
    if (key === null) continue
    const { stem, extension } = splitFileName(path.slice(folder.length))
    const stems = stemsIn.get(key) ?? new Map<string, string[]>()
    stemsIn.set(key, stems)
    const alike = stems.get(extension)
    if (alike) alike.push(stem)
    else stems.set(extension, [stem])
  }
  let known: Map<string, Set<string>> | null = null
  const foldersIn = (folder: string): Iterable<string> => {
    if (known) return known.get(folder) ?? []
    known = new Map()
    // The scheme's own, too, though nothing is in them yet.
    const all = [
      ...keys.keys(),
      ...[...byFolder.values()].flatMap((list) => list.slice(0, 1).map((wish) => wish.folder)),
      ...Object.values(scheme.folders).map(asPrefix),
    ]
    for (const path of all) {
      for (let cut = path.length - 1; cut > 0;) {
        const above = path.slice(0, path.lastIndexOf('/', cut - 1) + 1)
        const key = clashKey(above)
        const inIt = known.get(key) ?? new Set()
        known.set(key, inIt)
        inIt.add(path.slice(above.length, cut))
        cut = above.length - 1
      }
    }
    return known.get(folder) ?? []
  }
  return { stemsIn, foldersIn }
}

/** A long extension takes from the name before it, so that no file's name is longer than a page's can be. */
function schemeFor(extension: string, scheme: Scheme): Scheme {
  const more = extension.length - '.html'.length
  return more <= 0
    ? scheme
    : { ...scheme, longest: Math.max(Math.min(scheme.longest, 8), scheme.longest - more) }
}

/** `Plan of the pier.JPG` → stem `Plan of the pier`, extension `.jpg` ('' when there is none). */
export function splitFileName(label: string): { stem: string; extension: string } {
  const match = /^(.+?)(\.[A-Za-z0-9]{1,12})$/s.exec(label)
  return match ? { stem: match[1]!, extension: match[2]!.toLowerCase() } : { stem: label, extension: '' }
}
