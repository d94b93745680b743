import type { Scheme, Site, SiteFile } from '#core/site'
import { nameLabel } from './label-name'
import { type Claim, settleNames } from './name-space'

/** A folder as what the paths in it begin with: '' or ending in a slash. */
export const asPrefix = (folder: string): string => (folder === '' ? '' : `${folder}/`)

/** Names files in the folders of their kinds, where pages leave them room; each is put into `byPath` as well. */
export function nameFiles(
  site: Pick<Site, 'files' | 'scheme' | 'language'>,
  byPath: Map<string, { kind: 'page' | 'file'; id: string }>,
) {
  const files = new Map<string, string>()
  const byFolder = new Map<string, SiteFile[]>()
  for (const file of site.files) {
    const folder = asPrefix(site.scheme.folders[file.kind])
    const list = byFolder.get(folder)
    if (list) list.push(file)
    else byFolder.set(folder, [file])
  }
  for (const [folder, list] of byFolder) {
    const taken = [...byPath.keys()]
      .filter((path) => path.startsWith(folder))
      .map((path) => path.slice(folder.length))
    // No disk has a file beside a folder of its name; only one without an extension can want to be.
    const foldersHere = [
      ...taken.filter((path) => path.includes('/')),
      ...Object.values(site.scheme.folders)
        .map(asPrefix)
        .filter((one) => one !== folder && one.startsWith(folder))
        .map((one) => one.slice(folder.length)),
    ].map((path) => path.slice(0, path.indexOf('/')))
    // Told apart by the whole name: `pier.svg` and `pier.jpg` may stand side by side.
    const byExtension = new Map<string, Claim<SiteFile>[]>()
    for (const file of list) {
      const { stem, extension } = splitFileName(file.label)
      const { name } = nameLabel(stem, schemeFor(extension, site.scheme), site.language)
      const claims = byExtension.get(extension) ?? []
      claims.push({ what: file, wanted: name, rank: 0, seq: file.seq, second: null })
      byExtension.set(extension, claims)
    }
    for (const [extension, claims] of byExtension) {
      const stems = taken
        .map(splitFileName)
        .filter((other) => other.extension === extension)
        .map(({ stem }) => stem)
        .concat(extension === '' ? foldersHere : [])
      for (const grant of settleNames(claims, stems, schemeFor(extension, site.scheme))) {
        const path = folder + grant.name + splitFileName(grant.what.label).extension
        files.set(grant.what.id, path)
        byPath.set(path, { kind: 'file', id: grant.what.id })
      }
    }
  }
  return files
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
