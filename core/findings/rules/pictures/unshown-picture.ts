import { type Found, type Rule } from '../../rule'
import { placedPictures } from './shown-pictures'

/** Forms of telephones, cameras, scanners and programs that draw: no browser shows them, or one alone does. */
const unshown = /\.(heic|heif|tiff?|psd|xcf|eps|ai|dng|cr2|cr3|nef|arw|orf|raw|jp2|jxr|pcx|tga|wmf|emf)$/i

/** A picture in a form that most visitors will not see. */
export const unshownPicture: Rule = {
  id: 'unshown-picture',
  grade: 'breaks',
  title: 'Pictures in forms that few browsers show',
  why: 'Most visitors see an empty frame where the picture should be.',
  reads: 'site',
  find(context) {
    const found: Found[] = []
    for (const { picture, file, place } of placedPictures(context)) {
      const [, extension] = unshown.exec(context.names.files.get(file.id) ?? '') ?? []
      if (extension === undefined) continue
      const anew = /^(heic|heif|tiff?)$/i.test(extension)
        ? 'Drop it on this text once more: on its way a photograph or a page becomes a picture that they all show.'
        : 'Save it as JPEG or PNG in the program that made it, and put that in its place.'
      found.push({
        mark: picture.src,
        place,
        what: `${file.label} is a picture of the form ${extension.toUpperCase()}. ${anew}`,
      })
    }
    return found
  },
}
