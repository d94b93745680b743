import { tableOf } from '#core/site'
import type { Scheme } from '#core/site'
import { toAscii } from './ascii'

/** One step on the way from a label to a name: which rule acted, and what it left. */
export interface NamingStep {
  readonly rule:
    | 'label'
    | 'date'
    | 'number'
    | 'letters'
    | 'case'
    | 'punctuation'
    | 'leaveOut'
    | 'shortForms'
    | 'gap'
    | 'longest'
    | 'nothing-left'
    | 'reserved'
    | 'own-name'
    | 'kept-name'
    | 'home'
    | 'clash'
    | 'folder'
    | 'trial'
  readonly text: string
}

/** "&" is read out in the site's language; where the language is not listed, it parts words only. */
const ampersand = tableOf<string>({
  cs: 'a', da: 'og', de: 'und', en: 'and', es: 'y', fi: 'ja', fr: 'et', it: 'e', nb: 'og', nl: 'en',
  no: 'og', pl: 'i', pt: 'e', sv: 'och',
}) // prettier-ignore

/** Spellings that a language's writers use and a plain transliteration does not. */
const spellings = tableOf<readonly (readonly [RegExp, string])[]>({
  de: [[/ä/g, 'ae'], [/ö/g, 'oe'], [/ü/g, 'ue'], [/Ä/g, 'Ae'], [/Ö/g, 'Oe'], [/Ü/g, 'Ue']],
  da: [[/å/g, 'aa'], [/Å/g, 'Aa']],
}) // prettier-ignore

/** Words that only lead on to the next one, as spelled in names: where that is cut off they say nothing. */
const leadingOn = tableOf<ReadonlySet<string>>({
  de: new Set('am an auf aus bei das dem den der des die fuer im in mit oder und vom von zu zum zur'.split(' ')),
  en: new Set('a an and as at by for from in into of on or the to with'.split(' ')),
  es: new Set('a con de del el en la las los o para por un una y'.split(' ')),
  fr: new Set('a au aux avec d de des du en et l la le les ou par pour sur un une'.split(' ')),
  it: new Set('a con da del della di e il in la le lo o per un una'.split(' ')),
}) // prettier-ignore

