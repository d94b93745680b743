import type { Right, Site } from '#core/site'
import type { ChangeKind, Question } from './kind'
import { type Change, type ChangeRequest, kinds } from './kinds'
import type { MovedPlaces } from './moved-places'
import type { ToldOfTexts } from './rewrites'

// A kind is looked up by the name that a change carries, so the two fit.
const kindOf = (change: { readonly kind: keyof typeof kinds }) =>
  kinds[change.kind] as unknown as ChangeKind<unknown>

/** What undo would take back, for the history. */
export const titleOf = (change: Change, before: Site): string => kindOf(change).title(change, before)

/** What a window shows of a request before the server has answered; null where it has to wait. */
export function shownOf(request: ChangeRequest): Change | null {
  const { shown } = kindOf(request)
  return (shown ? shown(request) : request) as Change | null
}

/** What is asked about a change before it is made, and whether menus follow it. */
export function questionOf(request: ChangeRequest, before: Site): Question & { readonly inMenus: boolean } {
  const { question, inMenus = false } = kindOf(request)
  const asked = question?.(request, before) ?? {
    name: 'Change',
    what: 'This change touches other pages',
    go: 'Make it',
    leave: 'Leave it',
  }
  return { ...asked, inMenus: typeof inMenus === 'function' ? inMenus(request) : inMenus }
}

/** What a change tells of the texts that it touches. */
export function toldOfTexts(change: Change, before: Site): ToldOfTexts {
  const { copies, leads, places, written } = kindOf(change)
  return {
    copies: copies?.(change),
    leads: leads?.(change, before),
    places: places?.(change),
    written: written?.(change),
  }
}

/** Places that stand in another page after a change. */
export const placesOf = (change: Change): readonly MovedPlaces[] => kindOf(change).places?.(change) ?? []

/** What somebody needs to be allowed to make a change. */
export function rightFor(change: Change | ChangeRequest, before: Site): Right {
  const { manages = false } = kindOf(change)
  return (typeof manages === 'function' ? manages(change, before) : manages) ? 'manage' : 'write'
}

/** Whether a change is made as it is typed, and what it touches shown after. */
export const isTyped = (change: Change): boolean => kindOf(change).isTyped ?? false
