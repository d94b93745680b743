import { expect, test } from '@jest/globals'
import fc from 'fast-check'
import { anySign } from '../testing/signs'
import { placeId } from './place-id'

test('an id is made of a heading’s words, and is no other’s', () => {
  expect(placeId('Crossings & tides', [])).toBe('crossings-tides')
  expect(placeId('Keeper’s Café, 1871–1983', [])).toBe('keepers-cafe-1871-1983')
  expect(placeId('東京', [])).toBe('東京')
  expect(placeId('!?', [])).toBe('part')
  expect(placeId('Tides', ['tides', 'tides-2'])).toBe('tides-3')
})

test('it is never empty, has no white space and no end without a limit', () => {
  fc.assert(
    fc.property(fc.string({ unit: anySign, maxLength: 200 }), fc.array(fc.string()), (text, taken) => {
      const id = placeId(text, taken)
      expect(id).toMatch(/^[^\s"'<>&]+$/)
      expect(id.length).toBeLessThan(70)
      expect(taken).not.toContain(id)
    }),
  )
})
