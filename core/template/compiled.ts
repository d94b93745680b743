import type { HtmlFacts, PlacedRange, PlacedReference } from '#core/markup'
import type { PlannedReference } from './output-reference'
import type { Attributes, GeneratedPart } from './parts'
import type { Unknown } from './unknown'
import type { SlotValue, TranslationValue, ValueName } from './value-names'

/** Where a part stands in its line: what is needed to drop or indent it as a person would. */
export interface Placement {
  /** White space in front of the line the part starts on. */
  readonly indent: string
  /** True when nothing else stands on its lines; an empty result then takes the line away. */
  readonly alone: boolean
}

/** Where a value stands: what it has to be escaped for. */
export type ValueSyntax = 'text' | 'double-quoted' | 'single-quoted' | 'url'

/** A part, and where in the source it stands. */
export type Part = { readonly at: number } & Content

export type Content =
  | { readonly kind: 'text'; readonly text: string }
  | ({ readonly kind: 'nothing' } & Placement)
  | { readonly kind: 'value'; readonly name: ValueName; readonly syntax: ValueSyntax }
  /** `text` is how it is written. */
  | { readonly kind: 'reference'; readonly planned: PlannedReference; readonly text: string }
  | ({ readonly kind: 'slot'; readonly name: string; readonly fallback: readonly Part[] } & Placement)
  | ({
      readonly kind: 'generated'
      readonly part: GeneratedPart
      readonly attributes: Attributes
      /** How its entries are written, where its author says so; else null. */
      readonly pattern: Pattern | null
      /** What is true of the whole template that it stands in. */
      readonly within: { readonly listsLanguages: boolean }
    } & Placement)
  /** A `meta` or `link` that is left out when all its expressions come out empty. */
  | ({
      readonly kind: 'optional'
      readonly needs: readonly ValueName[]
      readonly parts: readonly Part[]
    } & Placement)
  /** A `meta` or `link` that stands once for each language that the page is in, where it is in several. */
  | ({
      readonly kind: 'each'
      readonly needs: readonly TranslationValue[]
      readonly parts: readonly Part[]
    } & Placement)
  /** An attribute that is left out where the slot whose text it says is empty. */
  | { readonly kind: 'attribute'; readonly name: SlotValue; readonly parts: readonly Part[] }

/** How a part's entries are written, one after the other. */
export interface Pattern {
  readonly each: readonly Part[]
  /** Of the page itself, of those above it, and between every two; null where that is not said. */
  readonly own: readonly Part[] | null
  readonly above: readonly Part[] | null
  readonly between: readonly Part[] | null
  /** What stands around them all, where there are any. */
  readonly before: readonly Part[]
  readonly after: readonly Part[]
  /** White space in front of the first of them, and of the others. */
  readonly first: string
  readonly joint: string
  /** What it is made of: equal ones write the same. */
  readonly source: string
  /** Whether it says nothing of the page that it stands on, but for which of its entries that is. */
  readonly isOfEntries: boolean
  /** Whether what pages say of themselves, or their titles, may stand in it. */
  readonly describes: boolean
  /** Whether the dates of pages may stand in it. */
  readonly dates: boolean
}

/** A slot, and where its element begins. */
export interface PlacedSlot extends PlacedRange {
  readonly name: string
  /** Whether what a page holds there is taken as plain text. */
  readonly isValue?: true
}

/** A template ready to be filled, any number of times. */
export interface CompiledTemplate {
  readonly parts: readonly Part[]
  readonly references: readonly PlacedReference[]
  readonly unknown: readonly Unknown[]
  /** Its slots, in order. */
  readonly slots: readonly PlacedSlot[]
  /** What stands beside its `<template slot="…">` elements: nothing of it comes out where it fills slots. */
  readonly outside: readonly PlacedRange[]
  /** What reading its source yields besides. */
  readonly facts: HtmlFacts
  /** One level of its indentation. */
  readonly unit: string
  readonly generated: readonly Extract<Part, { kind: 'generated' }>[]
  /** Whether it leads to other languages: what else leads on then keeps to the page's own. */
  readonly listsLanguages: boolean
  /** Bytes of it, about, that stand once for each language that a page is in. */
  readonly perLanguage: number
}
