import { Readable } from 'node:stream'
import type { ReadableStream as NodeStream } from 'node:stream/web'
import mime from 'mime-types'
import { notFound } from '#server/platform'
import { openFile } from '#server/sites'
import { requireSite } from '../../../owner.server'
import type { Route } from './+types/file'

/** A file's bytes, for showing it in the window. */
export async function loader({ request, params }: Route.LoaderArgs) {
  const { site } = await requireSite(request, params.siteId, 'look')
  const file = site.files.find(({ id }) => id === params.fileId)
  const content = file && (await openFile(file))
  if (!content) throw notFound()
  return new Response(Readable.toWeb(Readable.from(content.pieces)) as NodeStream as ReadableStream, {
    headers: {
      'content-type':
        mime.contentType(file.label.slice(file.label.lastIndexOf('.'))) || 'application/octet-stream',
      'content-length': String(content.sizeBytes),
      'cache-control': 'private, no-cache',
      etag: `"${file.hash}"`,
      // It is the author's: opened by itself it has no origin and runs nothing.
      'content-security-policy': `sandbox; default-src 'none'; style-src 'unsafe-inline'; img-src data:`,
    },
  })
}
