import type { Range } from './indent'
import type { LinePlace } from './lines'
import type { ElementNote } from './notes'
import type { OwnDocument } from './own-document'
import type { MarkupError } from './parse'
import type { Reference } from './reference'
import type { Run } from './runs'
import type { StyleFault } from './style-facts'
import type { TagFault } from './tags'

/** A stretch of source told to a reader: the beginning of it, where it is long. */
export interface Pieced {
  readonly piece: string
}

/** A link with what it says. */
export interface ReadLink extends PlacedRange {
  readonly href: string
  /** Its words; the first letters of many. */
  readonly words: string
  /** Whether it says that it leads to what is being read (WAI-ARIA 1.2, `aria-current`). */
  readonly isCurrent?: true
}

/** A picture with the size that is written for it, in CSS pixels. */
export interface ReadPicture extends PlacedRange {
  readonly src: string
  readonly width: number | null
  readonly height: number | null
}

export type PlacedReference = Reference & LinePlace
export type PlacedRange = Range & LinePlace

/** What one reading of a text yields. Depends on nothing but the text, so it may be kept by hash. */
export interface HtmlFacts {
  readonly references: readonly PlacedReference[]
  /** The first errors; a text that is no HTML at all has no end of them. */
  readonly errors: readonly MarkupError[]
  readonly errorCount: number
  /** Stretches of more than one line in which white space counts, sorted by where they start. */
  readonly fixed: readonly Range[]
  /** `base` elements that would lead every relative reference of the page elsewhere; the first one does (HTML §4.2.3). */
  readonly bases: readonly (PlacedRange & { readonly href: string })[]
  /** Values of `id`, in order, repeated ones too. */
  readonly ids: readonly string[]
  /** Values of `name` of its `a` elements, which links can lead to where no `id` says the same (HTML §7.4.6.4). */
  readonly anchors: readonly string[]
  readonly headings: readonly Heading[]
  /** Tags that do not match, in order. */
  readonly tags: readonly (TagFault & LinePlace & Pieced)[]
  /** What there is to say of its elements, in order; of very many, the first ones. */
  readonly notes: readonly (ElementNote & LinePlace & Pieced)[]
  /** Text straight in it that only blank lines part; of very much, the first. */
  readonly runs: readonly (Run & LinePlace & Pieced)[]
  /** What browsers pass over in its `style` elements and attributes; of very much, the first. */
  readonly styleFaults: readonly (StyleFault & LinePlace & Pieced)[]
  /** Where it is a document of its own, and no piece of one. */
  readonly document?: OwnDocument & LinePlace & Pieced
  /** The first of its links, in order. */
  readonly links: readonly ReadLink[]
  /** The first of its pictures, in order. */
  readonly pictures: readonly ReadPicture[]
  /** UTF-16 code units of it. */
  readonly size: number
  /** Words that are shown. */
  readonly wordCount: number
  /** Equal for texts of the same words, those of pictures among them, whatever tags and spaces part them; '' for none. */
  readonly said: string
  /** The language that it is in by its words, where that is clear (`languageOfText`); what says its own aside. */
  readonly language?: string
  /** Whether it asks search engines not to list it (HTML §4.2.5.1). */
  readonly isUnlisted?: true
  /** What it says of its page as a whole, as a head does. */
  readonly says?: readonly SaidOfPage[]
}

/** What is said once for a page, in its head (HTML §4.2.2, §4.2.5.4; CSS Viewport §3). */
export type SaidOfPage = 'charset' | 'viewport' | 'title'

/** A heading, `h1` to `h6`, as a whole element. */
export interface Heading extends PlacedRange {
  readonly level: number
  /** What it says, its white space as it is shown; the first letters of a long one. */
  readonly text: string
  /** What a link leads to it by: its `id`, or else the `name` of an `a` in it or right before it (HTML §7.4.6.4). */
  readonly id: string | null
  /** Where an `id` can be written into its start tag. */
  readonly idAt: number
  /** Where its end tag's name begins; null without one. */
  readonly endNameAt: number | null
}
