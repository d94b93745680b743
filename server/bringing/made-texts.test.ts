import { createHash, randomBytes } from 'node:crypto'
import { expect, test } from '@jest/globals'
import fc from 'fast-check'
import { MadeTexts } from './made-texts'
import { unpack } from './packed-texts'

const hashOf = (text: string) => createHash('sha256').update(text).digest('hex')

const text = fc.oneof(
  fc.string({ unit: 'grapheme' }),
  // Longer than one piece holds, so that the next begins another; and one that fills what is left of it.
  fc.nat({ max: 1_200_000 }).map((length) => randomBytes(length / 2).toString('hex')),
  fc.nat({ max: 1_200_000 }).map((length) => 'å'.repeat(length / 2)),
  fc.constant(''),
)

test('texts are had by their names, and handed over once each', () => {
  fc.assert(
    fc.property(fc.array(text, { maxLength: 12 }), (texts) => {
      const made = new MadeTexts()
      for (const one of [...texts, ...texts]) expect(made.put(one)).toBe(hashOf(one))
      for (const one of texts) expect(made.get(hashOf(one))).toBe(one)
      const taken = [...made.take()].flatMap(({ bytes, places }) =>
        places.map(([hash, at, size, length]) => {
          const packed = { bytes: Buffer.from(bytes.buffer, at, size), length }
          return [hash, unpack(packed).toString()] as const
        }),
      )
      expect(taken).toHaveLength(new Set(texts).size)
      expect(new Map(taken)).toEqual(new Map(texts.map((one) => [hashOf(one), one])))
      expect(texts.every((one) => made.get(hashOf(one)) === undefined)).toBe(true)
      expect([...made.take()]).toEqual([])
    }),
    { numRuns: 60 },
  )
})
