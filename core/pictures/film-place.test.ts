import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { FilmPlace, isFilm } from './film-place'

const latin = (text: string) => Uint8Array.from(text, (letter) => letter.charCodeAt(0))
const joined = (parts: readonly (Uint8Array | string)[]) =>
  Uint8Array.from(parts.flatMap((part) => [...(typeof part === 'string' ? latin(part) : part)]))
const long = (value: number) => [24, 16, 8, 0].map((shift) => (value >>> shift) & 255)
const box = (type: string, ...inside: (Uint8Array | string)[]) => {
  const bytes = joined(inside)
  return Uint8Array.from([...long(bytes.length + 8), ...latin(type), ...bytes])
}
/** The same with its size in the long form. */
const longBox = (type: string, ...inside: (Uint8Array | string)[]) => {
  const bytes = joined(inside)
  return Uint8Array.from([...long(1), ...latin(type), ...long(0), ...long(bytes.length + 16), ...bytes])
}
const point = '+54.3210-004.8765/'
const key = (name: string) => box('mdta', name)
const item = (index: number, value: string) => {
  const bytes = joined(['\0\0\0\x01\0\0\0\0', value])
  const data = box('data', bytes)
  return Uint8Array.from([...long(data.length + 8), ...long(index), ...data])
}
const keys = box(
  'keys',
  '\0\0\0\0\0\0\0\x03',
  key('org.example.make'),
  key('org.example.location.ISO6709'),
  key('org.example.model'),
)
const list = box('ilst', item(1, 'Maker'), item(2, point), item(3, 'Model')) // prettier-ignore
const handler = box('hdlr', '\0\0\0\0\0\0\0\0mdta')
const ftyp = box('ftyp', 'qt  \0\0\0\0qt  ')
const mdat = box('mdat', `${point}moov\0\0\0\x20udta`.repeat(40))
const track = box('trak', box('tkhd', 'head'), box('udta', box('\u00a9xyz', point), box('name', 'Camera')))
const text = (bytes: Uint8Array) => new TextDecoder('latin1').decode(bytes)

function passed(film: Uint8Array, sizes: readonly number[] = [film.length]): Uint8Array {
  const place = new FilmPlace()
  const given = film.slice()
  const out: Uint8Array[] = []
  for (let at = 0, turn = 0; at < given.length; turn++) {
    const size = Math.max(1, sizes[turn % sizes.length]!)
    out.push(...place.push(given.subarray(at, at + size)))
    at += size
  }
  return joined([...out, ...place.end()])
}
/** A film of a telephone, with the place told in every way there is. */
const filmOf = (behind: boolean, holder = box) => {
  const told = holder(
    'moov',
    box('mvhd', 'header'),
    track,
    box(
      'udta',
      box('\u00a9xyz', `\0\x12\0\0${point}`),
      box('loci', `\0\0\0\0en${point}`),
      box('name', 'Pier'),
    ),
    box('meta', handler, keys, list),
    box(
      'udta',
      box('meta', '\0\0\0\0', handler, box('ilst', box('\u00a9xyz', point), box('\u00a9nam', 'Pier'))),
    ),
  )
  return behind ? joined([ftyp, mdat, told]) : joined([ftyp, told, mdat])
}

describe('where a film was taken', () => {
  test.each([
    ['in front of it', filmOf(false)],
    ['behind it', filmOf(true)],
    ['in boxes of the long form', filmOf(true, longBox)],
  ])('is taken out, told %s, and all else stays where it is', (_, film) => {
    expect(isFilm(film)).toBe(true)
    const after = passed(film)
    expect(after.length).toBe(film.length)
    const words = text(after)
    // The pictures themselves are nobody's text, whatever is in them.
    expect(words.split(point)).toHaveLength(41)
    for (const kept of ['header', 'Camera', 'Pier', 'Maker', 'Model', 'tkhd']) expect(words).toContain(kept)
    const changed = [...film].flatMap((byte, at) => (byte === after[at] ? [] : [at]))
    expect(changed.length).toBeLessThan(300)
  })

  test('is taken out however the film comes in pieces', () => {
    const films = [filmOf(false), filmOf(true), filmOf(true, longBox)]
    const whole = films.map((film) => text(passed(film)))
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 400 }), { minLength: 1, maxLength: 20 }), (sizes) => {
        expect(films.map((film) => text(passed(film, sizes)))).toEqual(whole)
      }),
    )
  })

  test('is left to what is no film, or broken: it goes on as it is, whole', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 400 }), fc.integer({ min: 1, max: 50 }), (bytes, size) => {
        const film = joined([ftyp, bytes])
        expect(passed(film, [size]).length).toBe(film.length)
      }),
    )
    expect(isFilm(latin('GIF89a..'))).toBe(false)
    for (const broken of [box('moov', long(4) as never, 'udta'), joined([long(0) as never, 'mdat', point])])
      expect(text(passed(joined([ftyp, broken])))).toBe(text(joined([ftyp, broken])))
  })

  test('does not hold what is too large to be told', () => {
    const place = new FilmPlace()
    const large = joined([ftyp, long(400_000_000) as never, 'udta'])
    expect(joined(place.push(large)).length).toBe(large.length)
    for (let turn = 0; turn < 5; turn++) expect(place.push(new Uint8Array(1_000))).toHaveLength(1)
  })
})
