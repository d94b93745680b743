import { tableOf } from '#core/site'
import * as csstree from 'css-tree'
import { type ColourScheme, readShade, type Shade } from './shades'

const colourFunctions = /^(rgba?|hsla?|hwb|lab|lch|oklab|oklch|color)$/i
const imageFunctions = /gradient$|^(-webkit-)?image-set$|^cross-fade$|^element$|^paint$|^image$/i

/** The parts of a value, on its top level; null for what is none. */
function partsOf(value: string): csstree.CssNode[] | null {
  try {
    const tree = csstree.parse(value, { context: 'value', onParseError: () => {} })
    return tree.type === 'Value' ? tree.children.toArray() : null
  } catch {
    return null
  }
}

/** What a value says of a colour: one, that of the text, none that is known, or that it says none at all. */
export type SaidColour = Shade | 'currentcolor' | 'unknown' | null

/** The colour that a part of a value is; null for what is none. */
function colourOf(part: csstree.CssNode, scheme: ColourScheme): SaidColour {
  if (part.type === 'Hash') return readShade(`#${part.value}`, scheme)
  if (part.type === 'Identifier')
    return part.name.toLowerCase() === 'currentcolor' ? 'currentcolor' : readShade(part.name, scheme)
  if (part.type !== 'Function') return null
  const name = part.name.toLowerCase()
  if (name === 'light-dark') {
    const both = part.children.toArray().filter(({ type }) => type !== 'Operator' && type !== 'WhiteSpace')
    const one = both[scheme === 'light' ? 0 : 1]
    return one ? (colourOf(one, scheme) ?? 'unknown') : 'unknown'
  }
  if (colourFunctions.test(name))
    return (
      readShade(csstree.generate(part), scheme) ??
      (/calc|var|from/i.test(csstree.generate(part)) ? 'unknown' : null)
    )
  return /^(color-mix|contrast-color|device-cmyk)$/.test(name) ? 'unknown' : null
}

/** What a value of `color` or `background-color` says. */
export function readColourValue(value: string, scheme: ColourScheme): SaidColour {
  const parts = partsOf(value)
  return parts?.length === 1 ? colourOf(parts[0]!, scheme) : null
}

/** What a value of `background` says of the colour and the picture of a ground (CSS Backgrounds 3 §2.10). */
export function readBackground(
  value: string,
  scheme: ColourScheme,
): { readonly colour: SaidColour; readonly hasPicture: boolean } {
  let colour: SaidColour = null
  let hasPicture = false
  for (const part of partsOf(value) ?? []) {
    if (part.type === 'Url' || (part.type === 'Function' && imageFunctions.test(part.name))) hasPicture = true
    else colour = colourOf(part, scheme) ?? colour
  }
  return { colour, hasPicture }
}

const lengths = tableOf<number>({
  px: 1,
  pt: 4 / 3,
  pc: 16,
  in: 96,
  cm: 96 / 2.54,
  mm: 9.6 / 2.54,
  vw: 12.8,
  vh: 8,
  vmin: 8,
  vmax: 12.8,
})

/** A length in pixels; null for what depends on more than is known. */
export function readLength(value: string, emPx: number | null, rootPx: number): number | null {
  const match = /^([+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?)([a-z%]*)$/i.exec(value.trim())
  if (!match) return null
  const [amount, unit] = [Number(match[1]), match[2]!.toLowerCase()]
  if (unit === '') return amount === 0 ? 0 : null
  if (unit === 'rem') return amount * rootPx
  if (unit === 'em' || unit === '%' || unit === 'ex' || unit === 'ch') {
    if (emPx === null) return null
    return amount * emPx * (unit === '%' ? 0.01 : unit === 'em' ? 1 : 0.5)
  }
  const px = lengths[unit]
  return px === undefined ? null : amount * px
}

const sizes = tableOf<number>({ 'xx-small': 9, 'x-small': 10, small: 13, medium: 16, large: 18, 'x-large': 24, 'xx-large': 32, 'xxx-large': 48 }) // prettier-ignore

/** A value of `font-size` in pixels; null where it is not known. */
export function readFontSize(value: string, parentPx: number | null, rootPx: number): number | null {
  const written = value.trim().toLowerCase()
  if (sizes[written] !== undefined) return sizes[written]
  if (written === 'smaller' || written === 'larger')
    return parentPx === null ? null : parentPx * (written === 'larger' ? 1.2 : 5 / 6)
  return readLength(written, parentPx, rootPx)
}

/** Whether a value of `font-weight` makes bold letters (CSS Fonts 4 §2.2); null for what says nothing of it. */
export function readBold(value: string, parentBold: boolean): boolean | null {
  const written = value.trim().toLowerCase()
  if (written === 'bold' || written === 'bolder') return true
  if (written === 'normal') return false
  if (written === 'lighter') return false
  const weight = Number(written)
  return written !== '' && Number.isFinite(weight) ? weight >= 700 : written === 'inherit' ? parentBold : null
}

/** What the `font` shorthand says of size and weight (CSS Fonts 4 §2.7). */
export function readFont(value: string): { readonly size: string; readonly weight: string } {
  let size = 'medium'
  let weight = 'normal'
  for (const part of value.trim().split(/\s+/)) {
    if (/^(bold|bolder|lighter|[1-9]\d{2})$/i.test(part)) weight = part
    else if (/^([\d.]+(px|pt|pc|in|cm|mm|em|rem|ex|ch|vw|vh|%)|(xx?-)?small|medium|(x{1,3}-)?large|smaller|larger)(\/|$)/i.test(part)) {
      size = part.replace(/\/.*/, '')
      break
    } // prettier-ignore
    else if (/^(calc|clamp|min|max)\(/i.test(part)) return { size: 'unknown', weight }
  }
  return { size, weight }
}
