import { realPlaces, treeOf } from '#core/plan'
import { emptyHash, type Site, textsOfPage, type TextOf } from '#core/site'
import { SiteTemplates } from '#core/template'

/** A text that a page holds and that its template does not show. */
export interface HiddenSlot {
  readonly pageId: string
  readonly slot: string
}

/** The slots that the template of each page shows, by the template's id. */
function slotsBy(site: Site, textOf: TextOf) {
  const templates = new SiteTemplates(site, textOf)
  const known = new Map<string, ReadonlySet<string>>()
  return {
    templates,
    of(templateId: string): ReadonlySet<string> {
      let slots = known.get(templateId)
      if (!slots) {
        slots = new Set(templates.compiled(templateId).slots.map(({ name }) => name))
        known.set(templateId, slots)
      }
      return slots
    },
  }
}

/** Everything written in a slot that its page's template has no place for. It is kept, and not shown. */
export function hiddenSlots(site: Site, textOf: TextOf): HiddenSlot[] {
  const slots = slotsBy(site, textOf)
  return realPlaces(treeOf(site)).flatMap(({ page }) => {
    const shown = slots.of(slots.templates.idOf(page))
    return textsOfPage(page)
      .filter(({ slot, hash }) => hash !== emptyHash && !shown.has(slot))
      .map(({ slot }) => ({ pageId: page.id, slot }))
  })
}

/** What a change takes out of sight: shown before it, and not after. */
export function newlyHidden(before: Site, after: Site, textOf: TextOf): HiddenSlot[] {
  if (
    before.templates === after.templates &&
    before.templateId === after.templateId &&
    before.pages.length === after.pages.length &&
    before.pages.every((page, index) => {
      const now = after.pages[index]!
      return (
        page === now ||
        (page.id === now.id &&
          page.parentId === now.parentId &&
          page.templateId === now.templateId &&
          page.belowTemplateId === now.belowTemplateId)
      )
    })
  )
    return []
  const [was, is] = [slotsBy(before, textOf), slotsBy(after, textOf)]
  const pages = treeOf(after).byId
  return realPlaces(treeOf(before)).flatMap(({ page: old }) => {
    const page = pages.get(old.id)
    if (!page) return []
    const [oldId, newId] = [was.templates.idOf(old), is.templates.idOf(page)]
    if (oldId === newId && was.templates.sourcesOf(oldId) === is.templates.sourcesOf(newId)) return []
    return textsOfPage(page)
      .filter(({ slot, hash }) => hash !== emptyHash && was.of(oldId).has(slot) && !is.of(newId).has(slot))
      .map(({ slot }) => ({ pageId: page.id, slot }))
  })
}
