import { clashKey, type Names } from '#core/naming'
import type { Page, Site, SiteFile } from '#core/site'
import { folderOf } from '../brought'
import { labelOfFile, pathOfPage } from '../own-paths'

/** Pages and files that are about to join a site. */
interface Coming {
  readonly pages: readonly Omit<Page, 'order' | 'seq'>[]
  readonly files: readonly Omit<SiteFile, 'seq'>[]
}

/** Asks whether something may have a path of its own without anything of the site giving way to it. */
function freePlaces({ pages, byPath }: Names) {
  const stems = new Set([...pages.values()].map(({ container, stem }) => clashKey(container + stem)))
  const paths = new Set<string>()
  for (const path of byPath.keys()) paths.add(clashKey(path))
  const isFree = (path: string): boolean => {
    if (paths.has(clashKey(path))) return false
    // No folder on its way is called as a file is.
    for (let folder = folderOf(path); folder !== ''; folder = folderOf(folder.slice(0, -1)))
      if (paths.has(clashKey(folder.slice(0, -1)))) return false
    return true
  }
  return { isFree, isStemFree: (path: string) => !stems.has(clashKey(path)) }
}

/**
 * What comes with paths of its own where the site would put it elsewhere than it stood. What the site has at a place
 * stays there: what comes is named by the scheme then.
 * @param were names of the site before anything joins it
 * @param become names with what comes, by the scheme
 * @param stood where a page or file stood, as the site would say it
 */
export function keepPlaces(
  { pages, files }: Coming,
  site: Site,
  were: Names,
  become: Names,
  stood: (id: string) => string,
): Coming {
  const { isFree, isStemFree } = freePlaces(were)
  return {
    pages: pages.map((page) => {
      const was = stood(page.id)
      if (become.pages.get(page.id)!.path === was) return page
      const path = pathOfPage(was, site)
      const mayStay = path !== null && isFree(was) && isStemFree(path.replace(/^\/|\/$/g, ''))
      return mayStay ? { ...page, ownName: path } : page
    }),
    files: files.map((file) => {
      const was = stood(file.id)
      if (become.files.get(file.id) === was || !isFree(was)) return file
      const label = labelOfFile(was)
      return label === null ? file : { ...file, label }
    }),
  }
}
