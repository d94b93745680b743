import type { Winning } from './cascade'
import { type Customs, substituted, type Substituted } from './custom'

/** Asks what a property of an element says, its variables put in; null for nothing. `of` is the property that was written. */
export type SaidOf = (property: string) => (Substituted & { readonly of: string }) | null

export const saidBy =
  (winning: Winning, customs: Customs): SaidOf =>
  (property) => {
    const declared = winning.get(property)
    const said = declared && substituted(declared, customs)
    return said ? { ...said, of: declared.property } : null
  }

/** Custom properties of an element: what is around it has, and its own. */
export function customsOf(winning: Winning, around: Customs): Customs {
  const own = [...winning].filter(([property]) => property.startsWith('--'))
  return own.length === 0
    ? around
    : new Map([...around, ...own.map(([name, { value, at }]) => [name, { value, at }] as const)])
}

/** A value as it is compared: in small letters. */
export const wordOf = (said: SaidOf, property: string): string | null =>
  said(property)?.value.trim().toLowerCase() ?? null
