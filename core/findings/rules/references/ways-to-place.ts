import { isSlip, referenceLike } from '#core/links'
import { escapeAttribute, placeId, type PlacedReference, writeReference } from '#core/markup'
import { likeness } from '#core/plan'
import { type Hash, mainSlot, type Page, textsOfPage } from '#core/site'
import type { FindingContext, Mend } from '../../rule'

/** The places of pages, however they are named. */
export interface PagePlaces {
  /** Those in the texts of a page. */
  readonly inTextsOf: (page: Page) => ReadonlySet<string>
  /** Whether a page has one, in its texts or by its template. */
  readonly has: (page: Page, place: string) => boolean
}

/** A link to a place that is not where it leads. */
interface LostLink {
  readonly page: Page
  /** The text it stands in. */
  readonly hash: Hash
  readonly reference: PlacedReference
  readonly to: Page
  readonly place: string
}

/** What may have been meant instead. */
interface Meant {
  readonly to: Page
  readonly place: string
  readonly isSure: boolean
}

/** A heading without a name, and where one can be written into its start tag. */
interface Unnamed {
  readonly slot: string
  readonly hash: Hash
  readonly idAt: number
}

/** Less alike, it is a guess that helps nobody. */
const alikeEnough = 0.6
/** Places compared letter by letter for all links of a site together: of more, only equal spellings are found. */
const mostCompared = 50_000
/** Ways to lead a link elsewhere. */
const mostWays = 3

/**
 * Finds what links to lost places may have been meant to lead to: a place of the page that is spelled otherwise, one of its
 * headings that has no name yet, or a place of that name in another page. Work is bounded for all of them together.
 */
export function waysToPlace(context: FindingContext, { inTextsOf }: PagePlaces): (lost: LostLink) => Mend[] {
  const { pages, names, factsOf } = context
  const known = new Map<string, { readonly meant: readonly Meant[]; readonly named: readonly Mend[] }>()
  const unnamed = new Map<Page, Map<string, Unnamed | null>>()
  let left = mostCompared
  let everywhere: Map<string, Page | null> | null = null

  /** The one page of the site that has a place of a name; null where there are several. */
  const onlyPageWith = (place: string): Page | null => {
    if (!everywhere) {
      everywhere = new Map()
      for (const page of pages)
        for (const one of inTextsOf(page)) everywhere.set(one, everywhere.has(one) ? null : page)
    }
    return everywhere.get(place) ?? null
  }

  const meantBy = (to: Page, place: string): Meant[] => {
    const there = [...inTextsOf(to)]
    const lower = place.toLowerCase()
    const spelled = there.filter((one) => one.toLowerCase() === lower)
    if (spelled.length > 0) return spelled.map((one) => ({ to, place: one, isSure: spelled.length === 1 }))
    if (there.length > left) return []
    left -= there.length
    const alike = there
      .map((one) => ({ one, isNear: isSlip(one, place), by: likeness(one, place) }))
      .filter(({ isNear, by }) => isNear || by > alikeEnough)
      .sort((a, b) => Number(b.isNear) - Number(a.isNear) || b.by - a.by)
    const isClear = alike.filter(({ isNear }) => isNear).length === 1
    return alike.slice(0, mostWays).map(({ one, isNear }) => ({ to, place: one, isSure: isClear && isNear }))
  }

  /** Headings of a page without a name, by the one that their words make; null where two make the same. */
  const unnamedOf = (to: Page): ReadonlyMap<string, Unnamed | null> => {
    let found = unnamed.get(to)
    if (!found) {
      unnamed.set(to, (found = new Map()))
      for (const { slot, hash } of textsOfPage(to))
        for (const { id, text, idAt } of factsOf(hash).headings) {
          const called = placeId(text, [])
          if (id === null) found.set(called, found.has(called) ? null : { slot, hash, idAt })
        }
    }
    return found
  }

  /** The heading that says what a place is called by, and has no name yet: it gets it. */
  const naming = (to: Page, place: string): Mend[] => {
    const heading = /\s/.test(place) ? null : unnamedOf(to).get(placeId(place, []))
    if (!heading) return []
    const { slot, hash, idAt } = heading
    return [
      {
        words: `Call its heading ${place}`,
        edits: [{ start: idAt, end: idAt, text: ` id="${escapeAttribute(place)}"` }],
        was: hash,
        in: { kind: 'page', id: to.id, ...(slot !== mainSlot && { slot }) },
      },
    ]
  }

  return ({ page, hash, reference, to, place }) => {
    const key = `${to.id} ${place}`
    let ways = known.get(key)
    if (!ways) {
      const named = naming(to, place)
      const meant = named.length > 0 ? [] : meantBy(to, place)
      const moved = named.length === 0 && meant.length === 0 ? onlyPageWith(place) : null
      ways = { named, meant: moved ? [{ to: moved, place, isSure: false }] : meant }
      known.set(key, ways)
    }
    const from = names.pages.get(page.id)!.path
    return [
      ...ways.named,
      ...ways.meant.map(({ to: other, place: meant, isSure }): Mend => {
        const suffix = `#${encodeURIComponent(meant)}`
        const path = names.pages.get(other.id)!.path
        const href = other === page ? '' : referenceLike(reference.href, from, path, names)
        const words = `Lead it to ${other === to ? '' : path}#${meant}`
        const edits = [
          { start: reference.start, end: reference.end, text: writeReference(reference, href + suffix) },
        ]
        return { words, edits, was: hash, ...(!isSure && { isOther: true }) }
      }),
    ]
  }
}
