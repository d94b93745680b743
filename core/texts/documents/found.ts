import { pictureForm } from '#core/pictures'

/** A picture as it stood in a document. */
export interface FoundPicture {
  readonly bytes: Uint8Array
  /** What it says to somebody who cannot see it; null where its author did not say. */
  readonly alt: string | null
}

/** What was found in a document, as it is told on from one format to all that is done with any. */
export interface Found {
  /** Plain HTML: an `h1` of the class `title` where the document has one, pictures by their number in `src`. */
  readonly html: string
  readonly pictures: readonly FoundPicture[]
}

/** The number of a picture among those that were found; one that stands in several places is kept once. */
export function numberOf(found: FoundPicture[], picture: FoundPicture): number {
  const at = found.findIndex(
    ({ bytes, alt }) =>
      alt === picture.alt &&
      bytes.length === picture.bytes.length &&
      bytes.every((byte, index) => byte === picture.bytes[index]),
  )
  return at < 0 ? found.push(picture) - 1 : at
}

/** The media type of a picture, and how its file's name ends. */
export interface PictureForm {
  readonly type: string
  readonly extension: string
}

/** Forms that every browser shows, and how their files' names end. */
const shown: Readonly<Record<string, PictureForm>> = {
  jpg: { type: 'image/jpeg', extension: 'jpg' },
  png: { type: 'image/png', extension: 'png' },
  gif: { type: 'image/gif', extension: 'gif' },
  webp: { type: 'image/webp', extension: 'webp' },
  svg: { type: 'image/svg+xml', extension: 'svg' },
}

export const formOf = (bytes: Uint8Array): PictureForm | undefined => shown[pictureForm(bytes) ?? '']
