import type { SiteFile } from '#core/site'
import { fileAddress } from '../files/file-address'
import type { WantedPicture } from './picture-dialog'

/** A picture of the site, to be put into a text. */
export function fileAsPicture(siteId: string, file: SiteFile): WantedPicture {
  const shown = fileAddress(siteId, file.id)
  return {
    name: file.label,
    shown,
    sizeBytes: file.sizeBytes,
    bytes: async () => (await fetch(shown)).blob(),
    fileId: Promise.resolve(file.id),
  }
}
