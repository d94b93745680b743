import { type Found, type Rule } from '../../rule'
import { shownPictures } from './shown-pictures'

/** So many pixels of its own for each that it is shown in: more than any screen has. */
const most = 3
/** Smaller files are no burden whatever they show. */
const smallBytes = 60_000

const inKilobytes = (bytes: number) => `${Math.round(bytes / 1000).toLocaleString('en')} KB`

/** A picture with far more pixels than it is shown in. */
export const pictureTooLarge: Rule = {
  id: 'picture-too-large',
  grade: 'hinders',
  title: 'Pictures far larger than they are shown',
  why: 'On a slow line visitors wait for pixels that they never see, and pay for them.',
  reads: 'site',
  find(context) {
    const found: Found[] = []
    for (const { picture, file, pixels, place } of shownPictures(context)) {
      if (picture.width === null || picture.width === 0 || file.sizeBytes < smallBytes) continue
      if (pixels.width <= picture.width * most) continue
      found.push({
        mark: picture.src,
        place,
        what: `${file.label} is ${pixels.width} pixels wide and ${inKilobytes(file.sizeBytes)}, and is shown ${picture.width} wide. A copy twice as wide as it is shown is enough.`,
      })
    }
    return found
  },
}
