import { frequentWords, usualLabels } from './frequent-words'

/** Scripts that are written in one language almost always, by what they are tested by. */
const byScript: readonly (readonly [language: string, letters: RegExp])[] = [
  ['ja', /[\p{Script=Hiragana}\p{Script=Katakana}]/u],
  ['ko', /\p{Script=Hangul}/u],
  ['el', /\p{Script=Greek}/u],
  ['he', /\p{Script=Hebrew}/u],
  ['th', /\p{Script=Thai}/u],
  ['ka', /\p{Script=Georgian}/u],
  ['hy', /\p{Script=Armenian}/u],
  ['zh', /\p{Script=Han}/u],
]

/** Letters of Arabic script that Arabic has not, and another language has. */
const otherArabic = /[پچژگٹڈڑںےۓہھکیۆێەڵڕټډښړ]/u

/** Letters of a language that others in its script have not, for what is too short for words to tell. */
const byLetters: readonly (readonly [language: string, letters: RegExp])[] = [
  ['uk', /[іїєґ]/u],
  ['ru', /[ыэъё]/u],
]

/** Words that are looked at. */
const mostWords = 2_000
/** With fewer, chance tells as much as they do. */
const leastWords = 30
/** What frequent words have to make up of a text: they do a third in their own language, and a tenth in one beside it. */
const leastShare = 0.18
/** How many times as many as of any other language, for those that are close. */
const clearly = 1.25

/** What frequent words of another language, that are none of this one, may make up. */
const mostOther = 0.1

/** The languages that each frequent word is one of. */
const languagesOf = new Map<string, string[]>()
for (const [language, words] of Object.entries(frequentWords))
  for (const word of words!.split(' ')) languagesOf.set(word, [...(languagesOf.get(word) ?? []), language])

function countByLanguage(words: readonly string[]): ReadonlyMap<string, number> {
  const counts = new Map<string, number>()
  for (const word of words)
    for (const language of languagesOf.get(word) ?? []) counts.set(language, (counts.get(language) ?? 0) + 1)
  return counts
}

/** A letter of none of the scripts that many languages are written in. */
const ofOne = /[^\p{Script=Latin}\p{Script=Cyrillic}\P{L}]/u
/** Letters that a script is told by. */
const mostLetters = 400

/** By the script that most of its letters are in, where that is one language's; null otherwise. */
function toldByScript(text: string): string | null {
  // Nearly always there is none, and all else is saved.
  if (!ofOne.test(text)) return null
  const all = text.match(/\p{L}/gu) ?? []
  // From all of it: a text may begin with a motto in another script.
  const step = Math.ceil(all.length / mostLetters)
  const letters = all.filter((_, at) => at % step === 0)
  const most = letters.length / 2
  const share = (of: RegExp) => letters.filter((letter) => of.test(letter)).length
  // Chinese characters are most of Japanese, too.
  if (share(/[\p{Script=Hiragana}\p{Script=Katakana}]/u) > letters.length / 10) return 'ja'
  for (const [language, of] of byScript) if (share(of) > most) return language
  if (share(/\p{Script=Arabic}/u) <= most) return null
  // Persian writes two letters of its own in nearly every sentence.
  return share(otherArabic) * 40 > letters.length ? null : 'ar'
}

/**
 * The language that a text is in, by the script or by the words that are most frequent in any text; said only where it is clear. A
 * statistical model would tell more languages and be as sure of a list of names: what is said of a page has to be right.
 * @returns a primary language subtag (BCP 47); null where it is not clear, or too short to tell
 */
export function languageOfText(text: string): string | null {
  const words =
    text
      .normalize('NFC')
      .toLowerCase()
      .match(/[\p{L}\p{M}]+/gu)
      ?.slice(0, mostWords) ?? []
  if (words.length < leastWords) {
    const script = toldByScript(text)
    return script && text.length >= leastWords ? script : null
  }
  const script = toldByScript(text)
  if (script) return script
  const [first, second] = [...countByLanguage(words)].sort((a, b) => b[1] - a[1])
  if (!first || first[1] < words.length * leastShare) return null
  if (second && first[1] < clearly * second[1]) return null
  // Two languages beside one another, each in a part of the text.
  if (ofOne.test(text) && words.filter((word) => ofOne.test(word)).length > words.length * mostOther)
    return null
  const beside = countByLanguage(words.filter((word) => !languagesOf.get(word)?.includes(first[0])))
  return Math.max(0, ...beside.values()) > words.length * mostOther ? null : first[0]
}

