import type { SiteFile } from '#core/site'
import type { WantedPicture } from './picture-dialog'

/** Where the window has a file of the site from. */
export const fileAddress = (siteId: string, fileId: string): string => `/sites/${siteId}/files/${fileId}`

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
