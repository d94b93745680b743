import { converter, type Color, parse } from 'culori'
import type { Colour } from './contrast'

/** A colour that may let through what lies behind it: `alpha` from 0 to 1. */
export interface Shade extends Colour {
  readonly alpha: number
}

/** Which of its colours a page is shown in (CSS Color Adjustment 1 §2). */
export type ColourScheme = 'light' | 'dark'

const toRgb = converter('rgb')
const channel = (value: number | undefined) => 255 * Math.min(1, Math.max(0, value ?? 0))

const shadeOf = (colour: Color): Shade => {
  const { r, g, b, alpha } = toRgb(colour)
  return { red: channel(r), green: channel(g), blue: channel(b), alpha: Math.min(1, Math.max(0, alpha ?? 1)) }
}

const opaque = (hex: string) => shadeOf(parse(hex)!)

/** Colours that the browser gives, as far as browsers agree on them (CSS Color 4 §6.2). */
const systemColours: Record<ColourScheme, Record<string, Shade>> = {
  light: {
    canvas: opaque('#ffffff'),
    canvastext: opaque('#000000'),
    linktext: opaque('#0000ee'),
    mark: opaque('#ffff00'),
    marktext: opaque('#000000'),
    field: opaque('#ffffff'),
    fieldtext: opaque('#000000'),
    buttonface: opaque('#efefef'),
    buttontext: opaque('#000000'),
  },
  dark: {
    canvas: opaque('#121212'),
    canvastext: opaque('#ffffff'),
    linktext: opaque('#9e9eff'),
    mark: opaque('#ffff00'),
    marktext: opaque('#000000'),
    field: opaque('#3b3b3b'),
    fieldtext: opaque('#ffffff'),
    buttonface: opaque('#6b6b6b'),
    buttontext: opaque('#ffffff'),
  },
}

/** A colour of the browser's own. */
export const systemColour = (name: string, scheme: ColourScheme): Shade | null =>
  systemColours[scheme][name.toLowerCase()] ?? null

/** A colour as CSS writes it (CSS Color 4 §4), out of gamut brought to its edge; null for what is none. */
export function readShade(text: string, scheme: ColourScheme): Shade | null {
  const written = text.trim().toLowerCase()
  const parsed = parse(written)
  return parsed ? shadeOf(parsed) : systemColour(written, scheme)
}

/** A colour as old attributes write it: nearly anything is one (HTML §2.3.6, legacy colour values). */
export function legacyShade(value: string): Shade | null {
  let text = value.trim()
  if (text === '' || text.toLowerCase() === 'transparent') return null
  if (/^#[0-9a-f]{3}$/i.test(text) || /^[a-z]+$/i.test(text)) {
    const named = parse(text.toLowerCase())
    if (named) return shadeOf(named)
  }
  // What lies beyond the first plane counts for two.
  text = Array.from(text, (sign) => (sign.codePointAt(0)! > 0xffff ? '00' : sign))
    .join('')
    .slice(0, 128)
    .replace(/^#/, '')
    .replace(/[^0-9a-f]/gi, '0')
  while (text.length === 0 || text.length % 3 !== 0) text += '0'
  const length = text.length / 3
  let parts = [0, 1, 2].map((nth) => text.slice(nth * length, (nth + 1) * length).slice(-8))
  while (parts[0]!.length > 2 && parts.every((part) => part.startsWith('0')))
    parts = parts.map((part) => part.slice(1))
  const [red, green, blue] = parts.map((part) => Number.parseInt(part.slice(0, 2), 16))
  return { red: red!, green: green!, blue: blue!, alpha: 1 }
}

/** What is seen of a shade before a ground. */
export function over({ red, green, blue, alpha }: Shade, ground: Colour): Colour {
  const mix = (front: number, back: number) => front * alpha + back * (1 - alpha)
  return { red: mix(red, ground.red), green: mix(green, ground.green), blue: mix(blue, ground.blue) }
}