/** Labels that tell a language, at the least. */
const leastLabels = 2

/**
 * The language that the pages of a plan are called in, by the script or by what pages are called in most sites.
 * @returns a primary language subtag (BCP 47); null where it is not clear
 */
export function languageOfLabels(labels: readonly string[]): string | null {
  const all = labels.join(' ').toLowerCase()
  const script = toldByScript(all)
  if (script) return script
  const letters = byLetters.filter(([, of]) => of.test(all))
  if (/\p{Script=Cyrillic}/u.test(all)) return letters.length === 1 ? letters[0]![0] : null
  const counts = new Map<string, number>()
  const said = new Set(
    labels.map((label) => label.trim().normalize('NFC').toLowerCase().replaceAll('’', "'")),
  )
  for (const [language, usual] of Object.entries(usualLabels)) {
    const count = usual!.filter((label) => said.has(label)).length
    if (count > 0) counts.set(language, count)
  }
  const [first, second] = [...counts].sort((a, b) => b[1] - a[1])
  if (!first || first[1] < leastLabels || (second && second[1] === first[1])) return null
  return first[0]
}

/**
 * Languages that have so much in common, or are so little known here, that a text in one may be told as another. Nothing is said then:
 * who writes in a language that few write in has heard often enough that it is another.
 */
const alike: readonly (readonly string[])[] = [
  ['nb', 'nn', 'no', 'da', 'fo', 'is'],
  ['sv', 'nb', 'nn', 'no', 'fo', 'is'],
  ['he', 'iw', 'yi', 'lad'],
  ['hr', 'sr', 'bs', 'sh', 'cnr', 'sl'],
  ['zh', 'yue', 'cmn', 'wuu', 'nan', 'ja'],
  ['ar', 'arz', 'ary', 'arq', 'apc', 'fa', 'ur', 'ps', 'ckb', 'ku', 'sd', 'ug', 'ks', 'ms'],
  ['ru', 'be', 'bg', 'mk', 'sr', 'rue', 'tt', 'ba', 'kk', 'ky'],
  ['uk', 'be', 'rue'],
  ['cs', 'sk'],
  ['pl', 'csb', 'szl'],
  ['fi', 'et', 'vep', 'krl'],
  ['tr', 'az', 'crh', 'gag', 'tk'],
  ['es', 'gl', 'ast', 'an', 'lad', 'eo', 'ia', 'la'],
  ['pt', 'gl', 'mwl'],
  ['ca', 'oc', 'an'],
  ['fr', 'oc', 'ht', 'wa', 'frp', 'pcd', 'eo', 'ia'],
  ['it', 'co', 'sc', 'scn', 'lmo', 'nap', 'vec', 'fur', 'rm', 'eo', 'ia', 'la'],
  ['ro', 'mo', 'rup'],
  ['en', 'sco'],
  ['nl', 'af', 'fy', 'li', 'vls', 'nds'],
  ['de', 'gsw', 'bar', 'nds', 'lb', 'ksh', 'pdc'],
  ['el', 'grc', 'pnt'],
]

/** Whether a text in a language can be what a tag (BCP 47) says: one that says nothing that is known can. */
export function canBe(told: string, tag: string): boolean {
  const said = tag.trim().toLowerCase().split('-')[0]!
  return said === told || alike.some((those) => those.includes(told) && those.includes(said))
}

/** What a language is called in English; its tag where that is not known. */
export function languageName(tag: string): string {
  try {
    return new Intl.DisplayNames(['en'], { type: 'language' }).of(tag) ?? tag
  } catch {
    return tag
  }
}
