import { pictureForm, pixelBytes } from '#core/pictures'
import { askOnce } from '../workers/ask-once'
import type { OtherForm, PictureAnswer, PictureQuestion } from './picture.answer'

/** Names of pictures in forms that few browsers show, or that nobody should wait for. */
const named = /\.(heic|heif|tiff?|bmp)$/i
/** What people call photographs of telephones, too, in the belief that this makes them so. */
const renamed = /\.(jpe?g|png)$/i
const formsOf: Readonly<Record<string, OtherForm>> = { heic: 'heic', heif: 'heic', tiff: 'tiff', bmp: 'bmp' }

/** The form of a picture that few browsers show, or that nobody should wait for; null for any other file. */
export async function otherFormOf(file: File): Promise<OtherForm | null> {
  if (!named.test(file.name) && !renamed.test(file.name)) return null
  const front = await file.slice(0, pixelBytes).arrayBuffer().catch(() => null) // prettier-ignore
  return (front && formsOf[pictureForm(new Uint8Array(front)) ?? '']) ?? null
}

/** Such a picture in a form that every browser shows; null for one that cannot be read. */
export async function inShownForm(file: File, form: OtherForm, signal: AbortSignal): Promise<File | null> {
  const made = await askOnce<PictureQuestion, PictureAnswer>('picture', { form, file }, signal)
  if (made === null) return null
  const name = file.name.replace(/\.\w+$/, `.${made.extension}`)
  return new File([made.file], name, { type: made.file.type, lastModified: file.lastModified })
}
