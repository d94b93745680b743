import { treeOf } from '#core/plan'
import type { Page, Site } from '#core/site'

const choices = new WeakMap<readonly Page[], { of: Site; ids: ReadonlyMap<string, string> }>()

/**
 * The template each page is made with, by the page's id: its own, else what the nearest page above says for
 * those below it, else the site's. Computed once for each list of pages.
 */
export function templateChoices(site: Site): ReadonlyMap<string, string> {
  const known = choices.get(site.pages)
  if (known && known.of.templateId === site.templateId && known.of.homeId === site.homeId) return known.ids
  const ids = new Map<string, string>()
  /** What pages at each depth get when they say nothing. */
  const below: string[] = [site.templateId]
  for (const { page, depth } of treeOf(site).places) {
    const given = below[depth]!
    ids.set(page.id, page.templateId ?? given)
    below.length = depth + 1
    below.push(page.belowTemplateId ?? given)
  }
  choices.set(site.pages, { of: site, ids })
  return ids
}

/** What pages at one page's place get when they say nothing: what *as above* means there. */
export function inheritedTemplate(site: Site, page: Pick<Page, 'parentId'>): string {
  const { byId } = treeOf(site)
  for (let above = page.parentId; above !== null; above = byId.get(above)?.parentId ?? null) {
    const given = byId.get(above)?.belowTemplateId
    if (given) return given
  }
  return site.templateId
}
