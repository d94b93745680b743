import { SiteTemplates } from '#core/template'
import type { Page, Site, TextOf } from '#core/site'

/** The slots that a page's template shows, in order, each once. */
export function slotsOf(site: Site, page: Page, textOf: TextOf): string[] {
  const templates = new SiteTemplates(site, textOf)
  return [...new Set(templates.of(page).slots.map(({ name }) => name))]
}
