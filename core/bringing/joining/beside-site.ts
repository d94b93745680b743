import { newPage } from '#core/change'
import { fileTitle, type Names, namesOf } from '#core/naming'
import { emptyHash, type Site, homeNameOf } from '#core/site'
import { homeFileOf } from '#core/template'
import { type BroughtFile, commonFolder, folderOf } from '../brought'
import type { Beside } from '../old-names'

/** A page or file that a site has already where one that is brought would stand. */
export interface SamePage {
  readonly path: string
  readonly kind: 'page' | 'file'
  readonly id: string
}

/** What is brought, seen beside a site that it joins. */
export interface BesideSite {
  /** The files by their paths from the folder that they share. */
  readonly files: readonly BroughtFile[]
  readonly beside: Beside
  readonly same: ReadonlyMap<string, SamePage>
  /** Files that the site has to the byte, wherever: no second one is made. */
  readonly identical: ReadonlyMap<string, string>
}

/** Folders that all files share which are tried to be folders of the site. */
const mostFolders = 10

/** The folder in which pages below a page stand; '' for the top. */
function folderBelow(site: Site, parentId: string | null): string {
  if (parentId === null) return ''
  const probe = { ...newPage('probe', 'probe', site.nextSeq, emptyHash), parentId, order: 'a0' }
  const name = namesOf({ ...site, pages: [...site.pages, probe] }).pages.get('probe')!
  // Where each page has a folder of its own, others stand beside that folder.
  const isOwnFolder = name.path === `${name.folder}${homeFileOf(site)}`
  return isOwnFolder ? folderOf(name.folder.slice(0, -1)) : name.folder
}

/** Every address that pages of a site have, or had. */
function pagesByAddress(site: Site, names: Names): Map<string, string> {
  const byAddress = new Map<string, string>()
  for (const { id, addresses } of site.pages)
    for (const address of addresses) if (!byAddress.has(address)) byAddress.set(address, id)
  for (const [id, { path }] of names.pages) byAddress.set(path, id)
  return byAddress
}

/**
 * Holds what is brought beside a site: which of it the site has already, by addresses. Of the folders that all of
 * it shares, as many count as fit the site best, so that a branch of it is known again as well as the whole.
 */
export function holdBeside(brought: readonly BroughtFile[], site: Site, parentId: string | null): BesideSite {
  const names = namesOf(site)
  const base = folderBelow(site, parentId)
  const byAddress = pagesByAddress(site, names)
  const sameAt = ({ kind, path }: Pick<BroughtFile, 'kind' | 'path'>): string | null => {
    const there = names.byPath.get(path)
    if (kind !== 'page') return there?.kind === 'file' ? there.id : null
    const id = byAddress.get(path)
    if (id === undefined) return null
    // Another site's home page, put under a page, is not the home page of this one.
    const isOther = parentId !== null && homeNameOf(path) !== null && id !== parentId
    return isOther ? null : id
  }
  const common = commonFolder(brought.map(({ path }) => path))
  const folders = new Set([...names.pages.values()].map(({ folder }) => folder))
  /** How well the files fit: first by addresses that the site has, then by folders. */
  const fitWithout = (cut: string): number =>
    brought.reduce((sum, { kind, path }) => {
      const at = path.slice(cut.length)
      const fits = sameAt({ kind, path: base + at }) !== null
      const isAtHome = folderOf(at) !== '' && folders.has(base + folderOf(at))
      return sum + (fits ? brought.length + 1 : isAtHome ? 1 : 0)
    }, 0)
  let cut = common
  let most = fitWithout(common)
  for (let tried = common, level = 0; tried !== '' && level < mostFolders; level++) {
    tried = folderOf(tried.slice(0, -1))
    const fit = fitWithout(tried)
    if (fit > most) [cut, most] = [tried, fit]
  }
  const files = brought.map((file) => ({ ...file, path: file.path.slice(cut.length) }))
  const same = new Map<string, SamePage>()
  const identical = new Map<string, string>()
  const byContent = new Map(
    site.files.map((file) => [`${file.kind} ${file.hash} ${fileTitle(file.label)}`, file.id]),
  )
  const taken = new Set<string>()
  for (const { path, kind, hash } of files) {
    const label = path.slice(folderOf(path).length)
    const alike = kind === 'page' ? undefined : byContent.get(`${kind} ${hash} ${label}`)
    const id = sameAt({ kind, path: base + path })
    if (alike !== undefined) identical.set(path, alike)
    else if (id !== null && !taken.has(id)) {
      taken.add(id)
      same.set(path, { path: base + path, kind: kind === 'page' ? 'page' : 'file', id })
    }
  }
  // Every folder has a home page: where nothing else is the same, it is another's.
  const samePages = [...same].filter(([, { kind }]) => kind === 'page')
  const onlyFronts = samePages.every(([path]) => homeNameOf(path) !== null)
  if (
    parentId !== null &&
    onlyFronts &&
    files.filter(({ kind }) => kind === 'page').length > samePages.length
  )
    for (const [path] of samePages) same.delete(path)
  return { files, beside: { names, base, homeFile: homeFileOf(site) }, same, identical }
}
