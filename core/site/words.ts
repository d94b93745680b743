/** A number with its noun, as a person says it: `1 page`, `2,000 pages`. */
export const count = (number: number, one: string, many = `${one}s`): string =>
  `${number.toLocaleString('en')} ${number === 1 ? one : many}`

/** The word for one or for several: `pick(pages.length, 'goes', 'go')`. */
export const pick = (number: number, one: string, many: string): string => (number === 1 ? one : many)
