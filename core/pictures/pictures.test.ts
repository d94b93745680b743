import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { readHtml } from '#core/markup'
import {
  blankPlace,
  copyWidths,
  heightFor,
  captionOf,
  pictureHtml,
  playedAs,
  recordingHtml,
  picturesHtml,
  type ShownPicture,
  widthFor,
} from './index'

/** TIFF data with one directory: a camera's name, and where the photograph was taken. */
function tiff(little: boolean): Uint8Array {
  const bytes = new Uint8Array(140)
  const view = new DataView(bytes.buffer)
  bytes.set([...(little ? 'II' : 'MM')].map((sign) => sign.charCodeAt(0)))
  const word = (at: number, value: number) => view.setUint16(at, value, little)
  const long = (at: number, value: number) => view.setUint32(at, value, little)
  const field = (at: number, tag: number, type: number, count: number, value: number) => {
    word(at, tag)
    word(at + 2, type)
    long(at + 4, count)
    long(at + 8, value)
  }
  word(2, 42)
  long(4, 8)
  word(8, 2)
  field(10, 0x0110, 2, 6, 50)
  field(22, 0x8825, 4, 1, 60)
  bytes.set(new TextEncoder().encode('Argo 3'), 50)
  word(60, 2)
  field(62, 1, 2, 2, 0x4e000000)
  field(74, 2, 5, 3, 100)
  for (let at = 100; at < 124; at++) bytes[at] = 7
  return bytes
}
const segment = (marker: number, data: Uint8Array) => [
  0xff,
  marker,
  (data.length + 2) >> 8,
  (data.length + 2) & 255,
  ...data,
]
const bytesOf = (text: string) => new TextEncoder().encode(text)
const jpeg = (...segments: number[][]) =>
  Uint8Array.from([0xff, 0xd8, ...segments.flat(), ...segment(0xda, bytesOf('..')), 1, 2, 3, 0xff, 0xd9])
const exif = (data: Uint8Array) => segment(0xe1, Uint8Array.from([...bytesOf('Exif\0\0'), ...data]))

describe('where a photograph was taken', () => {
  test.each([true, false])(
    'is taken out of its EXIF data, and nothing else (little-endian: %s)',
    (little) => {
      const before = jpeg(segment(0xe0, bytesOf('JFIF\0')), exif(tiff(little)))
      const after = before.slice()
      expect(blankPlace(after)).toBe(true)
      expect(after).toHaveLength(before.length)
      const text = new TextDecoder('latin1').decode(after)
      expect(text).toContain('Argo 3')
      expect(text).not.toContain('\x07\x07')
      const differs = [...after.keys()].filter((at) => after[at] !== before[at])
      const start = new TextDecoder('latin1').decode(before).indexOf('Exif') + 6
      // The pointer to the directory, the directory, and what it points to.
      expect(differs.every((at) => (at >= start + 30 && at < start + 34) || (at >= start + 60 && at < start + 124))).toBe(true) // prettier-ignore
      expect(blankPlace(after.slice())).toBe(true)
    },
  )

  test('is taken out of an XMP packet as well', () => {
    const xmp = bytesOf('http://ns.adobe.com/xap/1.0/\0<x exif:GPSLatitude="58,12.5N" tiff:Make="Argo"><exif:GPSLongitude>7,3W</exif:GPSLongitude></x>')
    const photo = jpeg(segment(0xe1, xmp))
    expect(blankPlace(photo)).toBe(true)
    const text = new TextDecoder('latin1').decode(photo)
    expect(text).toContain('exif:GPSLatitude="        "')
    expect(text).toContain('>    </exif')
    expect(text).toContain('tiff:Make="Argo"')
  }) // prettier-ignore

  test('any bytes are read to their end, and what is no photograph stays as it is', () => {
    const plain = Uint8Array.from([1, 2, 3])
    expect(blankPlace(plain)).toBe(false)
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 300 }), fc.nat(200), fc.nat(255), (noise, at, value) => {
        const raw = Uint8Array.from([0xff, 0xd8, ...noise])
        blankPlace(raw)
        const broken = jpeg(exif(tiff(true)))
        broken[at] = value
        blankPlace(broken)
        blankPlace(broken.subarray(0, at))
      }),
      { numRuns: 500 },
    )
  })
})

