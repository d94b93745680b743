/** Bytes of a value of each type of field (TIFF 6.0 §2), by its number; 13 is that of directories (its supplement 1). */
const sizes = [0, 1, 1, 2, 4, 8, 1, 1, 2, 4, 8, 4, 8, 4]
/** Fields that say how the dots of a picture are kept (§8, §11, §13–§15, §20–§22, its supplement 2), and how it is turned. */
const ofPicture = new Set([
  254, 256, 257, 258, 259, 262, 266, 273, 274, 277, 278, 279, 284, 292, 293, 317, 320, 322, 323, 324, 325, 332, 338, 339, 347,
  513, 514, 529, 530, 531, 532,
]) // prettier-ignore
const [subfileType, width, height] = [254, 256, 257]
/** Fields of a directory, at most: pictures have some twenty. */
const mostFields = 500

/**
 * The picture of a TIFF file that has one page, as a file of that alone: what it has beside it, what other directories it names
 * and values that lie beyond its end are out, so that whoever reads it cannot be led round in circles. The bytes of the picture
 * stay where they are.
 * @param mostPixels it is not read when it has more
 * @returns null for what is no TIFF file or damaged, and for one of several pages
 */
export function onePageOf(file: Uint8Array, mostPixels: number): Uint8Array<ArrayBuffer> | null {
  const bytes = Uint8Array.from(file)
  const view = new DataView(bytes.buffer)
  const order = bytes.length < 8 ? 0 : view.getUint16(0)
  const little = order === 0x4949
  if ((!little && order !== 0x4d4d) || view.getUint16(2, little) !== 42) return null
  const valueAt = (at: number) => (view.getUint16(at + 2, little) === 3 ? view.getUint16(at + 8, little) : view.getUint32(at + 8, little)) // prettier-ignore
  const seen = new Set<number>()
  let first: number | null = null
  for (let at = view.getUint32(4, little); at !== 0;) {
    const fields = at + 2 > bytes.length ? Infinity : view.getUint16(at, little)
    const end = at + 2 + fields * 12
    if (seen.has(at) || fields > mostFields || end + 4 > bytes.length) return null
    seen.add(at)
    const fieldOf = (tag: number) => {
      for (let entry = at + 2; entry < end; entry += 12)
        if (view.getUint16(entry, little) === tag) return entry
      return null
    }
    const kind = fieldOf(subfileType)
    // A smaller copy of a page stands beside it.
    const isPage = kind === null || (valueAt(kind) & 1) === 0
    if (isPage && first !== null) return null
    if (isPage) {
      const [wide, high] = [fieldOf(width), fieldOf(height)]
      const pixels = wide !== null && high !== null ? valueAt(wide) * valueAt(high) : 0
      if (pixels === 0 || pixels > mostPixels) return null
      first = at
    }
    at = view.getUint32(end, little)
  }
  if (first === null) return null
  view.setUint32(4, first, little)
  const end = first + 2 + view.getUint16(first, little) * 12
  for (let entry = first + 2; entry < end; entry += 12) {
    const [tag, type, count] = [view.getUint16(entry, little), view.getUint16(entry + 2, little), view.getUint32(entry + 4, little)]
    const length = count * (sizes[type] ?? Infinity)
    const isInside = length <= 4 || view.getUint32(entry + 8, little) + length <= bytes.length
    if (ofPicture.has(tag) && isInside) continue
    // A field that nobody knows, without a value.
    view.setUint16(entry, 0, little)
    view.setUint16(entry + 2, 1, little)
    view.setUint32(entry + 4, 0, little)
  } // prettier-ignore
  view.setUint32(end, 0, little)
  return bytes
}
