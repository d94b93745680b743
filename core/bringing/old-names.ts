import { homeNameOf } from '#core/site'
import { resolveReference, type Target } from '#core/links'
import type { Names, PageName } from '#core/naming'
import { type BroughtFile, folderOf, homeOfFolder } from './brought'
import { decoded, folderOfAddress } from './reading/host-folder'
import { withEnding } from './reading/short-names'

/** Where everything stood before it was brought in; ids are those that it has from now on. */
export interface OldNames {
  readonly names: Names
  readonly idOf: ReadonlyMap<string, string>
  readonly beside: Beside | null
  /** The folder of their host that they stood in; '' for its top. */
  readonly hostFolder: string
  /** What a reference led to on its host. */
  readonly resolve: Resolver
}

/** What a reference led to, from where it stood. */
export type Resolver = (href: string, from: string) => Target

/** A site beside which others stood, or are thought to have stood, when references were written. */
export interface Beside {
  readonly names: Names
  /** The folder of it that the files came from, or go to; '' for its top. */
  readonly base: string
  readonly homeFile: string
}

/**
 * Paths as they were, for asking what references led to.
 * @param idFor what a file is from now on
 * @param publicAddress where visitors find what stands at their top; '' where that is not known
 * @param hostFolder the folder of their host that they stood in, as `hostFolderIn` has it
 * @param beside where a reference may lead that leads to none of the files
 */
export function oldNamesOf(
  files: readonly BroughtFile[],
  idFor: (path: string) => string,
  publicAddress: string,
  hostFolder = '',
  beside: Beside | null = null,
): OldNames {
  const pages = new Map<string, PageName>()
  const others = new Map<string, string>()
  const byPath = new Map<string, { kind: 'page' | 'file'; id: string }>()
  const idOf = new Map<string, string>()
  const folders = new Set<string>()
  for (const { path, kind } of files) {
    const id = idFor(path)
    idOf.set(path, id)
    const folder = folderOf(path)
    folders.add(folder)
    if (kind === 'page') {
      const stem = path.slice(folder.length).replace(/\.\w+$/, '')
      pages.set(id, { path, folder, stem, container: folder, nameless: false, clash: null })
      byPath.set(path, { kind: 'page', id })
    } else {
      others.set(id, path)
      byPath.set(path, { kind: 'file', id })
    }
  }
  const names: Names = { pages, files: others, byPath, folderCount: folders.size, made: [], publicAddress }
  return { names, idOf, beside, hostFolder, resolve: resolverOf({ names, beside, hostFolder }) }
}

/** A reference from the top of a host, from that of a folder of it; null for one that is none, or leads out of the folder. */
export function fromTop(href: string, folder: string): string | null {
  if (folder === '' || !href.startsWith('/') || href.startsWith('//')) return null
  const steps = folder.split('/').length - 1
  let end = 0
  for (let step = 0; step < steps && end >= 0; step++) end = href.indexOf('/', end + 1)
  // The folder by itself, as hosts lead on to it.
  const [own, rest] = end < 0 ? [`${href}/`, ''] : [href.slice(0, end + 1), href.slice(end + 1)]
  return decoded(own) === `/${folder}` ? `/${rest}` : null
}

/**
 * The whole address of what a reference from a host's top leads to, where that lies beside the folder that the site stands in:
 * within a site such a reference would be one from the top of the site. Null for any other.
 */
export function onHost(href: string, { publicAddress }: Pick<Names, 'publicAddress'>): string | null {
  const folder = folderOfAddress(publicAddress)
  if (folder === '' || !href.startsWith('/') || href.startsWith('//')) return null
  return fromTop(href, folder) === null ? new URL(publicAddress).origin + href : null
}

/** References of which it is known where they lead. */
const mostKept = 20_000

/** What references led to, of nothing but where everything stood: another thread asks it as well. */
export function resolverOf({
  names,
  beside,
  hostFolder,
}: Pick<OldNames, 'names' | 'beside' | 'hostFolder'>): Resolver {
  const { byPath } = names
  // A site made by hand may have home files of several names.
  const homeFiles = new Set<string>()
  for (const path of byPath.keys())
    if (homeNameOf(path) !== null) homeFiles.add(path.slice(folderOf(path).length))
  // Hosts of today show a page without its ending, too.
  const endings = new Set([...names.pages.values()].flatMap(({ path }) => /\.\w+$/.exec(path) ?? []))
  const usual = homeOfFolder('', byPath.keys()) ?? 'index.html'
  const besideFolder = beside ? folderOfAddress(beside.names.publicAddress) : ''
  const resolve = (href: string, from: string): Target => {
    const own = fromTop(href, hostFolder)
    if (own !== null) {
      const target = resolveHere(own, '')
      if (target.kind !== 'missing' || !beside) return target
    }
    const target = resolveHere(href, from)
    return target.kind === 'missing' && onHost(href, names) !== null ? { kind: 'elsewhere' } : target
  }
  const resolveHere = (href: string, from: string): Target => {
    const first = resolveReference(href, from, names, usual)
    if (first.kind !== 'missing') return first
    for (const home of homeFiles) {
      const target = resolveReference(href, from, names, home)
      if (target.kind !== 'missing') return target
    }
    for (const ending of endings) {
      const named = withEnding(href, ending)
      const target = named === null ? first : resolveReference(named, from, names, usual)
      if (target.kind === 'page') return target
    }
    if (!beside) return first
    const there = resolveReference(
      fromTop(href, besideFolder) ?? href,
      beside.base + from,
      beside.names,
      beside.homeFile,
    )
    return there.kind === 'missing' ? first : there
  }
  // The pages of a folder have one menu, and each step of understanding asks where it leads. What is kept has an end: texts may
  // lead to thousands of pages from hundreds of folders.
  const known = new Map<string, Map<string, Target>>()
  let kept = 0
  return (href, from) => {
    const folder = folderOf(from)
    const inFolder = known.get(folder) ?? new Map<string, Target>()
    const before = inFolder.get(href)
    if (before) return before
    const target = resolve(href, from)
    if (kept++ >= mostKept) {
      known.clear()
      inFolder.clear()
      kept = 1
    }
    known.set(folder, inFolder.set(href, target))
    return target
  }
}
