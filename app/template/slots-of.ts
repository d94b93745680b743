import { givesOutWhole, SiteTemplates } from '#core/template'
import type { Page, Site, TextOf } from '#core/site'

/** The slots that a template shows, in order, each once; and those among them that it says as values. */
export interface ShownSlots {
  readonly shown: readonly string[]
  readonly values: readonly string[]
  /** Whether pages are whole documents as they are written. */
  readonly isWhole: boolean
}

/** The slots that a page's template shows: what is written in whole first, and then what is a value. */
export function slotsOf(site: Site, page: Page, textOf: TextOf): ShownSlots {
  const template = new SiteTemplates(site, textOf).of(page)
  const { slots } = template
  const written = new Set(slots.flatMap(({ name, isValue }) => (isValue ? [] : [name])))
  // What is written in whole somewhere is HTML.
  const values = new Set(slots.map(({ name }) => name).filter((name) => !written.has(name)))
  return { shown: [...written, ...values], values: [...values], isWhole: givesOutWhole(template) }
}
