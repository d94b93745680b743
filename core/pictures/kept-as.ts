/** Bytes at the front of a picture in which its colour profile is looked for. */
const profileBytes = 65_536
/** As the profile is called in it, in letters of one byte or of two (ICC.1, `desc` and `mluc`). */
const displayP3 = /D\0?i\0?s\0?p\0?l\0?a\0?y\0? \0?P\0?3/

/** Whether the colours of a picture are those of Display P3, by its ICC profile: telephones take photographs so. */
export const isOfDisplayP3 = (file: Uint8Array): boolean =>
  displayP3.test(new TextDecoder('latin1').decode(file.subarray(0, profileBytes)))

/** A picture of fewer colours is a drawing or a scan of print. */
const fewColours = 256

/**
 * Whether a picture is kept better as PNG than as JPEG: it has few colours, whose edges JPEG blurs, or what is behind it shows.
 * @param data four bytes a dot: red, green, blue, and how much hides what is behind
 */
export function isDrawn(data: Uint8ClampedArray): boolean {
  const colours = new Set<number>()
  for (let at = 0; at + 3 < data.length; at += 4) {
    if (data[at + 3] !== 0xff) return true
    if (colours.size <= fewColours) colours.add((data[at]! << 16) | (data[at + 1]! << 8) | data[at + 2]!)
  }
  return colours.size <= fewColours
}
