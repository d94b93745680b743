import { ownNames } from './own-names'

/** A tag of a language as of BCP 47 (RFC 5646 §2.1), as far as its shape goes: none with more letters in front is registered. */
export const languageTag = /^[A-Za-z]{2,3}(-[A-Za-z0-9]{1,8})*$/

/** Letters of the longest tag or name that is looked up. */
const longestTyped = 60

let inEnglish: ReadonlyMap<string, string> | null = null

/** Tags of languages by what they are called in English, in lower case; made when it is first asked for. */
function englishNames(): ReadonlyMap<string, string> {
  if (inEnglish) return inEnglish
  const names = new Intl.DisplayNames(['en'], { type: 'language', fallback: 'none' })
  const tags = new Map<string, string>()
  // Those of two letters (ISO 639-1): each that is known has a name.
  for (let at = 0; at < 26 * 26; at++) {
    const tag = String.fromCharCode(97 + Math.floor(at / 26), 97 + (at % 26))
    const name = names.of(tag)
    // One that has been replaced is known as what it is now.
    if (name !== undefined && Intl.getCanonicalLocales(tag)[0] === tag) tags.set(name.toLowerCase(), tag)
  }
  return (inEnglish = tags)
}

/** The tag of a language that is typed as its tag, or by its name in English or in itself; null where it is none. */
export function tagTyped(typed: string): string | null {
  const text = typed.trim().replaceAll('_', '-')
  if (text === '' || text.length > longestTyped) return null
  if (languageTag.test(text)) {
    try {
      return Intl.getCanonicalLocales(text)[0] ?? null
    } catch {
      return null
    }
  }
  const name = text.normalize('NFC').toLowerCase()
  return ownNames[name] ?? englishNames().get(name) ?? null
}

/** The language that calls itself as a label does, such as `Deutsch` or `Cymraeg`; null where none does. */
export function languageCalled(label: string): string | null {
  if (label.length > longestTyped) return null
  const name = label
    .normalize('NFC')
    .replace(/^[^\p{L}]+/u, '')
    .replace(/[^\p{L}\p{M}]+$/u, '')
  return ownNames[name.toLowerCase()] ?? null
}
