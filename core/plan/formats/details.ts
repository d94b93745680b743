import { checkDate, readLabelDate, tagTyped } from '#core/language'
import type { PageDetails } from '../outline'

/** What cells of yes and no hold in spreadsheets of others: words, their program's own values, signs. */
export const yes = /^(?:yes|y|true|1|x|[✓✔☑✅]\ufe0f?|ja|wahr|oui|vrai|s[iíì]|sim)$/iu
export const no = /^(?:no|n|false|0|[-–—✗✘☐❌]\ufe0f?|nein|falsch|non|faux|nej|nee|não)$/iu

/** A date that is all that a text says, in any common way of writing one; null for any other text. */
function dateIn(text: string): string | null {
  const read = readLabelDate(text, 'en')
  return checkDate(text) ?? (read?.rest === '' ? read.date : null)
}

/** What a plan says of a page in a word or a line; null where it says nothing, or nothing that can be. */
export function detailIn(name: keyof PageDetails, text: string): PageDetails[typeof name] | null {
  if (text === '') return null
  switch (name) {
    case 'language':
      return tagTyped(text)
    case 'date':
      return dateIn(text)
    case 'dated':
      return yes.test(text) ? true : no.test(text) ? false : null
    default:
      return text
  }
}