describe('a picture', () => {
  const natural = { width: 4032, height: 3024 }
  const shown: ShownPicture = {
    address: '/images/pier.jpg', alt: 'The “pier” & more', natural, width: 800, copies: [], isLazy: true, leadsToFull: false, caption: '',
  } // prettier-ignore

  test('keeps its proportion, whichever side is given', () => {
    expect(heightFor(natural, 800)).toBe(600)
    expect(widthFor(natural, 600)).toBe(800)
    expect(heightFor({ width: 10_000, height: 1 }, 10)).toBe(1)
  })

  test('gets smaller copies only where they are smaller by far', () => {
    expect(copyWidths(natural, 800)).toEqual([800, 1600])
    expect(copyWidths({ width: 1_200, height: 900 }, 800)).toEqual([800])
    expect(copyWidths({ width: 900, height: 900 }, 800)).toEqual([])
  })

  test('is written with all that a browser needs to choose and to keep its room', () => {
    expect(pictureHtml(shown)).toBe('<img src="/images/pier.jpg" alt="The “pier” &amp; more" width="800" height="600" loading="lazy">')
    const copies = [{ address: '/images/pier-1600.jpg', width: 1600 }, { address: '/images/pier-800.jpg', width: 800 }]
    const html = pictureHtml({ ...shown, copies, leadsToFull: true, isLazy: false })
    expect(html).toBe('<a href="/images/pier.jpg"><img src="/images/pier-800.jpg" alt="The “pier” &amp; more" srcset="/images/pier-800.jpg 800w, /images/pier-1600.jpg 1600w, /images/pier.jpg 4032w" sizes="(min-width: 800px) 800px, 100vw" width="800" height="600"></a>')
    expect(readHtml(html).references.map(({ href }) => href)).toEqual(['/images/pier.jpg', '/images/pier-800.jpg', '/images/pier-800.jpg', '/images/pier-1600.jpg', '/images/pier.jpg'])
    expect(pictureHtml({ ...shown, natural: null, width: null, alt: '', isLazy: false })).toBe('<img src="/images/pier.jpg" alt="">')
  }) // prettier-ignore

  test('that moves is played once it is asked for, in proportion; a sound has its words, and no number of a camera for them', () => {
    const film = { kind: 'video', address: '/files/the "pier".mp4', natural: { width: 1920, height: 1080 }, caption: '' } as const
    const html = recordingHtml(film)
    expect(html).toBe('<figure>\n  <video src="/files/the &quot;pier&quot;.mp4" controls preload="metadata" width="800" height="450"></video>\n</figure>')
    expect(readHtml(html).references.map(({ href }) => href)).toEqual(['/files/the "pier".mp4'])
    expect(recordingHtml({ ...film, natural: { width: 480, height: 270 } })).toContain('width="480" height="270"')
    expect(recordingHtml({ kind: 'audio', address: '/files/bell.mp3', natural: null, caption: 'The bell & <tide>' })).toBe(
      '<figure>\n  <audio src="/files/bell.mp3" controls preload="metadata"></audio>\n  <figcaption>The bell &amp; &lt;tide&gt;</figcaption>\n</figure>',
    )
    expect(['Boat.MP4', 'IMG_0042.MOV', 'bell.wav', 'bell.m4a', 'pier.jpg', 'mp4', 'a.mp4.zip'].map(playedAs)).toEqual(['video', 'video', 'audio', 'audio', null, null, null])
    expect(['IMG_0042', 'VID-20310614-WA0003', '20310614_101500', 'PXL_20310614_101500', 'GOPR0042', 'MVI_0042 (1)'].map(captionOf)).toEqual(Array(6).fill(''))
    expect(['The_bell', 'Terns 2031', 'Fog signal 3', 'a'].map(captionOf)).toEqual(['The bell', 'Terns 2031', 'Fog signal 3', 'a'])
  }) // prettier-ignore

  test('with words below it is a figure; several stand below one another, or as a list side by side', () => {
    const small = { ...shown, natural: null, width: null, alt: '', isLazy: false }
    const plain = pictureHtml(small)
    const told = pictureHtml({ ...small, caption: 'Low tide & <mud>' })
    expect(told).toBe(
      '<figure>\n  <img src="/images/pier.jpg" alt="">\n  <figcaption>Low tide &amp; &lt;mud&gt;</figcaption>\n</figure>',
    )
    expect(picturesHtml([plain, told], 'below', 'pictures')).toBe(`${plain}\n${told}`)
    const beside = picturesHtml([plain, told], 'beside', 'pictures')
    expect(beside).toBe(
      `<ul class="pictures">\n  <li>${plain}</li>\n  <li>\n    <figure>\n      <img src="/images/pier.jpg" alt="">\n      <figcaption>Low tide &amp; &lt;mud&gt;</figcaption>\n    </figure>\n  </li>\n</ul>`,
    )
    expect(readHtml(beside).errorCount).toBe(0)
  })
})
