import { encodePath } from '#core/markup'
import { namesOf } from '#core/naming'
import { copyWidths, pictureHtml, roomy, type ShownPicture } from '#core/pictures'
import type { SiteStore } from '../document/site-store'
import type { Sending } from '../files/sending'
import { naturalSize, smallerCopies } from './smaller-copies'

/** A picture on its way into the site. */
export interface ComingPicture {
  readonly name: string
  readonly bytes: () => Promise<Blob>
  /** The file of the site that it is, once it is there; null when it was called off. */
  readonly fileId: Promise<string | null>
}

/** Where pictures go; what is called off is not gone on with. */
export interface Placing {
  readonly store: SiteStore
  readonly uploads: Pick<Sending, 'send'>
  readonly signal?: AbortSignal
}

/** How it is to be shown. */
export type WantedLook = Pick<
  ShownPicture,
  'alt' | 'natural' | 'width' | 'isLazy' | 'leadsToFull' | 'caption' | 'isFigure' | 'rest'
> & {
  readonly wantsCopies: boolean
}

/**
 * How a picture is shown unless its author says otherwise: no wider than texts are, with smaller copies where they are worth it.
 * @param wanted the width that it is said to have, in CSS pixels
 */
export function usualLook(natural: ShownPicture['natural'], wanted = roomy) {
  const width = natural && Math.min(natural.width, wanted, roomy)
  return {
    natural,
    width,
    wantsCopies: natural !== null && width !== null && copyWidths(natural, width).length > 0,
  }
}

/**
 * Waits until a picture is in the site, makes smaller copies of it, and writes the HTML that shows it.
 * @param onWork told what is being done
 * @returns null when it was called off
 */
export async function placePicture(
  { store, uploads, signal }: Placing,
  picture: ComingPicture,
  { wantsCopies, ...look }: WantedLook,
  onWork: (work: string) => void = () => {},
): Promise<string | null> {
  const addressOf = (id: string) => `/${encodePath(namesOf(store.get().site).files.get(id) ?? '')}`
  onWork(`Adding ${picture.name}…`)
  const id = await picture.fileId
  if (id === null || signal?.aborted) return null
  const { natural, width } = look
  const widths = natural && width !== null && wantsCopies ? copyWidths(natural, width) : []
  const copies: { address: string; width: number }[] = []
  if (widths.length > 0) {
    onWork(`Making smaller copies of ${picture.name}…`)
    for (const copy of await smallerCopies(await picture.bytes(), picture.name, widths)) {
      if (signal?.aborted) return null
      const copyId = await uploads.send(copy.file, copy.name)
      if (copyId !== null) copies.push({ width: copy.width, address: addressOf(copyId) })
    }
  }
  return pictureHtml({ ...look, address: addressOf(id), copies })
}

/** What is said of a picture that came within something else. */
export interface CameWith {
  readonly alt: string | null
  /** The width that it is said to have, in CSS pixels. */
  readonly width?: number
  readonly isLazy: boolean
}

/** Adds a picture that came within something else, and writes it as usual; null when it was called off. */
export async function placeUsual(
  into: Placing,
  file: Blob,
  name: string,
  { alt, width, isLazy }: CameWith,
  onWork?: (work: string) => void,
): Promise<string | null> {
  const shown = URL.createObjectURL(file)
  const natural = await naturalSize(shown).finally(() => URL.revokeObjectURL(shown))
  const picture = { name, bytes: () => Promise.resolve(file), fileId: into.uploads.send(file, name) }
  const look = { ...usualLook(natural, width), alt, isLazy, leadsToFull: false, caption: '' }
  return placePicture(into, picture, look, onWork)
}
