import { escapeText } from '#core/markup'
import { madeId, mostInSitemap, namesOf, robotsPath } from '#core/naming'
import { realPlaces, treeOf } from '#core/plan'
import type { Page, Site } from '#core/site'
import { pageAddress } from '#core/template'

const begins = '<?xml version="1.0" encoding="UTF-8"?>\n'
const namespace = 'xmlns="http://www.sitemaps.org/schemas/sitemap/0.9"'

const listOf = (outer: string, inner: string, addresses: readonly string[]): string =>
  `${begins}<${outer} ${namespace}>\n${addresses
    .map((address) => `  <${inner}><loc>${escapeText(address)}</loc></${inner}>\n`)
    .join('')}</${outer}>\n`

/** The paths of what is made of the whole site by their ids, the first sitemap first; none where none is made (`madeFilesOf`). */
export const madeOf = (site: Site): ReadonlyMap<string, string> =>
  new Map(site.output.sitemap ? [...namesOf(site).files].filter(([id, path]) => id === madeId(path)) : [])

/**
 * A file that is made of the whole site: a sitemap, or what names it (RFC 9309 §2.2.4) and forbids nothing.
 * @param isUnlisted whether a page says that it is not to be found (HTML §4.2.5.1, `robots`)
 */
export function madeText(site: Site, id: string, isUnlisted: (page: Page) => boolean): string {
  const paths = [...madeOf(site).values()].filter((path) => path !== robotsPath)
  return id === madeId(robotsPath)
    ? `User-agent: *\nDisallow:\n\nSitemap: ${site.publicAddress}${paths[0]}\n`
    : sitemapText(site, id, paths, isUnlisted)
}

/**
 * A sitemap (sitemaps protocol 0.9): the addresses of all pages in reading order, or of very many, those of the sitemaps
 * that list them. Pages that ask not to be listed are not, nor are those that hosts show in place of others.
 */
function sitemapText(
  site: Site,
  id: string,
  paths: readonly string[],
  isUnlisted: (page: Page) => boolean,
): string {
  const addresses = realPlaces(treeOf(site))
    .map(({ page }) => page)
    .filter((page) => !isUnlisted(page))
    .map((page) => pageAddress(site, page))
    .filter((address) => address !== '')
  if (paths.length === 1) return listOf('urlset', 'url', addresses)
  const [first, ...parts] = paths
  if (id === madeId(first!))
    return listOf(
      'sitemapindex',
      'sitemap',
      parts.map((path) => site.publicAddress + path),
    )
  const at = parts.findIndex((path) => id === madeId(path))
  return listOf('urlset', 'url', addresses.slice(at * mostInSitemap, (at + 1) * mostInSitemap))
}
