import { expect, test } from '@jest/globals'
import { parse } from 'css-tree'
import fc from 'fast-check'
import { contrast, readableOn, readColour, textContrast, writeColour } from '#core/colours'
import {
  choicesOf,
  defaultChoices,
  faces,
  palettesOf,
  saysBeside,
  starterStyle,
  type StyleChoices,
  withBeside,
} from './index'

const colour = fc.integer({ min: 0, max: 0xffffff }).map((value) => `#${value.toString(16).padStart(6, '0')}`)
const choices: fc.Arbitrary<StyleChoices> = fc.record({
  accent: colour,
  ground: fc.constantFrom('white', 'warm', 'cool', 'tinted'),
  text: fc.constantFrom(...(Object.keys(faces) as (keyof typeof faces)[])),
  headings: fc.constantFrom(...(Object.keys(faces) as (keyof typeof faces)[])),
  width: fc.constantFrom('narrow', 'middling', 'wide'),
  menu: fc.constantFrom('top', 'side'),
})
const of = (text: string) => readColour(text)!

test('contrast is that of the standard', () => {
  expect(contrast(of('#000000'), of('#ffffff'))).toBeCloseTo(21, 5)
  expect(contrast(of('#777777'), of('#ffffff'))).toBeCloseTo(4.478, 3)
  expect(writeColour(readableOn(of('#1d5c73'), of('#ffffff')))).toBe('#1d5c73')
})

test('any colour becomes one that can be read, and hardly darker than that', () => {
  fc.assert(
    fc.property(colour, colour, (wanted, ground) => {
      const made = readableOn(of(wanted), of(ground))
      expect(contrast(made, of(ground))).toBeGreaterThanOrEqual(textContrast)
      // What could be read already stays as it is.
      if (contrast(of(wanted), of(ground)) >= textContrast) expect(writeColour(made)).toBe(wanted)
    }),
  )
})

test('whatever is chosen, text, quiet text and links can be read, by day and by night', () => {
  fc.assert(
    fc.property(choices, (chosen) => {
      for (const palette of Object.values(palettesOf(chosen)))
        for (const name of ['text', 'quiet', 'accent'] as const)
          expect(contrast(of(palette[name]), of(palette.ground))).toBeGreaterThanOrEqual(textContrast)
    }),
  )
})

test('a style sheet is CSS without an error, and says what it was made from until a letter is changed', () => {
  fc.assert(
    fc.property(choices, (chosen) => {
      const css = starterStyle(chosen)
      const errors: string[] = []
      parse(css, { onParseError: (error) => errors.push(error.message) })
      expect(errors).toEqual([])
      expect(choicesOf(css)).toEqual(chosen)
      expect(choicesOf(`${css} `)).toBeNull()
      expect(css).not.toMatch(/[ \t]\n/)
    }),
    { numRuns: 60 },
  )
  expect(choicesOf('/* Made from #1d5c73 on constructor, text toString, headings x, wide, menu top */\n')).toBeNull() // prettier-ignore
  expect(choicesOf('')).toBeNull()
  expect(choicesOf(starterStyle())).toEqual(defaultChoices)
})

test('a sheet that was made with left and right is known for what it is; one that its author changed is not', () => {
  for (const menu of ['top', 'side'] as const) {
    const made = starterStyle({ ...defaultChoices, menu })
    const earlier = made
      .replaceAll('inset-inline-start', 'left')
      .replaceAll('inline-start', 'left')
      .replaceAll('inline-end', 'right')
      .replaceAll('text-align: start', 'text-align: left')
    expect(earlier).not.toBe(made)
    expect(choicesOf(earlier)).toEqual({ ...defaultChoices, menu })
    expect(choicesOf(earlier.replace('left', 'right'))).toBeNull()
    // Before that, nothing was said of pictures side by side.
    const first = earlier.replace(/^\.pictures[^}]*}\n\n/gm, '')
    expect(saysBeside(first)).toBe(false)
    expect(choicesOf(first)).toEqual({ ...defaultChoices, menu })
  }
})

test('a style sheet that says nothing of pictures side by side says it at its end, once', () => {
  for (const css of ['', 'p { color: red }', '/* .x */\n.pictures-of { top: 0 }\n\n']) {
    expect(saysBeside(css)).toBe(false)
    const more = withBeside(css)
    expect(more.startsWith(css.trimEnd())).toBe(true)
    expect(saysBeside(more)).toBe(true)
    const errors: string[] = []
    parse(more, { onParseError: (error) => errors.push(error.message) })
    expect(errors).toEqual([])
  }
})
