/** Bytes at the front of a photograph that can say where it was taken: what comes before the picture itself. */
export const placeBytes = 262_144

const ascii = (bytes: Uint8Array, from: number, to: number) =>
  String.fromCharCode(...bytes.subarray(from, Math.min(to, bytes.length)))

/**
 * Takes out of the front of a JPEG file where it was taken: the GPS part of its EXIF data (CIPA DC-008
 * §4.6.6) and of its XMP packet. In place, and no byte moves. What is no JPEG, or broken, stays as it is.
 * @param bytes at least the first `placeBytes` of the file, or all of it
 * @returns whether anything was taken out
 */
export function blankPlace(bytes: Uint8Array): boolean {
  if (bytes[0] !== 0xff || bytes[1] !== 0xd8) return false
  let taken = false
  // Segments up to the picture itself: a marker, then two bytes of length (ITU-T T.81 §B.1.1.4).
  for (let at = 2; at + 4 <= bytes.length && bytes[at] === 0xff;) {
    const marker = bytes[at + 1]!
    if (marker === 0xff) {
      at += 1
      continue
    }
    if (marker === 0xda || marker === 0xd9) break
    const length = (bytes[at + 2]! << 8) | bytes[at + 3]!
    if (length < 2) break
    const [start, end] = [at + 4, Math.min(at + 2 + length, bytes.length)]
    if (marker === 0xe1) {
      // The names that the two standards give their segments (CIPA DC-008, ISO 16684-1).
      if (ascii(bytes, start, start + 6) === 'Exif\0\0')
        taken = blankGps(bytes.subarray(start + 6, end)) || taken
      else if (ascii(bytes, start, start + 28) === 'http://ns.adobe.com/xap/1.0/')
        taken = blankXmp(bytes.subarray(start, end)) || taken
    }
    at += 2 + length
  }
  return taken
}

/** Sizes of the types of TIFF fields (TIFF 6.0 §2), by their number. */
const sizes = [0, 1, 1, 2, 4, 8, 1, 1, 2, 4, 8, 4, 8]
const gpsTag = 0x8825
/** Directories of fields that are followed: two, and whatever a broken file claims. */
const mostDirectories = 8

/** The GPS directory of TIFF data: its fields and what they point to become zero, and nothing names it. */
function blankGps(tiff: Uint8Array): boolean {
  const view = new DataView(tiff.buffer, tiff.byteOffset, tiff.byteLength)
  const order = ascii(tiff, 0, 2)
  if (tiff.length < 8 || (order !== 'II' && order !== 'MM')) return false
  const little = order === 'II'
  const word = (at: number) => (at + 2 <= tiff.length ? view.getUint16(at, little) : 0)
  const long = (at: number) => (at + 4 <= tiff.length ? view.getUint32(at, little) : 0)
  let taken = false
  let directory = long(4)
  for (let count = 0; directory > 0 && count < mostDirectories; count++) {
    const fields = word(directory)
    for (let index = 0; index < fields; index++) {
      const at = directory + 2 + index * 12
      if (at + 12 > tiff.length) break
      if (word(at) !== gpsTag) continue
      blankDirectory(long(at + 8))
      tiff.fill(0, at + 8, at + 12)
      taken = true
    }
    directory = long(directory + 2 + fields * 12)
  }
  return taken

  function blankDirectory(at: number): void {
    const fields = word(at)
    for (let index = 0; index < fields; index++) {
      const field = at + 2 + index * 12
      if (field + 12 > tiff.length) break
      const bytes = (sizes[word(field + 2)] ?? 0) * long(field + 4)
      if (bytes > 4) tiff.fill(0, Math.min(long(field + 8), tiff.length), long(field + 8) + bytes)
    }
    tiff.fill(0, Math.min(at, tiff.length), at + 2 + fields * 12)
  }
}

/** Values of `exif:GPS…` in an XMP packet, attributes and elements, become spaces. */
function blankXmp(packet: Uint8Array): boolean {
  // Latin-1 keeps a byte a letter, so places in the text are places in the bytes.
  const text = new TextDecoder('latin1').decode(packet)
  let taken = false
  for (const match of text.matchAll(/exif:GPS[A-Za-z]+\s*(?:=\s*"([^"]*)"|=\s*'([^']*)'|>([^<]*)<)/g)) {
    const value = match[1] ?? match[2] ?? match[3] ?? ''
    if (value.trim() === '') continue
    const from = match.index + match[0].indexOf(value, match[0].search(/[=>]/))
    packet.fill(0x20, from, from + value.length)
    taken = true
  }
  return taken
}
