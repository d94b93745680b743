/** A colour in sRGB, each channel from 0 to 255. */
export interface Colour {
  readonly red: number
  readonly green: number
  readonly blue: number
}

/** A colour as `#rrggbb`; null for any other text. */
export function readColour(text: string): Colour | null {
  const match = /^#([0-9a-f]{2})([0-9a-f]{2})([0-9a-f]{2})$/i.exec(text.trim())
  if (!match) return null
  const [red, green, blue] = match.slice(1).map((hex) => Number.parseInt(hex, 16))
  return { red: red!, green: green!, blue: blue! }
}

const hex = (channel: number) =>
  Math.max(0, Math.min(255, Math.round(channel)))
    .toString(16)
    .padStart(2, '0')

export const writeColour = ({ red, green, blue }: Colour): string => `#${hex(red)}${hex(green)}${hex(blue)}`

/** Relative luminance, 0 to 1 (WCAG 2.2, definition). */
export function luminance({ red, green, blue }: Colour): number {
  const linear = (channel: number) => {
    const value = channel / 255
    return value <= 0.04045 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4
  }
  return 0.2126 * linear(red) + 0.7152 * linear(green) + 0.0722 * linear(blue)
}

/** Contrast ratio, 1 to 21 (WCAG 2.2, definition). */
export function contrast(one: Colour, other: Colour): number {
  const [light, dark] = [luminance(one), luminance(other)].sort((a, b) => b - a) as [number, number]
  return (light + 0.05) / (dark + 0.05)
}

/** What text of normal size needs (WCAG 2.2, 1.4.3). */
export const textContrast = 4.5

const mix = (from: Colour, to: Colour, share: number): Colour => ({
  red: from.red + (to.red - from.red) * share,
  green: from.green + (to.green - from.green) * share,
  blue: from.blue + (to.blue - from.blue) * share,
})
const black: Colour = { red: 0, green: 0, blue: 0 }
const white: Colour = { red: 255, green: 255, blue: 255 }
const rounded = (colour: Colour) => readColour(writeColour(colour))!

/**
 * The colour nearest to a wanted one that can be read on a ground: towards black on a light one, towards
 * white on a dark one, as little as is needed.
 */
export function readableOn(wanted: Colour, ground: Colour, ratio: number = textContrast): Colour {
  const goal = contrast(black, ground) >= contrast(white, ground) ? black : white
  if (contrast(wanted, ground) >= ratio) return wanted
  let [low, high] = [0, 1]
  for (let step = 0; step < 12; step++) {
    const middle = (low + high) / 2
    if (contrast(rounded(mix(wanted, goal, middle)), ground) >= ratio) high = middle
    else low = middle
  }
  return rounded(mix(wanted, goal, high))
}

/** A colour with a share of another in it. */
export const tinted = (colour: Colour, other: Colour, share: number): Colour =>
  rounded(mix(colour, other, share))
