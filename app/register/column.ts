import type { ReactNode } from 'react'
import type { Place } from '#core/plan'

/** A column beside the label; what it shows depends on the view. */
export interface RegisterColumn {
  readonly title: string
  /** A CSS grid track. */
  readonly width: string
  readonly cell: (place: Place) => ReactNode
}
