import { escapeAttribute, escapeSingleQuoted, escapeText, parseHtml, walkHtml } from '#core/markup'
import type { Written } from './readable'

/** What of some HTML is its words: as it is said where tags would be read as letters. */
export function plainWords(html: string): string {
  if (!/[<&]/.test(html)) return html
  let words = ''
  walkHtml(parseHtml(html, false).root, (node) => {
    if (node.nodeName === '#text' && 'value' in node) words += node.value
  })
  return words
}

/** Words as a source writes them at a place of its kind; HTML stays as it is typed. */
export function putAs(words: string, as: Written): string {
  switch (as) {
    case 'html':
      return words
    case 'text':
      return escapeText(words)
    case 'single':
      return escapeSingleQuoted(words)
    case 'double':
    case 'unquoted':
      return escapeAttribute(words)
  }
}

const isCapital = /^\p{Lu}/u
const capital = /\p{Lu}/u
const small = /\p{Ll}/u

/**
 * Words with the capital letters of those they take the place of: `Tides` becomes `Floods`, and `TIDES` `FLOODS`. Words that
 * are typed with capitals of their own stay as they are.
 */
export function likeFound(words: string, found: string): string {
  if (capital.test(words) || !isCapital.test(found)) return words
  const [first = ''] = words
  // One letter says nothing of those after it; in tags and references case is no matter of taste.
  const isAll = !small.test(found) && [...found].length > 1 && !/<|&[a-z#]/i.test(words)
  return isAll ? words.toUpperCase() : first.toUpperCase() + words.slice(first.length)
}
