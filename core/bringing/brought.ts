import { type FileKind, type Hash, homeNameOf, homeNames } from '#core/site'

/** A file of a site that exists already, as it came. */
export interface BroughtFile {
  /** From the top of the site, with `/`. */
  readonly path: string
  readonly kind: 'page' | FileKind
  readonly hash: Hash
  readonly sizeBytes: number
  /** Of a page and of a style sheet: what is in it. */
  readonly text?: string
}

/** Something that was left out, or was not as it should be, and why. */
export interface Remark {
  readonly path: string
  readonly why: string
}

/** Whether a file is a page, by its name. */
export const isPageName = (path: string): boolean => /\.(html?|xhtml|shtml)$/i.test(path)

/** The home page of a folder among some paths: the one that a server would show; null where there is none. */
export function homeOfFolder(folder: string, paths: Iterable<string>): string | null {
  let best: string | null = null
  let rank = homeNames.length
  for (const path of paths) {
    if (path.slice(0, path.lastIndexOf('/') + 1) !== folder || !isPageName(path)) continue
    const name = homeNameOf(path)
    const at = name === null ? -1 : homeNames.indexOf(name)
    if (at >= 0 && at < rank) [best, rank] = [path, at]
  }
  return best
}

/** The home page of every folder that has one. */
export function homesOf(paths: Iterable<string>): Map<string, string> {
  const byFolder = new Map<string, string[]>()
  for (const path of paths) {
    const folder = folderOf(path)
    const known = byFolder.get(folder)
    if (known) known.push(path)
    else byFolder.set(folder, [path])
  }
  const homes = new Map<string, string>()
  for (const [folder, inFolder] of byFolder) {
    const home = homeOfFolder(folder, inFolder)
    if (home !== null) homes.set(folder, home)
  }
  return homes
}

export const folderOf = (path: string): string => path.slice(0, path.lastIndexOf('/') + 1)

/** The folder that all files stand in, which came with an archive or a choice; '' where they share none. */
export function commonFolder(paths: readonly string[]): string {
  let common = paths.length === 0 ? '' : folderOf(paths[0]!)
  for (const path of paths) while (!path.startsWith(common)) common = folderOf(common.slice(0, -1))
  return common
}