const apostrophes = /['’ʼ‘`´]/gu
// Marks belong to the letter before them; a joiner alone is nothing.
const notWord = /[^\p{L}\p{N}\p{M}]+/gu
/** Names that some systems keep for devices, with any extension (Windows), in any case. */
const devices = /^(con|prn|aux|nul|com[0-9¹²³]|lpt[0-9¹²³])$/iu
/** The longest of them has four letters. */
const isDevice = (name: string): boolean => name.length <= 4 && devices.test(name)
/** More is cut off before any rule is tried: no scheme keeps that much, and labels may be hostile. */
const longestRead = 2000

/** The stand-in where a label has no letter and no digit. */
export const namelessName = 'page'

const plainLabel = /^[A-Za-z0-9]+(?: [A-Za-z0-9]+)*$/

/** The name of a label that is plain words and fits, as nearly all are: what no rule but those of case and gap acts on. */
function plainName(label: string, scheme: Scheme): string | null {
  const { longest, leaveOut, shortForms, letterCase, gap } = scheme
  if (label.length > longest || leaveOut.length > 0 || shortForms.length > 0 || !plainLabel.test(label))
    return null
  const spelled = letterCase === 'lower' ? label.toLowerCase() : label
  let name = ''
  let from = 0
  for (let at = spelled.indexOf(' '); at >= 0; at = spelled.indexOf(' ', from)) {
    name += spelled.slice(from, at) + gap
    from = at + 1
  }
  name += spelled.slice(from)
  return name.length > longest || isDevice(name) ? null : name
}

/**
 * Turns a label into a name without folder and extension: letters, digits and the scheme's gap
 * only, never empty, never reserved.
 * @param trace called after each step that changed something, first with the label itself
 */
export function nameLabel(
  label: string,
  scheme: Scheme,
  language: string,
  trace?: (step: NamingStep) => void,
): { name: string; nameless: boolean } {
  const plain = trace ? null : plainName(label, scheme)
  if (plain !== null) return { name: plain, nameless: false }
  let text = label.slice(0, longestRead).normalize('NFC')
  trace?.({ rule: 'label', text })
  const step = (rule: NamingStep['rule'], next: string) => {
    if (next !== text) trace?.({ rule, text: next })
    text = next
  }
  const tongue = tongueOf(language)

  let spelled = text.replace(apostrophes, '')
  const and = ampersand[tongue]
  if (and) spelled = spelled.replace(/\s*&\s*/g, ` ${and} `).trim()
  if (scheme.letters === 'ascii') {
    for (const [letter, spelling] of spellings[tongue] ?? []) spelled = spelled.replace(letter, spelling)

    if (/[^\x00-\x7f]/.test(spelled)) spelled = spellInAscii(spelled)
  }
  step('letters', spelled)
  if (scheme.letterCase === 'lower') step('case', text.toLowerCase().normalize('NFC'))
  step('punctuation', text.replace(notWord, ' ').trim())

  let words = text === '' ? [] : text.split(' ')
  if (scheme.leaveOut.length > 0) {
    const kept = words.filter((word) => !scheme.leaveOut.includes(word.toLowerCase()))
    // "The" alone stays: a name is better than none.
    if (kept.length > 0) words = kept
    step('leaveOut', words.join(' '))
  }
  if (scheme.shortForms.length > 0) {
    words = words.map(
      (word) => scheme.shortForms.find((form) => form.word === word.toLowerCase())?.short ?? word,
    )
    step('shortForms', words.join(' '))
  }
  if (words.length > 1) step('gap', words.join(scheme.gap))
  const limit = Math.max(1, scheme.longest)
  if (text.length > limit) step('longest', cutName(words, scheme.gap, limit, language))
  const nameless = text === ''
  if (nameless) step('nothing-left', cutLetters(namelessName, limit))
  if (isDevice(text)) {
    const told = `${text}${scheme.gap}${namelessName}`
    // Where that is too long, a letter in front is enough to make it another name.
    step('reserved', told.length <= limit ? told : cutLetters(namelessName[0] + text, limit))
  }
  return { name: text, nameless }
}

/** Spells a text in ASCII; "東京" becomes "Dong Jing", each foreign word apart from its neighbours. */
function spellInAscii(text: string): string {
  return text.replace(/\p{Extended_Pictographic}/gu, (sign) => ` ${toAscii(sign)} `).replace(/[^ ]+/g, (word) =>
    /\p{Script=Han}/u.test(word)
      ? Array.from(word, (sign) => (/\p{Script=Han}/u.test(sign) ? ` ${toAscii(sign)} ` : toAscii(sign))).join('')
      : toAscii(word),
  ).replace(/ +/g, ' ').replace(apostrophes, '').trim()
} // prettier-ignore

/**
 * As many whole words as fit, up to the last that says something; the first one is cut when even it is
 * too long. "Minutes of the annual meeting" is `minutes` where `annual` does not fit.
 */
export function cutName(words: readonly string[], gap: string, limit: number, language: string): string {
  const leadsOn = leadingOn[tongueOf(language)]
  let name = ''
  let whole = ''
  for (const word of words) {
    const next = name === '' ? word : name + gap + word
    if (next.length > limit) return whole || name || cutLetters(words[0] ?? '', limit)
    name = next
    if (!leadsOn?.has(word.toLowerCase())) whole = name
  }
  return name
}

const tongueOf = (language: string) => language.toLowerCase().split('-')[0] ?? ''

/** At most so many UTF-16 code units of a text, never half of what is read as one letter. */
export function cutLetters(text: string, limit: number): string {
  if (text.length <= limit) return text
  // Plain ASCII, nearly every name, has a letter to a unit.
  if (/^[\x20-\x7e]*$/.test(text)) return text.slice(0, Math.max(0, limit))
  return [...new Intl.Segmenter('en').segment(text.slice(0, Math.max(0, limit) + 20))]
    .map((cluster) => cluster.segment)
    .reduce((cut, letter) => (cut.length + letter.length <= limit ? cut + letter : cut), '')
}

/** True for a name that Windows keeps for a device. */
export function isReservedName(name: string): boolean {
  return isDevice(name.split('.')[0] ?? '')
}

/** Two names a case-folding or Unicode-normalising host would take for one have the same key. */
export function clashKey(name: string): string {
  // Plain ASCII in lower case, nearly every name, folds to itself.
  if (/^[a-z0-9._/-]*$/.test(name)) return name
  return name.normalize('NFKC').toUpperCase().toLowerCase().normalize('NFKC')
}
