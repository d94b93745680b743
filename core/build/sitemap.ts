import { escapeText } from '#core/markup'
import { mostInSitemap } from '#core/naming'
import { realPlaces, treeOf } from '#core/plan'
import type { Page, Site } from '#core/site'
import { pageAddress } from '#core/template'

const begins = '<?xml version="1.0" encoding="UTF-8"?>\n'
const namespace = 'xmlns="http://www.sitemaps.org/schemas/sitemap/0.9"'

/** What is left out of what search engines are given. */
export interface Listed {
  /** Whether a page says that it is not to be found (HTML §4.2.5.1, `robots`). */
  readonly isUnlisted: (page: Page) => boolean
}

const listOf = (outer: string, inner: string, addresses: readonly string[]): string =>
  `${begins}<${outer} ${namespace}>\n${addresses
    .map((address) => `  <${inner}><loc>${escapeText(address)}</loc></${inner}>\n`)
    .join('')}</${outer}>\n`

/** What names a site's sitemap to search engines (RFC 9309 §2.2.4), and forbids nothing. */
export const robotsText = (site: Site, sitemap: string): string =>
  `User-agent: *\nDisallow:\n\nSitemap: ${site.publicAddress}${sitemap}\n`

/**
 * A sitemap (sitemaps protocol 0.9): the addresses of all pages in reading order, or of very many, those of the sitemaps
 * that list them. Pages that ask not to be listed are not, nor are those that hosts show in place of others.
 * @param nth which of the site's
 * @param paths those of all of them
 */
export function sitemapText(
  site: Site,
  nth: number,
  paths: readonly string[],
  { isUnlisted }: Listed,
): string {
  const addresses = realPlaces(treeOf(site))
    .map(({ page }) => page)
    .filter((page) => !isUnlisted(page))
    .map((page) => pageAddress(site, page))
    .filter((address) => address !== '')
  if (paths.length === 1) return listOf('urlset', 'url', addresses)
  const parts = paths.slice(1).map((path) => site.publicAddress + path)
  if (nth === 0) return listOf('sitemapindex', 'sitemap', parts)
  return listOf('urlset', 'url', addresses.slice((nth - 1) * mostInSitemap, nth * mostInSitemap))
}
