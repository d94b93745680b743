import type { SiteFile } from '#core/site'
import type { WantedPicture } from './picture-dialog'

/** A picture of the site, to be put into a text. */
export function fileAsPicture(siteId: string, file: SiteFile): WantedPicture {
  const shown = `/sites/${siteId}/files/${file.id}`
  return {
    name: file.label,
    shown,
    sizeBytes: file.sizeBytes,
    bytes: async () => (await fetch(shown)).blob(),
    fileId: Promise.resolve(file.id),
  }
}
