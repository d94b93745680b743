import { namesOf } from '#core/naming'
import type { Page, Site } from '#core/site'
import { feedText, pagesInFeed } from './feed'
import { type Listed, robotsText, sitemapText } from './sitemap'

/** What files of the whole site are made from, beside the site. */
export interface MadeSources extends Listed {
  /** The HTML that a page is written in first, as it stands in it, or what is equal for equal ones; '' where there is none. */
  readonly textOf: (page: Page) => string
}

const madeOf = (site: Site, id: string) => namesOf(site).made.find((one) => one.id === id)

/** The pages whose texts such a file holds. */
export function pagesIn(site: Site, id: string): Page[] {
  const is = madeOf(site, id)?.is
  return is?.kind === 'feed' ? pagesInFeed(site, is.language) : []
}

/** A file that is made of the whole site: what search engines and feed readers ask for. */
export function madeText(site: Site, id: string, sources: MadeSources): string {
  const { made } = namesOf(site)
  const { is } = madeOf(site, id)!
  const sitemaps = made.filter((one) => one.is.kind === 'sitemap').map(({ path }) => path)
  switch (is.kind) {
    case 'robots':
      return robotsText(site, sitemaps[0]!)
    case 'sitemap':
      return sitemapText(site, is.nth, sitemaps, sources)
    case 'feed':
      return feedText(site, is.language, sources.textOf)
  }
}
