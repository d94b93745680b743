import { notFound, pool } from '#server/platform'
import { buildForPage } from '#server/sites'
import { answerProblems, requireSite } from '../../owner.server'
import type { Route } from './+types/results'

/** The finished HTML of one page, as text. */
export async function loader({ request, params }: Route.LoaderArgs) {
  const { site } = await requireSite(request, params.siteId)
  if (!site.pages.some((page) => page.id === params.pageId)) throw notFound()
  return answerProblems(async () => {
    const html = (await buildForPage(pool(), site, params.pageId)).textOf(params.pageId)
    return new Response(html, {
      headers: { 'content-type': 'text/plain; charset=utf-8', 'cache-control': 'no-store' },
    })
  })
}
