import { escapeText } from '#core/markup'
import { mostInSitemap, namesOf } from '#core/naming'
import { realPlaces, treeOf } from '#core/plan'
import type { Page, Site } from '#core/site'
import { pageAddress } from '#core/template'

const begins = '<?xml version="1.0" encoding="UTF-8"?>\n'
const namespace = 'xmlns="http://www.sitemaps.org/schemas/sitemap/0.9"'

const listOf = (outer: string, inner: string, addresses: readonly string[]): string =>
  `${begins}<${outer} ${namespace}>\n${addresses
    .map((address) => `  <${inner}><loc>${escapeText(address)}</loc></${inner}>\n`)
    .join('')}</${outer}>\n`

/** Ids of the files that are made of the whole site; see `sitemapText`. */
export const sitemapIds = (site: Site): ReadonlyMap<string, string> => {
  const { byPath, files } = namesOf(site)
  const made = site.output.sitemap
    ? [...files].filter(([id, path]) => id === `made ${path}` && byPath.get(path)?.id === id)
    : []
  return new Map(made)
}

/**
 * A sitemap (sitemaps protocol 0.9): the addresses of all pages in reading order, or of very many, those of the sitemaps
 * that list them. Pages that ask not to be listed are not, nor are those that hosts show in place of others.
 * @param isUnlisted whether a page says that it is not to be found (HTML §4.2.5.1, `robots`)
 */
export function sitemapText(site: Site, id: string, isUnlisted: (page: Page) => boolean): string {
  const paths = [...sitemapIds(site).values()]
  const addresses = realPlaces(treeOf(site))
    .map(({ page }) => page)
    .filter((page) => !isUnlisted(page))
    .map((page) => pageAddress(site, page))
    .filter((address) => address !== '')
  if (paths.length === 1) return listOf('urlset', 'url', addresses)
  const [first, ...parts] = paths
  if (id === `made ${first}`)
    return listOf(
      'sitemapindex',
      'sitemap',
      parts.map((path) => site.publicAddress + path),
    )
  const at = parts.findIndex((path) => id === `made ${path}`)
  return listOf('urlset', 'url', addresses.slice(at * mostInSitemap, (at + 1) * mostInSitemap))
}
