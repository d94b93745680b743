import type { Range } from '#core/markup'
import type { ReadPage } from '../reading/read-page'
import type { Edges } from './frame-marks'
import type { FoundPart } from './generated-of'
import type { OwnAttribute } from './own-attributes'
import type { SaidValue } from './said-values'

/** A stretch in which the pages of a group differ, or that their author made each page's own. */
export interface Gap {
  /** What holds it, for naming a slot. */
  readonly holder: string
  /** Whether it is in what the page says is its main part (HTML §4.4.16). */
  readonly isMain: boolean
  /** Where it stands in each page, in the order of the pages. */
  readonly ranges: readonly Range[]
  /** Where its edges can be moved to. */
  readonly edges: Edges
}

/** A generated part that stands in the place of an element; null in pages that do not have it. */
export interface PlacedPart {
  readonly part: FoundPart
  readonly ranges: readonly (Range | null)[]
}

/** Pages that are alike but for some stretches; the first of them is the model. */
export interface Group {
  readonly pages: readonly ReadPage[]
  readonly gaps: readonly Gap[]
  readonly parts: readonly PlacedPart[]
  /** What each says of itself by a value of its own. */
  readonly said: ReadonlyMap<string, SaidValue>
  /** Attributes of its frame that each has of its own. */
  readonly own: readonly OwnAttribute[]
}
