import { type Arrangement, heightFor, roomy, type ShownPicture, widthFor } from '#core/pictures'

/** What is said of all pictures that are put into a text at once. */
export interface Together {
  readonly arrangement: Arrangement
  /** CSS pixels: how wide each is at the most where they stand below one another, how high where they stand side by side. */
  readonly size: number
  readonly leadToFull: boolean
}

/** How pictures stand unless their author says otherwise. */
export const usualTogether: Readonly<Record<Arrangement, Together>> = {
  below: { arrangement: 'below', size: roomy, leadToFull: false },
  // Small ones of one height make even rows, and show all there is to see when they are followed.
  beside: { arrangement: 'beside', size: 240, leadToFull: true },
}

type Size = NonNullable<ShownPicture['natural']>

/** The width of a picture among the others, in CSS pixels: never more than it has. */
export const widthAmong = (natural: Size, { arrangement, size }: Together): number =>
  Math.min(
    natural.width,
    arrangement === 'below' ? size : widthFor(natural, Math.min(size, heightFor(natural, natural.width))),
  )
