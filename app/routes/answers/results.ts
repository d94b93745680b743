import Joi from 'joi'
import { notFound, pool } from '#server/platform'
import { buildForPage, lineOrigins, slotLines } from '#server/sites'
import { answerProblems, checkInput, requireSite } from '../../owner.server'
import type { Route } from './+types/results'

const query = Joi.object<{ line?: number; slot?: string }>({
  line: Joi.number().integer().min(1),
  slot: Joi.string().max(100),
})

/** The finished HTML of one page, as text; with `line`, what wrote that line of it; with `slot`, where its lines are. */
export async function loader({ request, params }: Route.LoaderArgs) {
  const { site } = await requireSite(request, params.siteId, 'look')
  if (!site.pages.some((page) => page.id === params.pageId)) throw notFound()
  return answerProblems(async () => {
    const { line, slot } = checkInput(query, Object.fromEntries(new URL(request.url).searchParams))
    if (line !== undefined) {
      const origins = await lineOrigins(pool(), site, params.pageId, line)
      if (origins === null) throw notFound()
      return Response.json({ origins })
    }
    if (slot !== undefined)
      return Response.json({ offset: await slotLines(pool(), site, params.pageId, slot) })
    const html = (await buildForPage(pool(), site, params.pageId)).textOf(params.pageId)
    return new Response(html, {
      headers: { 'content-type': 'text/plain; charset=utf-8', 'cache-control': 'no-store' },
    })
  })
}
