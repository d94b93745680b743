import { type Found, type Rule } from '../../rule'
import { shownPictures } from './shown-pictures'

/** Sizes that differ by less are a matter of rounding. */
const tolerance = 0.03

/** A picture without width and height, or with some that are not in its proportion (HTML §4.8.17). */
export const pictureSize: Rule = {
  id: 'picture-size',
  grade: 'detail',
  title: 'Pictures without their size, or out of proportion',
  why: 'Without a size the text jumps when the picture comes; with a wrong one faces are drawn wide.',
  reads: 'site',
  find(context) {
    const found: Found[] = []
    for (const { picture, file, pixels, place, was } of shownPictures(context)) {
      const { width, height, start } = picture
      const at = start + '<img'.length
      if (width === null && height === null) {
        const size = ` width="${pixels.width}" height="${pixels.height}"`
        found.push({
          mark: picture.src,
          place,
          what: `${file.label} stands here without width and height.`,
          mends: [{ words: `Write${size}`, edits: [{ start: at, end: at, text: size }], was }],
        })
      } else if (width !== null && height !== null && height > 0) {
        const wanted = Math.round((width * pixels.height) / pixels.width)
        if (Math.abs(wanted - height) <= Math.max(1, height * tolerance)) continue
        found.push({
          mark: `${picture.src} ${width} ${height}`,
          place,
          what: `${file.label} is ${pixels.width} × ${pixels.height} and is shown as ${width} × ${height}; in proportion it would be ${width} × ${wanted}.`,
        })
      }
    }
    return found
  },
}
