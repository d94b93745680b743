import { type Hash, mainSlot } from '#core/site'
import type { PageTextField } from '../page/set-page-text'
import type { SettingField } from '../skeleton/set-setting'

/** A text of a site, by what holds it. */
export interface OwnedText {
  readonly kind: 'page' | 'template' | 'file'
  readonly id: string
  /** Of a page; the first one where it is missing. */
  readonly slot?: string
  readonly was: Hash
}

/** What is said of a page in the plan, as it was seen. */
export interface SaidOfPage {
  readonly kind: 'page'
  readonly id: string
  readonly field: Extract<PageTextField, 'label' | 'title' | 'description'>
  readonly was: string
}

/** What is said once for all pages, as it was seen. */
export interface SaidOfSite {
  readonly kind: 'site'
  readonly field: Extract<SettingField, 'name' | 'titlePattern' | 'homeTitlePattern'>
  readonly was: string
}

/** Where words stand: in a text of the site, or in what is said of a page or of the site. */
export type WordsOwner = OwnedText | SaidOfPage | SaidOfSite

export const fieldsOfPage = ['label', 'title', 'description'] as const satisfies SaidOfPage['field'][]
export const fieldsOfSite = [
  'name',
  'titlePattern',
  'homeTitlePattern',
] as const satisfies SaidOfSite['field'][]

export const isSaid = (owner: WordsOwner): owner is SaidOfPage | SaidOfSite => 'field' in owner

/** Tells whose text it is, whatever that says. */
export const ownerKey = (owner: WordsOwner): string =>
  owner.kind === 'site'
    ? `site ${owner.field}`
    : isSaid(owner)
      ? `said ${owner.id} ${owner.field}`
      : `${owner.kind} ${owner.id} ${owner.slot ?? mainSlot}`
