import { tableOf } from '#core/site'
import type { HtmlElement } from '#core/markup'
import { readBold, readFont, readFontSize } from './values'
import type { SaidOf } from './said'

/** How large and how heavy the letters of an element are. */
export interface Letters {
  /** Null where it is not known. */
  readonly px: number | null
  /** Whether that was said in a unit that stays what it is, wherever it is handed on. */
  readonly isAbsolute: boolean
  readonly isBold: boolean
  /** Whether they are of the browser's own fixed width. */
  readonly isFixedWidth: boolean
}

export const usualLetters: Letters = { px: 16, isAbsolute: false, isBold: false, isFixedWidth: false }
/** Form controls do not take over the letters of what is around them. */
const controlLetters: Letters = { ...usualLetters, px: 40 / 3, isAbsolute: true }

/** Letters of headings and the like, in those of what is around them (HTML §15.3). */
const ownSizes = tableOf<string>({ h1: '2em', h2: '1.5em', h3: '1.17em', h5: '0.83em', h6: '0.67em', small: 'smaller', sub: 'smaller', sup: 'smaller', big: 'larger' }) // prettier-ignore
const bold = /^(h[1-6]|b|strong|th)$/
const fixedWidth = /^(pre|code|tt|kbd|samp|listing|xmp|plaintext)$/
/** Of the usual 16 px, letters of fixed width are 13 px high in every browser. */
const fixedWidthShare = 13 / 16

export const isControl = ({ tagName }: HtmlElement): boolean =>
  /^(button|input|select|textarea)$/.test(tagName)

/**
 * The letters of an element among those of what is around it.
 * @param hint the size that old attributes say
 * @param rootPx those of the root element; null where they are not known
 */
export function lettersOf(
  element: HtmlElement,
  said: SaidOf,
  {
    hint,
    rootPx,
    startsAnew,
  }: { readonly hint: string | undefined; readonly rootPx: number | null; readonly startsAnew: boolean },
  outer: Letters,
): Letters {
  const { tagName } = element
  const around = isControl(element) ? controlLetters : startsAnew ? usualLetters : outer
  const size = said('font-size')
  const sizeSaid = size && (size.of === 'font' ? readFont(size.value).size : size.value.trim())
  const written = sizeSaid ?? hint ?? ownSizes[tagName] ?? null
  const isKept = written === null || /^(unset|revert)$/i.test(written)
  const isInherited = written !== null && /^inherit$/i.test(written)
  const family = said('font-family')
  const isFixedWidth = family
    ? /(^|\s)monospace\s*$/i.test(family.value) && !family.value.includes(',')
    : around.isFixedWidth || fixedWidth.test(tagName)
  const isAbsolute = isInherited
    ? outer.isAbsolute
    : /^[\d.]+(px|pt|pc|in|cm|mm|rem|v\w+)$/i.test(written ?? '') ||
      (!/^[a-z-]+$/i.test(written ?? '') && around.isAbsolute) ||
      (isKept && around.isAbsolute)
  const px = isInherited ? outer.px : isKept ? around.px : readFontSize(written!, around.px, rootPx ?? 16)
  const change =
    isFixedWidth === around.isFixedWidth ? 1 : isFixedWidth ? fixedWidthShare : 1 / fixedWidthShare
  const weight = said('font-weight')
  const weightSaid = weight && (weight.of === 'font' ? readFont(weight.value).weight : weight.value)
  const startsBold = bold.test(tagName) || around.isBold
  return {
    px: px !== null && !isAbsolute ? px * change : px,
    isAbsolute,
    isBold: weightSaid === null ? startsBold : (readBold(weightSaid, outer.isBold) ?? startsBold),
    isFixedWidth,
  }
}
