import type { ElementPlace } from '#core/build'

/** What the sandboxed page tells of itself. */
export interface Report {
  readonly path: string
  readonly title: string
}

/** A place of a page, and how what it says begins. */
export interface QuotedPlace extends ElementPlace {
  readonly quote: string
}

/** A place of the page that was chosen in it. */
interface ChosenPlace {
  readonly path: string
  readonly place: QuotedPlace
}

/** A report, a chosen place, or the path of the page that was asked for at an address that has run out. */
export function readPreviewMessage(
  data: unknown,
): Report | ChosenPlace | { readonly expired: string } | null {
  const told = (data as { rubricantPreview?: Partial<Report & ChosenPlace & { expired: string }> } | null)
    ?.rubricantPreview
  if (typeof told?.expired === 'string') return { expired: told.expired }
  const { place } = told ?? {}
  if (place) {
    if (typeof told?.path !== 'string' || typeof place.tag !== 'string' || !Number.isInteger(place.nth))
      return null
    const quote = typeof place.quote === 'string' ? place.quote.slice(0, 120) : ''
    return { path: told.path, place: { tag: place.tag, nth: place.nth, quote } }
  }
  return typeof told?.path === 'string' && typeof told.title === 'string'
    ? { path: told.path, title: told.title }
    : null
}
