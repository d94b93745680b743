import mime from 'mime-types'
import { notFound } from '#server/platform'
import { answerContent } from '#server/contents'
import { requireSite } from '../../../owner.server'
import type { Route } from './+types/file'

/** A file's bytes, for showing it in the window. */
export async function loader({ request, params }: Route.LoaderArgs) {
  const { site } = await requireSite(request, params.siteId, 'look')
  const file = site.files.find(({ id }) => id === params.fileId)
  if (!file) throw notFound()
  const answer = await answerContent(file.hash, request, {
    'content-type':
      mime.contentType(file.label.slice(file.label.lastIndexOf('.'))) || 'application/octet-stream',
    'cache-control': 'private, no-cache',
    etag: `"${file.hash}"`,
    // It is the author's: opened by itself it has no origin and runs nothing.
    'content-security-policy': `sandbox; default-src 'none'; style-src 'unsafe-inline'; img-src data:`,
  })
  if (!answer) throw notFound()
  return answer
}
