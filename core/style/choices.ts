import { type Colour, contrast, readableOn, readColour, tinted, writeColour } from '#core/colours'

/** What a starter style sheet is made from. */
export interface StyleChoices {
  /** The colour of links and marks, `#rrggbb`; it is made readable where it is not. */
  readonly accent: string
  readonly ground: 'white' | 'warm' | 'cool' | 'tinted'
  readonly text: Face
  readonly headings: Face
  readonly width: 'narrow' | 'middling' | 'wide'
  readonly menu: 'top' | 'side'
}

/** Faces that are on the reader's own machine: nothing is fetched. */
export type Face = 'old-style' | 'modern' | 'plain' | 'humanist' | 'slab' | 'typewriter'

export const faces: Readonly<Record<Face, { readonly words: string; readonly stack: string }>> = {
  'old-style': { words: 'an old-style serif', stack: '"Iowan Old Style", "Palatino Linotype", Palatino, serif' },
  modern: { words: 'a bookish serif', stack: 'Georgia, "Times New Roman", serif' },
  plain: { words: 'a plain sans', stack: 'system-ui, -apple-system, "Segoe UI", Roboto, sans-serif' },
  humanist: { words: 'a humanist sans', stack: 'Seravek, "Gill Sans Nova", Ubuntu, Calibri, sans-serif' },
  slab: { words: 'a slab serif', stack: 'Rockwell, "Rockwell Nova", "Roboto Slab", serif' },
  typewriter: { words: 'a typewriter face', stack: 'ui-monospace, "Cascadia Code", Menlo, Consolas, monospace' },
} // prettier-ignore

export const defaultChoices: StyleChoices = {
  accent: '#1d5c73',
  ground: 'warm',
  text: 'modern',
  headings: 'modern',
  width: 'middling',
  menu: 'top',
}

export const widths = { narrow: '34rem', middling: '42rem', wide: '54rem' } as const

/** Colours of one set, all of them readable on its ground. */
export interface Palette {
  readonly ground: string
  readonly text: string
  readonly quiet: string
  readonly line: string
  readonly accent: string
}

const of = (text: string): Colour => readColour(text)!
export const grounds = { white: '#ffffff', warm: '#fdfcf9', cool: '#f8fafb' } as const
/** More than the least that is asked for: text is what is read most. */
const quietContrast = 5.2
const mainContrast = 11

/** The light and the dark set of some choices: text, quiet text and links have a contrast of 4.5:1 or more. */
export function palettesOf({ accent: chosen, ground: kind }: StyleChoices): {
  light: Palette
  dark: Palette
} {
  const accent = readColour(chosen) ?? of(defaultChoices.accent)
  const light = kind === 'tinted' ? tinted(of('#ffffff'), accent, 0.06) : of(grounds[kind])
  const dark =
    kind === 'white' ? of('#161616') : tinted(of('#15181b'), accent, kind === 'tinted' ? 0.1 : 0.03)
  const paletteOn = (ground: Colour, ink: string, quiet: string): Palette => ({
    ground: writeColour(ground),
    text: writeColour(readableOn(of(ink), ground, mainContrast)),
    quiet: writeColour(readableOn(of(quiet), ground, quietContrast)),
    line: writeColour(tinted(ground, of(quiet), 0.28)),
    accent: writeColour(readableOn(accent, ground)),
  })
  return { light: paletteOn(light, '#23272b', '#596067'), dark: paletteOn(dark, '#e8e6e0', '#a5abb0') }
}

/** How clearly the accent stands out where it is used; for telling that it was made readable. */
export const accentContrast = (choices: StyleChoices): number =>
  contrast(of(palettesOf(choices).light.accent), of(palettesOf(choices).light.ground))

const mark = 'Made from'

/** The first line of a style sheet that was made: it says what it was made from. */
export const madeFrom = (choices: StyleChoices): string =>
  `/* ${mark} ${choices.accent} on ${choices.ground}, text ${choices.text}, headings ${choices.headings}, ${choices.width}, menu ${choices.menu} */`
