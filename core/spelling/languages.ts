/** Dictionaries that ship, by what they are called here, and whether their language makes words of words without a gap. */
const dictionaries = {
  'en-GB': { joins: false },
  'en-US': { joins: false },
  da: { joins: true },
  de: { joins: true },
  es: { joins: false },
  fr: { joins: false },
  nl: { joins: true },
  pl: { joins: false },
  'pt-PT': { joins: false },
} as const

export type DictionaryName = keyof typeof dictionaries

export const dictionaryNames = Object.keys(dictionaries) as readonly DictionaryName[]

/** Whether words are made of several without a gap, as the `Leuchtturmwärter` is. */
export const joinsWords = (name: DictionaryName): boolean => dictionaries[name].joins

/** Languages with dictionaries of their own for some of their countries. */
const byCountry: Readonly<Record<string, Readonly<Record<string, readonly DictionaryName[]>>>> = {
  en: {
    GB: ['en-GB'], IE: ['en-GB'], AU: ['en-GB'], NZ: ['en-GB'], ZA: ['en-GB'], IN: ['en-GB'],
    US: ['en-US'],
    // Nothing said, or one that writes some words in the one way and some in the other: what either knows is right.
    '': ['en-GB', 'en-US'],
  },
  pt: { PT: ['pt-PT'], AO: ['pt-PT'], MZ: ['pt-PT'], '': [] },
} // prettier-ignore

/**
 * Dictionaries of a language, each of whose words is right in it; none where there is no dictionary of it.
 * @param tag of BCP 47
 */
export function dictionariesFor(tag: string): readonly DictionaryName[] {
  if (!known.has(tag)) {
    if (known.size > mostTags) known.clear()
    known.set(tag, lookUp(tag))
  }
  return known.get(tag)!
}

/** Words that stand twice in a row in sentences that are right: `that he had had`, `die, die die Insel kennen`. */
const twice: Readonly<Record<string, string>> = {
  da: 'der den det de',
  de: 'der die das den dem sie',
  en: 'had that her bye',
  fr: 'nous vous',
  nl: 'die dat het de',
}
const anywhere = ' ha hi ho la so '

/** Whether a word may stand twice in a row in a language, a tag of BCP 47. */
export const standsTwice = (tag: string, word: string): boolean =>
  `${anywhere}${twice[tag.slice(0, 2).toLowerCase()] ?? ''} `.includes(` ${word} `)

const known = new Map<string, readonly DictionaryName[]>()
const mostTags = 200

function lookUp(tag: string): readonly DictionaryName[] {
  let locale: Intl.Locale
  try {
    locale = new Intl.Locale(tag)
  } catch {
    return []
  }
  const { language, region = '', script = 'Latn' } = locale
  if (script !== 'Latn') return []
  const countries = Object.hasOwn(byCountry, language) ? byCountry[language]! : null
  if (countries) return countries[region] ?? countries['']!
  return dictionaryNames.filter((name) => name === language)
}
