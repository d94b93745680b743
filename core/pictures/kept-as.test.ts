import { expect, test } from '@jest/globals'
import { isDrawn, isOfDisplayP3 } from './kept-as'

test('a picture of few colours, or through which one sees, is drawn', () => {
  const dots = (count: number, alpha = 0xff) =>
    Uint8ClampedArray.from({ length: count * 4 }, (_, at) => (at % 4 === 3 ? alpha : at % 4 === 0 ? at >> 2 : at % 4 === 1 ? at >> 10 : 7)) // prettier-ignore
  expect([isDrawn(dots(256)), isDrawn(dots(257)), isDrawn(dots(300, 0xfe)), isDrawn(dots(0))]).toEqual([true, false, true, true])
}) // prettier-ignore

test('a profile is known by its name, in letters of one byte or two', () => {
  const wide = [...'Display P3'].flatMap((letter) => [0, letter.charCodeAt(0)])
  const files = [Uint8Array.of(1, 2, ...wide), new TextEncoder().encode('…desc Display P3'), new TextEncoder().encode('Display D3')]
  expect(files.map(isOfDisplayP3)).toEqual([true, true, false])
}) // prettier-ignore
