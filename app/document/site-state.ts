import type { ChangeRequest } from '#core/change'
import type { Role, Site } from '#core/site'
import type { RippleView } from '#server/sites'

/** How the window stands with the server. */
export type SaveState =
  | { readonly kind: 'saved'; readonly at: string | null }
  | { readonly kind: 'saving' }
  /** A line is being typed; it is saved when it is left. */
  | { readonly kind: 'typing' }
  /** A text that was not taken is kept here until its author decides. */
  | { readonly kind: 'undecided' }
  /** The server does not answer; what is waiting is kept and sent when it does. */
  | { readonly kind: 'offline'; readonly waiting: number; readonly reason: string | null }

/** A change the server refused, with what was typed, so that nothing is lost. */
export interface RefusedChange {
  readonly change: ChangeRequest | null
  readonly code: string
  readonly message: string
  /** What the field holds now, when somebody else changed it. */
  readonly now: string | null
}

/** A change whose ripple is shown before it is made. */
export interface AskedChange {
  /** Tells one question from the next. */
  readonly id: number
  readonly change: ChangeRequest
  /** What it is made together with. */
  readonly actId?: string
  /** What it would touch, where the server has told already. */
  readonly ripple: RippleView | null
  /** True when the window shows it as if it were made: the server asked after the fact. */
  readonly isShown: boolean
}

/** What the window shows: the site with its own waiting changes on top. */
export interface SiteState {
  /** What its author is to the site. */
  readonly role: Role
  readonly site: Site
  readonly revision: number
  /** For which what the server tells is asked for: the same, but for a stream of revisions (see `Lull`). */
  readonly settled: number
  readonly undo: string | null
  readonly redo: string | null
  readonly save: SaveState
  readonly refused: RefusedChange | null
  /** The change that is being asked about; further ones wait behind it. */
  readonly asked: AskedChange | null
  /** What the latest change made here touched beside itself, until the next one. */
  readonly ripple: RippleView | null
}
