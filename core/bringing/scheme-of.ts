import { isAskedForByName, isSubscribedTo } from '#core/links'
import { checkOwnName, nameLabel, namesOf } from '#core/naming'
import { languagesOf } from '#core/plan'
import {
  type Arrangement,
  defaultScheme,
  type FileKind,
  type Page,
  type Scheme,
  type Site,
  type SiteFile,
} from '#core/site'
import { isErrorPage } from '#core/template'
import { type BroughtFile, folderOf } from './brought'
import type { OldNames } from './old-names'
import { labelOfFile, pathOfPage } from './own-paths'

/** What most of some things are; the first of them where several are equally many. */
function most<T extends string>(things: readonly T[]): T | null {
  const counts = new Map<T, number>()
  for (const thing of things) counts.set(thing, (counts.get(thing) ?? 0) + 1)
  return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0] ?? null
}

const fileKinds: readonly FileKind[] = ['image', 'style', 'script', 'document', 'other']

/** A folder's name as a scheme takes it; null for one that it cannot. */
const asFolder = (folder: string): string | null => {
  const name = folder.replace(/\/$/, '')
  return /^[A-Za-z0-9_-]{0,60}$/.test(name) ? name : null
}

/** The scheme that is nearest to how files are called and placed already, but for how pages are spread. */
function basis(files: readonly BroughtFile[], homePath: string): Scheme {
  // Where both are as many, the home page's is kept.
  const pages = [homePath, ...files.filter(({ kind }) => kind === 'page').map(({ path }) => path)]
  const extension = most(pages.map((path) => (/\.htm$/i.test(path) ? '.htm' : '.html')))
  const homeName = homePath.slice(folderOf(homePath).length).replace(/\.\w+$/, '')
  const folders = { ...defaultScheme.folders }
  for (const kind of fileKinds) {
    const folder = most(files.filter((file) => file.kind === kind).map(({ path }) => folderOf(path)))
    const name = folder === null ? null : asFolder(folder)
    if (name !== null) folders[kind] = name
  }
  return {
    ...defaultScheme,
    longest: 100,
    extension: extension ?? '.html',
    homeName: /^[A-Za-z0-9_-]{1,40}$/.test(homeName) ? homeName : 'index',
    folders,
  }
}

/** The name a page is known by in its folder: its own, or its folder's where it is a home page. */
export function ownNameOf(path: string, homeName: string, isAlone: boolean): string {
  const folder = folderOf(path)
  const stem = path.slice(folder.length).replace(/\.\w+$/, '')
  return isAlone && stem === homeName && folder !== '' ? folder.slice(0, -1).split('/').pop()! : stem
}

/** Share of names that may be otherwise without those to come being so. */
const fewOthers = 0.2

/** How the names of pages are written, for those of pages to come. */
function writtenAs(
  site: Site,
  stemOf: (page: Page) => string,
): Pick<Scheme, 'letterCase' | 'gap' | 'letters'> {
  const named = site.pages
    .filter((page) => page.id !== site.homeId)
    .map((page) => ({ page, stem: stemOf(page) }))
    .filter(({ stem }) => /\p{L}/u.test(stem))
  const areFew = (some: readonly unknown[]) => some.length <= named.length * fewOthers
  const letterCase: Scheme['letterCase'] = areFew(named.filter(({ stem }) => stem !== stem.toLowerCase()))
    ? 'lower'
    : 'as-typed'
  const letters: Scheme['letters'] = areFew(named.filter(({ stem }) => /[^\x00-\x7f]/.test(stem)))
    ? 'ascii'
    : 'kept'
  const { of: languageOf } = languagesOf(site)
  const gaps = (['-', '_', ''] as const).map((gap) => {
    const scheme = { ...defaultScheme, longest: 100, letterCase, letters, gap }
    const follows = ({ page, stem }: (typeof named)[number]) => {
      const { name } = nameLabel(page.label, scheme, languageOf(page))
      // A name of one word tells nothing of what stands between two.
      return gap === '' ? name === stem && /\s/.test(page.label.trim()) : stem.includes(gap)
    }
    return { gap, count: named.filter(follows).length }
  })
  return { letterCase, letters, gap: gaps.sort((a, b) => b.count - a.count)[0]!.gap }
}

const endless = (path: string) => path.replace(/\.\w+$/, '')

