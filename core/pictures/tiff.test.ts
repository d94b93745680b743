import { expect, test } from '@jest/globals'
import fc from 'fast-check'
import { onePageOf } from './tiff'

type Field = readonly [tag: number, type: number, count: number, value: number]
const page: readonly Field[] = [[256, 3, 1, 3], [257, 4, 1, 2], [259, 3, 1, 1], [273, 4, 1, 8], [279, 4, 1, 6]] // prettier-ignore

/** A file of directories one after the other, in either order of bytes; `next` of the last. */
function tiff(directories: readonly (readonly Field[])[], { little = true, next = 0 } = {}): Uint8Array {
  const sizeOf = (fields: readonly Field[]) => 2 + fields.length * 12 + 4
  const bytes = new Uint8Array(16 + directories.reduce((sum, fields) => sum + sizeOf(fields), 0))
  const view = new DataView(bytes.buffer)
  view.setUint16(0, little ? 0x4949 : 0x4d4d)
  view.setUint16(2, 42, little)
  view.setUint32(4, 16, little)
  let at = 16
  for (const [nth, fields] of directories.entries()) {
    view.setUint16(at, fields.length, little)
    for (const [index, [tag, type, count, value]] of fields.entries()) {
      const entry = at + 2 + index * 12
      view.setUint16(entry, tag, little)
      view.setUint16(entry + 2, type, little)
      view.setUint32(entry + 4, count, little)
      if (type === 3) view.setUint16(entry + 8, value, little)
      else view.setUint32(entry + 8, value, little)
    }
    const after = at + sizeOf(fields)
    view.setUint32(after - 4, nth + 1 < directories.length ? after : next, little)
    at = after
  }
  return bytes
}
const most = 1_000
const tagsOf = (bytes: Uint8Array | null, little = true) => {
  const view = new DataView(bytes!.buffer)
  const at = view.getUint32(4, little)
  const fields = view.getUint16(at, little)
  expect(view.getUint32(at + 2 + fields * 12, little)).toBe(0)
  return Array.from({ length: fields }, (_, nth) => view.getUint16(at + 2 + nth * 12, little))
}

test.each([true, false])('one page is taken by itself, without what it names beside it (little-endian: %s)', (little) => {
  const copy: Field[] = [[254, 4, 1, 1], ...page]
  const odd: Field[] = [...page, [330, 4, 1, 16], [34_665, 4, 1, 16], [258, 3, 4_000_000_000, 0], [320, 99, 1, 0]]
  expect(tagsOf(onePageOf(tiff([copy, odd], { little }), most), little)).toEqual([256, 257, 259, 273, 279, 0, 0, 0, 0])
  const file = tiff([page], { little })
  expect(onePageOf(file, most)).toEqual(file)
}) // prettier-ignore

test('several pages, circles, too many dots and what is no such file are left', () => {
  const large: Field[] = [[256, 4, 1, 0xffffffff], [257, 4, 1, 2]]
  for (const file of [tiff([page, page]), tiff([page], { next: 16 }), tiff([page], { next: 9_999 }), tiff([large]), tiff([[]]), tiff([]), new Uint8Array(3), new TextEncoder().encode('II, as it says')])
    expect(onePageOf(file, most)).toBeNull()
}) // prettier-ignore

test('whatever is damaged, it ends', () => {
  const file = tiff([page, [[254, 4, 1, 1], ...page]])
  fc.assert(
    fc.property(fc.array(fc.tuple(fc.nat(), fc.nat(255)), { minLength: 1, maxLength: 20 }), (changes) => {
      const damaged = file.slice()
      for (const [at, value] of changes) damaged[at % damaged.length] = value
      expect([null, damaged.length]).toContain(onePageOf(damaged, most)?.length ?? null)
    }),
    { numRuns: 500 },
  )
})
