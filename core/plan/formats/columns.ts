import { tableOf } from '#core/site'

/** The columns of a plan in CSV, as it is written. */
export const columns = [
  'level',
  'label',
  'trial',
  'in menus',
  'own name',
  'title',
  'description',
  'language',
  'dated',
  'date',
] as const
/** Those that are written where a page says something in them. */
export const rareColumns: readonly string[] = [
  'language',
  'dated',
  'date',
] satisfies (typeof columns)[number][]
/** What a column of a table is read as; the last four tell where a page stands, as its level does. */
export type Column = (typeof columns)[number] | 'parent' | 'id' | 'number' | 'address'

/** What the columns are called in spreadsheets of others. */
const alsoCalled: Readonly<Record<string, Column>> = tableOf({
  page: 'label',
  pages: 'label',
  'page name': 'label',
  name: 'label',
  'menu entry': 'label',
  'menu label': 'label',
  depth: 'level',
  'page title': 'title',
  'meta description': 'description',
  summary: 'description',
  lang: 'language',
  published: 'date',
  'publication date': 'date',
  'date published': 'date',
  slug: 'own name',
  'in menu': 'in menus',
  'in menu?': 'in menus',
  'in the menu': 'in menus',
  'show in menu': 'in menus',
  'in navigation': 'in menus',
  under: 'parent',
  'parent page': 'parent',
  'parent id': 'parent',
  'page id': 'id',
  no: 'number',
  'no.': 'number',
  nr: 'number',
  'nr.': 'number',
  '#': 'number',
  url: 'address',
  uri: 'address',
  path: 'address',
  'page url': 'address',
})

/** Whether a column says by its name what pages are called, or how deep they stand. */
export function saysLabelOrLevel(cell: string): boolean {
  const name = cell.trim().toLowerCase()
  return /^(label|level)$/.test(alsoCalled[name] ?? name)
}

/** The columns of a header as they are called here, by place; two of one kind are not taken for one. */
export function headerOf(cells: readonly string[]): readonly string[] {
  const given = cells.map((cell) => cell.trim().toLowerCase())
  const header = given.map((name) => {
    const meant = alsoCalled[name]
    return meant !== undefined &&
      !given.includes(meant) &&
      given.find((one) => alsoCalled[one] === meant) === name
      ? meant
      : name
  })
  // Where nothing says what a page is called, its title does.
  if (header.includes('label')) return header
  return header.map((name) => (name === 'title' ? 'label' : name))
}

/** `Level 1`, `L2`, `Ebene 3`: a word and how deep what stands below it is. */
const numbered = /^(\p{L}[\p{L} ]{0,19}?)[\s_.-]?(\d)$/u
const group = /^(?:(?:main|top)[\s-])?(?:section|category|group|chapter|area|topic)(?: name)?$/
const menu = /^(?:(?:main|top)[\s-])?(?:menu|navigation|page)s?$/
const below =
  /^(?:sub[\s-]?)+(?:section|categor(?:y|ie)|group|chapter|area|topic|menu|navigation|page|item)s?$/

/**
 * Columns that are one level each, the first the top one: `Level 1` and `Level 2`, `Section` and `Page`, `Menu` and `Submenu`.
 * @param header as `headerOf` gives it
 */
export function levelColumns(header: readonly string[], cells: readonly string[]): readonly number[] {
  const given = cells.map((cell) => cell.trim().toLowerCase())
  const counted = given.flatMap((name, at) => {
    const [, word, number] = numbered.exec(name) ?? []
    return word === undefined ? [] : [{ at, word, number: Number(number) }]
  })
  const [first] = counted
  const isCounted =
    counted.length > 1 &&
    first!.number <= 1 &&
    counted.every(({ word, number }, index) => word === first!.word && number === first!.number + index)
  if (isCounted && !header.includes('label')) return counted.map(({ at }) => at)
  const isBelow = given.some((name) => below.test(name))
  const found = given.flatMap((name, at) =>
    group.test(name) || below.test(name) || header[at] === 'label' || (isBelow && menu.test(name))
      ? [at]
      : [],
  )
  return found.length > 1 ? found : []
}

/** How deep an outline number says that something stands: `2`, `2.1`, `2.1.3.`; zeros at its end count for nothing (`2.0`). Null for none. */
export function outlineDepth(cell: string): number | null {
  if (!/^\d{1,4}(?:\.\d{1,4}){0,99}\.?$/.test(cell)) return null
  const parts = cell.split('.').filter((part) => part !== '')
  while (parts.length > 1 && /^0+$/.test(parts.at(-1)!)) parts.pop()
  return parts.length
}
