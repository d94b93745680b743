import { contentsOfOriginals, textsOfPage } from '#core/site'
import { getTexts } from '#server/contents'
import { notFound, pool } from '#server/platform'
import { isInHistory } from '#server/sites'
import { requireSite } from '../../../owner.server'
import type { Route } from './+types/texts'

/** A text of this site by its hash: a page's content, the template, a style sheet. */
export async function loader({ request, params }: Route.LoaderArgs) {
  const { site } = await requireSite(request, params.siteId, 'look')
  const { hash } = params
  // A hash is no key: what this site does not hold, now or in its history, is not handed out.
  const held =
    site.pages.some((page) => textsOfPage(page).some((text) => text.hash === hash)) ||
    contentsOfOriginals(site.pages).includes(hash) ||
    site.templates.some((template) => template.source === hash) ||
    site.files.some((file) => file.kind === 'style' && file.hash === hash) ||
    (await isInHistory(site.id, hash))
  const text = held ? (await getTexts(pool(), [hash])).get(hash) : undefined
  if (text === undefined) throw notFound()
  return new Response(text, {
    headers: {
      'content-type': 'text/plain; charset=utf-8',
      'cache-control': 'private, max-age=31536000, immutable',
    },
  })
}
