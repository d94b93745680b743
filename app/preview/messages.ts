import type { ElementPlace } from '#core/build'

/** What the sandboxed page tells of itself. */
export interface Report {
  readonly path: string
  readonly title: string
  /** Of the site that it was made of. */
  readonly revision: number
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

/** The path of the page that was asked for at an address that has run out. */
interface Expired {
  readonly expired: string
}

/** Where a link leads that leaves the site: to another one, or to a mail address or a telephone. */
interface Outside {
  readonly outside: string
}

/** Where a form would be sent; from the top of the site where that is in it. */
interface Form {
  readonly form: string
}

/** It loads again, as it was asked to. */
interface Reloads {
  readonly reloads: true
}

/** What leaves what is shown. */
export type Leaving = Outside | Form

/** Addresses that are told of as they are; a longer one is none that anybody wrote. */
const longestAddress = 2_000

export function readPreviewMessage(data: unknown): Report | ChosenPlace | Expired | Leaving | Reloads | null {
  const told = (
    data as { rubricantPreview?: Partial<Report & ChosenPlace & Expired & Outside & Form & Reloads> } | null
  )?.rubricantPreview
  if (typeof told?.expired === 'string') return { expired: told.expired }
  if (told?.reloads === true) return { reloads: true }
  if (typeof told?.outside === 'string')
    return /^(https?|mailto|tel):/i.test(told.outside) && told.outside.length <= longestAddress
      ? { outside: told.outside }
      : null
  if (typeof told?.form === 'string') return { form: told.form.slice(0, longestAddress) }
  const { place } = told ?? {}
  if (place) {
    if (typeof told?.path !== 'string' || typeof place.tag !== 'string' || !Number.isInteger(place.nth))
      return null
    const quote = typeof place.quote === 'string' ? place.quote.slice(0, 120) : ''
    return { path: told.path, place: { tag: place.tag, nth: place.nth, quote } }
  }
  return typeof told?.path === 'string' && typeof told.title === 'string' && Number.isInteger(told.revision)
    ? { path: told.path, title: told.title, revision: told.revision! }
    : null
}
