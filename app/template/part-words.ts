import { lookAttributes, marks, type PartKind, type WrittenPart } from '#core/template'

/** Attributes that say something otherwise; null takes one out. */
export type AttributeValues = Readonly<Record<string, string | null>>

/** Something of a part that can be chosen, or written where there are no options. */
export interface PartChoice {
  readonly name: string
  readonly words: string
  readonly value: string
  readonly options:
    readonly { readonly value: string; readonly words: string; readonly sets: AttributeValues }[] | null
}

/** What can be put into a template, and what each is for. */
export const kindWords: Readonly<Record<PartKind, { readonly words: string; readonly hint: string }>> = {
  menu: {
    words: 'A menu of the site',
    hint: 'What stands at the top of the plan; a second one goes to the foot, in one line',
  },
  section: { words: 'A menu of the section', hint: 'What is in the page’s part of the site' },
  trail: { words: 'The way to the page', hint: 'From the home page down to it' },
  below: { words: 'The pages below', hint: 'On a page with others below it, a list of those' },
  latest: {
    words: 'The newest pages',
    hint: 'What is new, of all sections whose pages are named with dates',
  },
  neighbours: { words: 'The pages before and after', hint: 'For what is read one after the other' },
  languages: { words: 'The page’s languages', hint: 'The same page in its other languages' },
}

/** What a part is in a sentence, and what screen readers call it. */
export function nameOfPart({ part, attributes }: WrittenPart): {
  readonly name: string
  readonly label: string
} {
  const names: Readonly<Record<string, string>> = {
    'site-menu':
      attributes.of === 'section'
        ? 'a menu of the section'
        : attributes.of === 'language'
          ? 'a menu of the language'
          : 'a menu of the site',
    'site-trail': 'the way to the page',
    'page-children': 'the pages below',
    'page-latest': attributes.of === 'section' ? 'the newest pages of the section' : 'the newest pages',
    'page-neighbours': 'the pages before and after',
    'page-languages': 'the page’s languages',
  }
  return { name: names[part.name] ?? part.name, label: attributes['aria-label'] ?? '' }
}

/** How each value of an attribute is said, as they are offered. */
const said: Readonly<
  Record<string, { readonly words: string; readonly values: readonly (readonly [string, string])[] }>
> = {
  of: {
    words: 'Lists',
    values: [
      ['site', 'the whole site'],
      ['section', 'the section that the page is in'],
      ['language', 'what is in the page’s language'],
    ],
  },
  count: {
    words: 'How many',
    values: [
      ['3', 'three'],
      ['5', 'five'],
      ['10', 'ten'],
      ['all', 'all of them'],
    ],
  },
  order: {
    words: 'In which order',
    values: [
      ['plan', 'as in the plan'],
      ['newest', 'the newest first'],
      ['date', 'by their dates'],
    ],
  },
  levels: {
    words: 'How deep',
    values: [
      ['1', 'one level'],
      ['2', 'two levels'],
      ['3', 'three levels'],
      ['all', 'all levels'],
    ],
  },
  home: {
    words: 'The home page',
    values: [
      ['omit', 'is left out'],
      ['first', 'comes first'],
    ],
  },
  own: {
    words: 'The page itself',
    values: [
      ['mark', 'is marked'],
      ['omit', 'is left out'],
    ],
  },
  dates: {
    words: 'Dates of pages',
    values: [
      ['hide', 'are left out'],
      ['show', 'stand before their links'],
    ],
  },
  descriptions: {
    words: 'Descriptions of pages',
    values: [
      ['hide', 'are left out'],
      ['show', 'stand below their links'],
    ],
  },
  labels: {
    words: 'Languages are called',
    values: [
      ['names', 'what they call themselves'],
      ['tags', 'by their tags'],
    ],
  },
  missing: {
    words: 'Where it is not in one',
    values: [
      ['omit', 'that is left out'],
      ['above', 'it leads to the page above'],
    ],
  },
}

/** What stands between the links of a line, as it is offered. */
const betweens = [' | ', ' · ', ' – ', ' / ', ' › ', '<br>']

const marked: Readonly<Record<string, string>> = { a: 'plain words' }

/** How a part looks: a list, or a line with something between its links. */
function lookOf({ attributes, part }: WrittenPart): PartChoice {
  const { between, as } = attributes
  const own = new Set([...part.attributes, ...lookAttributes].map(({ name }) => name))
  // What passes on to the element around a list has one to pass on to in a line as well.
  const passesOn = Object.keys(attributes).some((name) => !own.has(name))
  const inLine = { as: as !== undefined && as !== 'list' ? as : passesOn ? 'nav' : null }
  const offered = between === undefined || betweens.includes(between) ? betweens : [...betweens, between]
  return {
    name: 'between',
    words: 'Looks like',
    value: between === undefined ? 'list' : `line${between}`,
    options: [
      {
        value: 'list',
        words: 'a list',
        sets: { between: null, as: as === 'div' || as === 'list' ? as : null },
      },
      ...offered.map((text) => ({
        value: `line${text}`,
        words:
          text === '<br>'
            ? 'lines, one for each'
            : text.trim() === ''
              ? 'one line'
              : `one line, with ${text.trim()} between`,
        sets: { between: text, ...inLine },
      })),
    ],
  }
}

/** All that can be chosen of a part, in the order in which it is asked. */
export function choicesOf(written: WrittenPart): readonly PartChoice[] {
  const { part, attributes, isPattern } = written
  const choices = Object.entries(said).flatMap(([name, known]): PartChoice[] => {
    const offered = part.attributes.find((one) => one.name === name)?.values
    const usual = offered?.[0]
    if (!known || !offered || usual === undefined) return []
    // What stands beside links is written where the links are.
    if (isPattern && (name === 'descriptions' || name === 'dates')) return []
    // A section begins with a page of its own.
    const ofSection = name === 'home' && attributes.of === 'section'
    const value = attributes[name] ?? usual
    const ofPart = known.values.filter(([one]) => offered.includes(one))
    const values = ofPart.some(([one]) => one === value)
      ? ofPart
      : [...ofPart, [value, name === 'levels' ? `${value} levels` : value] as const]
    return [
      {
        name,
        words: ofSection ? 'The section’s first page' : known.words,
        value,
        options: values.map(([one, words]) => ({
          value: one,
          words,
          sets: { [name]: one === usual ? null : one },
        })),
      },
    ]
  })
  if (isPattern) return choices
  const isMarked =
    attributes.own !== 'omit' && part.name !== 'page-children' && part.name !== 'page-neighbours'
  const mark = attributes.mark ?? 'a'
  return [
    ...choices,
    ...(isMarked
      ? [
          {
            name: 'mark',
            words: 'It is marked by',
            value: mark,
            options: [...new Set([...marks, mark])].map((one) => ({
              value: one,
              words: marked[one] ?? `<${one}>`,
              sets: { mark: one === 'a' ? null : one },
            })),
          },
        ]
      : []),
    lookOf(written),
    // Links by themselves have no name.
    ...(attributes.between === undefined || attributes.as !== undefined
      ? [
          {
            name: 'aria-label',
            words: 'Screen readers call it',
            value: attributes['aria-label'] ?? '',
            options: null,
          },
        ]
      : []),
  ]
}
