import { pictureForm, pixelBytes } from '#core/pictures'
import { askOnce } from '../workers/ask-once'
import type { OtherForm, PictureAnswer, PictureQuestion } from './picture.answer'

/** Names of pictures in forms that few browsers show, or that nobody should wait for. */
const named = /\.(heic|heif|tiff?|bmp)$/i
const formsOf: Readonly<Record<string, OtherForm>> = { heic: 'heic', heif: 'heic', tiff: 'tiff', bmp: 'bmp' }

/** Whether a file may be such a picture, by its name. */
export const mayBeOther = (name: string): boolean => named.test(name)

/** A picture in a form that every browser shows; null for any other file, and for one that cannot be read. */
export async function inShownForm(file: File, signal: AbortSignal): Promise<File | null> {
  const front = new Uint8Array(await file.slice(0, pixelBytes).arrayBuffer())
  const form = formsOf[pictureForm(front) ?? '']
  if (form === undefined) return null
  const made = await askOnce<PictureQuestion, PictureAnswer>('picture', { form, file }, signal)
  if (made === null) return null
  const name = file.name.replace(named, `.${made.extension}`)
  return new File([made.file], name, { type: made.file.type, lastModified: file.lastModified })
}
