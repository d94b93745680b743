/** What an expression such as `{page}` may name. */
export const valueNames = [
  'page',
  'title',
  'site',
  'description',
  'address',
  'language',
  'direction',
  'year',
  'date',
  'datetime',
  'feed',
] as const
/** Values of each language that a page is in: what says one stands once for each of them. */
export const translationValues = ['translation.language', 'translation.address'] as const
export type TranslationValue = (typeof translationValues)[number]
/** Values of a page that a part lists: what stands in a pattern says them. */
export const entryValues = [
  'entry.label',
  'entry.address',
  'entry.title',
  'entry.description',
  'entry.level',
  'entry.date',
  'entry.datetime',
] as const
export type EntryValue = (typeof entryValues)[number]
export type ValueName = (typeof valueNames)[number] | TranslationValue | EntryValue | SlotValue
/** What a page holds in a slot, as a value: plain text, which can stand in an attribute. */
export type SlotValue = `slot.${string}`

/** The slot whose text a value is. */
export const slotOfValue = (name: SlotValue): string => name.slice('slot.'.length)
/** What follows is letters of a slot's name: an expression has no others. */
export const isSlotValue = (name: string): name is SlotValue => name.startsWith('slot.')

/** An expression of a template (RFC 6570, level 1), its name by itself. */
export const expression = /\{([A-Za-z_][A-Za-z0-9_]*(?:\.[\w-]+)?)\}/g
export const isTranslationValue = (name: string): name is TranslationValue =>
  (translationValues as readonly string[]).includes(name)
export const isEntryValue = (name: string): name is EntryValue =>
  (entryValues as readonly string[]).includes(name)
