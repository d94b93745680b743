import { tableOf } from '#core/site'
import { spelling } from '#spelling'

/**
 * What stands at hand: letters of Latin alphabets that do not come apart into a letter and its mark, and
 * the punctuation of well-set text. The same as the whole table has, which a test holds it to.
 */
const atHand = tableOf<string>({
  Æ: 'Ae', æ: 'ae', Ð: 'D', ð: 'd', Đ: 'D', đ: 'd', Ø: 'O', ø: 'o', Þ: 'Th', þ: 'th', ß: 'ss', Ħ: 'H',
  ħ: 'h', ı: 'i', Ł: 'L', ł: 'l', Ŋ: 'Ng', ŋ: 'ng', Œ: 'Oe', œ: 'oe', '\u00a0': ' ', '\u00ad': '',
  '¡': '!', '¿': '?', '·': '-', '«': '<<', '»': '>>', '°': 'deg', '§': 'S', '²': '2', '³': '3', '‐': '-',
  '‑': '-', '–': '-', '—': '-', '‘': "'", '’': "'", '‚': "'", '“': '"', '”': '"', '„': '"', '‹': '<',
  '›': '>', '•': '*', '…': '...',
}) // prettier-ignore

/** A letter of a Latin alphabet with its marks (Unicode, Latin-1 Supplement to Latin Extended Additional). */
const marked = /^[\u00c0-\u017f\u01cd-\u01dc\u0218-\u021b\u1e00-\u1e99\u1ea0-\u1ef9]$/

/** One sign in ASCII where that is at hand, null where only the table knows. */
export function asciiAtHand(sign: string): string | null {
  if (sign <= '\x7f') return sign
  const known = atHand[sign]
  if (known !== undefined) return known
  if (!marked.test(sign)) return null
  const letter = sign.normalize('NFD')[0]!
  return letter <= '\x7f' ? letter : null
}

/** Spells a text in ASCII, sign by sign. While the table is being fetched, what it would tell is missing. */
export function toAscii(text: string): string {
  let spelled = ''
  for (const sign of text) spelled += asciiAtHand(sign) ?? spelling.spell(sign)
  return spelled
}

/** Whether a text has signs that only the whole table can spell. */
export function needsSpelling(text: string): boolean {
  // Nearly every label: looked at without taking it apart.
  if (/^[\x20-\x7e]*$/.test(text)) return false
  for (const sign of text.normalize('NFC')) if (asciiAtHand(sign) === null) return true
  return false
}
