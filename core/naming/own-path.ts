import type { Page, Scheme } from '#core/site'
import { clashKey } from './label-name'
import { type Grant, settleNames } from './name-space'

/**
 * An own name that is a path from the top of the site: `/news/regatta`, or `/about/` for the home file of a folder.
 * Such a page stands there under every scheme and wherever it is in the plan, as a page does that came from elsewhere
 * and keeps its address. One that says its ending, `/news/REGATTA.HTM`, has that; any other has the scheme's.
 */
export interface OwnPath {
  /** The folder that the last step is a name in, '' or ending in a slash. */
  readonly container: string
  readonly stem: string
  /** As it is written; null where the scheme's is added. */
  readonly extension: string | null
  /** Whether it is the home file of a folder of that name. */
  readonly isHome: boolean
}

/** Endings of pages that a path may say. XHTML is none: a browser reads it by other rules than those pages are made by. */
const ofPages = /\.(?:html?|shtml)$/i

export const isOwnPath = (ownName: string | null): ownName is string => ownName?.startsWith('/') ?? false

export function readOwnPath(ownName: string): OwnPath {
  const isHome = ownName.endsWith('/')
  const path = ownName.slice(1, isHome ? -1 : undefined)
  const cut = path.lastIndexOf('/') + 1
  const extension = isHome ? null : (ofPages.exec(path.slice(cut))?.[0] ?? null)
  return {
    container: path.slice(0, cut),
    stem: path.slice(cut, path.length - (extension?.length ?? 0)),
    extension,
    isHome,
  }
}

/** The ending of a page as hosts tell it from others, whoever says it. */
export const endingOf = ({ extension }: Pick<OwnPath, 'extension'>, scheme: Scheme): string =>
  (extension ?? scheme.extension).toLowerCase()

/** The last step of an own name, whether it is a path or not. */
export const ownStem = (ownName: string): string => (isOwnPath(ownName) ? readOwnPath(ownName).stem : ownName)

/** A page with a path of its own, and where that is. */
export interface PlacedPage {
  readonly grant: Grant<Page>
  readonly container: string
  readonly path: string
  /** The folder of pages below it, where the scheme gives them one. */
  readonly below: string
}

/** Where pages with paths of their own stand. Of two with one path the older has it, and the other a number. */
export function placeOwnPaths(pages: readonly Page[], scheme: Scheme) {
  const groups = new Map<string, { container: string; isHome: boolean; ending: string; pages: Page[] }>()
  for (const page of pages) {
    const own = readOwnPath(page.ownName!)
    const { container, isHome } = own
    const ending = endingOf(own, scheme)
    const key = `${isHome} ${ending} ${clashKey(container)}`
    const group = groups.get(key) ?? { container, isHome, ending, pages: [] }
    groups.set(key, group)
    group.pages.push(page)
  }
  const placed: PlacedPage[] = []
  const stems = new Map<string, string[]>()
  for (const { container, isHome, ending, pages: own } of groups.values()) {
    const asScheme = ending === scheme.extension
    const claims = own.map((page) => ({
      what: page,
      wanted: page.keptName ?? ownStem(page.ownName!),
      rank: page.keptName === null ? 1 : 0,
      seq: page.seq,
      second: null,
    }))
    for (const grant of settleNames(claims, asScheme ? [scheme.homeName] : [], scheme)) {
      const at = container + grant.name
      const said = readOwnPath(grant.what.ownName!).extension
      const path = isHome ? `${at}/${scheme.homeName}${scheme.extension}` : at + (said ?? scheme.extension)
      placed.push({ grant, container, path, below: `${at}/` })
      // Beside `tides.html` there is room for `tides.htm`.
      if (!asScheme) continue
      const key = clashKey(container)
      const those = stems.get(key)
      if (those) those.push(grant.name)
      else stems.set(key, [grant.name])
    }
  }
  return {
    placed,
    /** Names in a folder that are theirs. */
    takenIn: (folder: string): readonly string[] => (stems.size > 0 && stems.get(clashKey(folder))) || [],
  }
}
