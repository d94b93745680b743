import { namesOf } from '#core/naming'
import type { Site } from '#core/site'
import { feedText } from './feed'
import { type Listed, robotsText, sitemapText } from './sitemap'

/** What files of the whole site are made from, beside the site. */
export interface MadeSources extends Listed {
  /** The HTML that a page is written in first, as it stands in it; '' where there is none. */
  readonly textOf: (pageId: string) => string
}

/** A file that is made of the whole site: what search engines and feed readers ask for. */
export function madeText(site: Site, id: string, sources: MadeSources): string {
  const { made } = namesOf(site)
  const { is } = made.find((one) => one.id === id)!
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
