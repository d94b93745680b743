import { useEffect, useState } from 'react'
import { emptyHash, mainSlot, type Page, type Site, textsOfPage } from '#core/site'
import { templateChoices } from '#core/template'
import { useSite } from '../document/site-context'
import { fetchText } from '../document/use-text'
import type { ShownSlots } from './slots-of'
import { untilFetched } from '../parts/fetched'

/** The slots of a page: those that its template shows, and those that hold something and are not shown. */
export interface PageSlots extends ShownSlots {
  readonly hidden: readonly string[]
}

/** Sources of a page's template and of what it is based on. */
function sourcesOf(site: Site, page: Page): string[] {
  const byId = new Map(site.templates.map((one) => [one.id, one]))
  const sources: string[] = []
  for (let at = templateChoices(site).get(page.id) ?? null; at !== null && sources.length < 20;) {
    const template = byId.get(at)
    if (!template) break
    sources.push(template.source)
    at = template.basedOn
  }
  return sources
}

const unread: ShownSlots = { shown: [mainSlot], values: [], isWhole: true }
const known = new Map<string, ShownSlots>()

/** Only the slot that every page has, until the template is known. */
export function useSlots(page: Page): PageSlots {
  const { site } = useSite()
  const sources = sourcesOf(site, page)
  const key = sources.join(' ')
  const [, setRead] = useState('')
  useEffect(() => {
    if (known.has(key)) return
    const abort = new AbortController()
    void (async () => {
      const texts = await Promise.all(
        key.split(' ').map(async (hash) => [hash, await fetchText(site.id, hash, abort.signal)] as const),
      )
      const { slotsOf } = await untilFetched(() => import('./slots-of'))
      const byHash = new Map(texts)
      known.set(
        key,
        slotsOf(site, page, (hash) => byHash.get(hash) ?? ''),
      )
      if (!abort.signal.aborted) setRead(key)
      // Without a connection the slot that every page has is there to write in.
    })().catch(() => {})
    return () => abort.abort()
    // The sources say all that a template is made of.
  }, [key]) // eslint-disable-line react-hooks/exhaustive-deps
  const { shown, values, isWhole } = known.get(key) ?? unread
  const hidden = textsOfPage(page)
    .filter(({ slot, hash }) => hash !== emptyHash && !shown.includes(slot))
    .map(({ slot }) => slot)
  return { shown, values, isWhole, hidden }
}
