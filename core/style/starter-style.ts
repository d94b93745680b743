import { defaultChoices, faces, grounds, type StyleChoices, widths } from './choices'
import { besideRule } from './pictures-beside'
import { sheetOf } from './sheet'

/** A style sheet made from a few choices: plain rules in commented sections, meant to be changed. */
export const starterStyle = (choices: StyleChoices = defaultChoices): string => sheetOf(choices)

/** A sheet with the sides of lines for left and right, which sheets that were made earlier name (CSS Logical Properties 1). */
const bySides = (css: string): string =>
  css
    .replace(/^(\s*)left: /gm, '$1inset-inline-start: ')
    .replace(/\b(padding|margin|border)-left:/g, '$1-inline-start:')
    .replace(/\bborder-right:/g, 'border-inline-end:')
    .replace(/\btext-align: left;/g, 'text-align: start;')

/**
 * The choices that a style sheet was made from, as long as it is exactly what was made: once its author has
 * changed a letter it is theirs, and null.
 */
export function choicesOf(css: string): StyleChoices | null {
  const line = css.slice(0, css.indexOf('\n'))
  const match = /^\/\* [\w ]+ (#[0-9a-f]{6}) on (\w+), text ([\w-]+), headings ([\w-]+), (\w+), menu (\w+) \*\/$/.exec(line)
  if (!match) return null
  const [, accent, ground, text, headings, width, menu] = match
  const choices = { accent, ground, text, headings, width, menu } as StyleChoices
  const isKnown =
    (ground === 'tinted' || Object.hasOwn(grounds, ground!)) &&
    Object.hasOwn(faces, text!) &&
    Object.hasOwn(faces, headings!) &&
    Object.hasOwn(widths, width!) &&
    (menu === 'top' || menu === 'side')
  if (!isKnown) return null
  const made = starterStyle(choices)
  // Sheets that were made earlier say nothing of pictures side by side.
  return [made, made.replace(`${besideRule}\n`, '')].includes(bySides(css)) ? choices : null
} // prettier-ignore
