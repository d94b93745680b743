import { realPlaces, treeOf } from '#core/plan'
import { placesIn } from '#core/markup'
import { contentsOfPages, type Hash, type Site, textsOfPage } from '#core/site'
import { loadFacts } from '#server/contents'
import { pool } from '#server/platform'

/** A place in a page that a link can lead to: one of its headings. */
export interface FoundPlace {
  readonly pageId: string
  readonly slot: string
  /** The text the heading stands in. */
  readonly hash: Hash
  readonly text: string
  readonly level: number
  readonly id: string | null
  /** Where an `id` can be written into its start tag, and the ids that its page has already. */
  readonly idAt: number
  readonly taken: readonly string[]
}

/** As many as are looked through; of more, a further letter leaves fewer. */
const mostPlaces = 40

/** Headings of the site that have some letters in them, in reading order. */
export async function findPlaces(site: Site, typed: string): Promise<FoundPlace[]> {
  const wanted = typed.trim().toLowerCase()
  if (wanted === '') return []
  const pages = realPlaces(treeOf(site)).map(({ page }) => page)
  const factsOf = await loadFacts(pool(), contentsOfPages(pages))
  const found: FoundPlace[] = []
  for (const page of pages)
    for (const { slot, hash } of textsOfPage(page))
      for (const { text, level, id, idAt } of factsOf(hash).headings) {
        if (!text.toLowerCase().includes(wanted)) continue
        const taken = id === null ? textsOfPage(page).flatMap((one) => placesIn(factsOf(one.hash))) : []
        found.push({ pageId: page.id, slot, hash, text, level, id, idAt, taken })
        if (found.length >= mostPlaces) return found
      }
  return found
}
