import { languagesOf } from '#core/plan'
import type { Page, Site } from '#core/site'
import { datesOf } from './dates'
import { clashKey } from './label-name'

/** What a file that is made of the whole site is called among its files. */
export interface MadeFile {
  readonly id: string
  /** From the top of the site. */
  readonly path: string
  readonly is:
    | { readonly kind: 'sitemap'; readonly nth: number }
    | { readonly kind: 'robots' }
    | { readonly kind: 'feed'; readonly language: string }
}

/** What such a file is known by. */
const madeId = (path: string): string => `made ${path}`

/** What the feed of a language is known by. */
export const feedId = (language: string): string => `feed ${language}`

/** What programs that go from page to page read first, at the top of a host (RFC 9309 §2.3). */
const robotsPath = 'robots.txt'

/** Pages that one sitemap may list (sitemaps protocol 0.9). */
export const mostInSitemap = 50_000

type Made = Pick<Site, 'pages' | 'homeId' | 'language' | 'publicAddress' | 'output'>

/**
 * The files that are made of a whole site, as its author wants: sitemaps, with what names them to search engines, and feeds.
 * None where nobody knows the site's address, and none where a file of its own stands.
 * @param byPath what stands there already
 */
export function madeFilesOf(site: Made, byPath: ReadonlyMap<string, unknown>): MadeFile[] {
  const { sitemap, feed } = site.output
  if (site.publicAddress === '' || !(sitemap || feed)) return []
  const taken = new Set([...byPath.keys()].map(clashKey))
  const isFree = (path: string) => !taken.has(clashKey(path))
  return [...(sitemap ? sitemapsOf(site, isFree) : []), ...(feed ? feedsOf(site, isFree) : [])]
}

/**
 * The first lists the site's pages or, of very many, the other sitemaps. Where the site is all of its host, what names the
 * first of them to search engines goes with them.
 */
function sitemapsOf({ pages, publicAddress }: Made, isFree: (path: string) => boolean): MadeFile[] {
  const count = pages.filter(({ trial }: Page) => !trial).length
  const parts = count > mostInSitemap ? Math.ceil(count / mostInSitemap) : 0
  const paths = ['sitemap.xml', ...Array.from({ length: parts }, (_, at) => `sitemap-${at + 1}.xml`)]
  if (!paths.every(isFree)) return []
  const sitemaps = paths.map((path, nth): MadeFile => ({
    id: madeId(path),
    path,
    is: { kind: 'sitemap', nth },
  }))
  const isAtTop = URL.canParse(publicAddress) && new URL(publicAddress).pathname === '/'
  return isAtTop && isFree(robotsPath)
    ? [...sitemaps, { id: madeId(robotsPath), path: robotsPath, is: { kind: 'robots' } }]
    : sitemaps
}

/** One for each language that a page with a date is in; that of the site's own has the plain name. */
function feedsOf(site: Made, isFree: (path: string) => boolean): MadeFile[] {
  const languages = languagesOf(site)
  const those = new Set(
    datesOf(site)
      .newest.filter(({ inMenus }) => inMenus)
      .map(languages.of),
  )
  return [...those]
    .map((language) => ({
      id: feedId(language),
      is: { kind: 'feed' as const, language },
      path: language === site.language ? 'feed.xml' : `feed-${language.toLowerCase()}.xml`,
    }))
    .filter(({ path }) => isFree(path))
}
