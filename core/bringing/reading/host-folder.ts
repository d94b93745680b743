import { type BroughtFile, folderOf } from '../brought'

/** References from the top of a host. */
const rooted =
  /\b(?:href|src|action|background|data|poster|content)\s*=\s*(?:"\/(?!\/)([^"]*)"|'\/(?!\/)([^']*)'|\/(?!\/)([^\s"'>]*))/gi
/** Of more nothing else would be told. */
const mostRead = 20_000
/** Folders that a site may stand in, one in another. */
const mostFolders = 4
/** Different files that have to be named so: fewer may be one that was moved. */
const leastNamed = 3

/** A path as its letters, where it is encoded as addresses are (RFC 3986 §2.1). */
export function decoded(path: string): string {
  try {
    return decodeURIComponent(path)
  } catch {
    return path
  }
}

/** The folder of its host that a site stands in by its address: `club/`, '' for the top. */
export const folderOfAddress = (publicAddress: string): string =>
  publicAddress === '' ? '' : decoded(new URL(publicAddress).pathname.slice(1))

/** The paths that pages name from the top of their host, without a slash in front. */
export function rootedIn(files: readonly BroughtFile[]): ReadonlySet<string> {
  const found = new Set<string>()
  for (const { kind, text = '' } of files) {
    if (kind !== 'page') continue
    for (const [, ...values] of text.matchAll(rooted)) {
      const [path = ''] = values.find((value) => value !== undefined)!.split(/[?#]/)
      found.add(decoded(path))
      if (found.size >= mostRead) return found
    }
  }
  return found
}

/**
 * The folder of its host that a site stood in: as its address says, else what its references from the host's top have in
 * front of paths that are among its files. '' where most of them are right as they are, or nothing tells.
 */
export function hostFolderIn(files: readonly BroughtFile[], publicAddress: string): string {
  if (publicAddress !== '') return folderOfAddress(publicAddress)
  const there = new Set(files.flatMap(({ path }) => [path, folderOf(path)]).filter((path) => path !== ''))
  const named = rootedIn(files)
  const votes = new Map<string, number>()
  let atTop = 0
  for (const path of named) {
    if (there.has(path)) atTop += 1
    else
      for (let end = path.indexOf('/'), depth = 0; end >= 0 && depth < mostFolders; depth++) {
        const folder = path.slice(0, end + 1)
        if (there.has(path.slice(end + 1))) votes.set(folder, (votes.get(folder) ?? 0) + 1)
        end = path.indexOf('/', end + 1)
      }
  }
  const [most] = [...votes].sort((a, b) => b[1] - a[1])
  return most && most[1] >= leastNamed && most[1] > atTop && most[1] * 2 > named.size ? most[0] : ''
}
