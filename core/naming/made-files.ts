import { clashKey } from './label-name'
import type { Page, Site } from '#core/site'

/** What a file that is made of the whole site is called among its files. */
export interface MadeFile {
  readonly id: string
  /** From the top of the site. */
  readonly path: string
}

/** What such a file is known by. */
export const madeId = (path: string): string => `made ${path}`

/** What programs that go from page to page read first, at the top of a host (RFC 9309 §2.3). */
export const robotsPath = 'robots.txt'

/** Pages that one sitemap may list (sitemaps protocol 0.9). */
export const mostInSitemap = 50_000

/**
 * The sitemaps of a site: the first lists its pages or, of very many, the others. None where its author wants none, where
 * nobody knows the site's address, and where a file of its own stands there. Where the site is all of its host, and has no
 * such file, what names the first of them to search engines goes with them.
 * @param byPath what stands there already
 */
export function madeFilesOf(
  site: Pick<Site, 'pages' | 'publicAddress' | 'output'>,
  byPath: ReadonlyMap<string, unknown>,
): MadeFile[] {
  if (!site.output.sitemap || site.publicAddress === '') return []
  const count = site.pages.filter(({ trial }: Page) => !trial).length
  const parts = count > mostInSitemap ? Math.ceil(count / mostInSitemap) : 0
  const paths = ['sitemap.xml', ...Array.from({ length: parts }, (_, at) => `sitemap-${at + 1}.xml`)]
  const taken = new Set([...byPath.keys()].map(clashKey))
  if (paths.some((path) => taken.has(clashKey(path)))) return []
  const isAtTop = URL.canParse(site.publicAddress) && new URL(site.publicAddress).pathname === '/'
  if (isAtTop && !taken.has(robotsPath)) paths.push(robotsPath)
  return paths.map((path) => ({ id: madeId(path), path }))
}
