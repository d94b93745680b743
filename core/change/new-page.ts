import type { PageDetails } from '#core/plan'

/** A line of a pasted outline on its way to becoming pages; its id is chosen by who makes the change. */
export interface NewPage {
  readonly id: string
  readonly label: string
  readonly trial?: boolean
  readonly inMenus?: boolean
  /** What it is in, where that is another language than that of its place. */
  readonly language?: string
  readonly details?: PlannedPage['details']
  readonly children?: readonly NewPage[]
}

/** A line of a plan that takes the place of the one there was: a page known by its id, or a new one. */
export interface PlannedPage {
  readonly id: string
  readonly label: string
  readonly trial: boolean
  readonly inMenus: boolean
  /** Only what is named is set. */
  readonly details?: PageDetails
  readonly children: readonly PlannedPage[]
}