/** Share of the pages in one folder for a scheme that has one for all. */
const inOneFolder = 0.9

/**
 * The site with its old names: of all ways to spread pages over folders the one under which most stand where they
 * stood; the others have paths of their own. What cannot stand where it stood leaves a forwarder.
 */
export function withOldNames(site: Site, files: readonly BroughtFile[], { names: old }: OldNames): Site {
  const homePath = old.pages.get(site.homeId)!.path
  const stands = (page: Page) => old.pages.get(page.id)!.path
  const named = basis(files, homePath)
  const scheme = { ...named, ...writtenAs(site, (page) => ownNameOf(stands(page), named.homeName, true)) }
  const folders = site.pages.flatMap(({ id }) => (id === site.homeId ? [] : [old.pages.get(id)!.folder]))
  const only = most(folders.filter((one) => one !== ''))
  const arrangements: Arrangement[] = [
    { kind: 'together' },
    { kind: 'sections', sectionPage: 'inside' },
    { kind: 'sections', sectionPage: 'beside' },
    { kind: 'folder-a-page' },
  ]
  // The pages that are to come go there, too: so it has to be the folder of nearly all.
  const isOnly = only !== null && folders.filter((one) => one === only).length >= folders.length * inOneFolder
  const folder = isOnly ? asFolder(only) : null
  if (folder) arrangements.push({ kind: 'one-folder', folder })
  let best: { site: Site; kept: number } | null = null
  for (const arrangement of arrangements) {
    const trying = { ...scheme, arrangement }
    const pages = site.pages.map((page): Page => {
      const name = ownNameOf(stands(page), trying.homeName, true)
      const usable = page.id !== site.homeId && checkOwnName(name, trying, site.language) === null
      return { ...page, ownName: usable ? name : null }
    })
    const named = { ...site, scheme: trying, pages }
    const become = namesOf(named).pages
    // One with another ending has a path of its own, and tells as much of where pages stand.
    const kept = pages.filter((page) => endless(become.get(page.id)!.path) === endless(stands(page))).length
    if (!best || kept > best.kept) best = { site: named, kept }
  }
  const placed = withOwnPaths(best!.site, stands)
  const become = namesOf(placed).files
  const whereItStood = (file: SiteFile): SiteFile => {
    const was = old.files.get(file.id)!
    const label = become.get(file.id)! === was ? null : labelOfFile(was)
    return label === null ? file : { ...file, label }
  }
  return withAddresses({ ...placed, files: placed.files.map(whereItStood) }, { names: old })
}

/** The site with paths of their own for pages that its scheme puts elsewhere than they stood. */
function withOwnPaths(site: Site, stands: (page: Page) => string): Site {
  const become = namesOf(site).pages
  return {
    ...site,
    pages: site.pages.map((page) => {
      const was = stands(page)
      const isThere = page.id === site.homeId || become.get(page.id)!.path === was
      const path = isThere ? null : pathOfPage(was, site)
      return path === null ? page : { ...page, ownName: path }
    }),
  }
}

/**
 * The site under another scheme, its pages and files named by it; each old address leads on to the page. What hosts, browsers
 * and readers of feeds ask for by its name, and the page that is shown for one that is missing, stay where that is.
 */
export function withNewNames(site: Site, scheme: Scheme, old: Pick<OldNames, 'names'>): Site {
  const isKept = (path: string) => isAskedForByName(path) || isSubscribedTo(path)
  const renamed: Site = {
    ...site,
    scheme,
    pages: site.pages.map((page) => {
      const { path } = old.names.pages.get(page.id)!
      const ownName = /^\d/.test(path) && isErrorPage(path) ? pathOfPage(path, { ...site, scheme }) : null
      return { ...page, ownName }
    }),
    files: site.files.map((file) => {
      const was = old.names.files.get(file.id)!
      return isKept(was) ? { ...file, label: labelOfFile(was) ?? file.label } : file
    }),
  }
  return withAddresses(renamed, old)
}

/** Addresses that are out in the world and where nothing stands any more. */
function withAddresses(site: Site, { names: old }: Pick<OldNames, 'names'>): Site {
  const become = namesOf(site)
  return {
    ...site,
    pages: site.pages.map((page) => {
      const was = old.pages.get(page.id)!.path
      return become.pages.get(page.id)!.path === was
        ? { ...page, addresses: [] }
        : { ...page, addresses: [was] }
    }),
  }
}
