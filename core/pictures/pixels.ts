import { imageSize } from 'image-size'

/** How large a picture is, in pixels of its own. */
export interface Pixels {
  readonly width: number
  readonly height: number
}

/** Bytes at the front of a file in which its size is looked for; photographs may carry a small copy before it. */
export const pixelBytes = 262_144

/**
 * How large a picture is, as the front of its file says; null for what is no picture, and for drawings that
 * state no size. Its turn (EXIF) is taken into account, as browsers do.
 */
export function readPixels(front: Uint8Array): Pixels | null {
  try {
    const { width, height, orientation = 1 } = imageSize(front)
    if (!(width > 0) || !(height > 0)) return null
    return orientation >= 5 ? { width: height, height: width } : { width, height }
  } catch {
    return null
  }
}

/** In which form a picture is kept, by how its file begins, as it is called in file names: `jpg`, `png`, `svg`…; null for what is no picture. */
export function pictureForm(front: Uint8Array): string | null {
  try {
    return imageSize(front.subarray(0, pixelBytes)).type ?? null
  } catch {
    return null
  }
}
