import Joi from 'joi'
import { findPlaces } from '#server/sites'
import { answerProblems, checkInput, requireSite } from '../../owner.server'
import type { Route } from './+types/places'

const query = Joi.object<{ q: string }>({ q: Joi.string().required().allow('').max(200) })

/** Headings of the site's pages that have some letters in them, to link to. */
export async function loader({ request, params }: Route.LoaderArgs) {
  const { site } = await requireSite(request, params.siteId, 'look')
  return answerProblems(async () => {
    const { q } = checkInput(query, Object.fromEntries(new URL(request.url).searchParams))
    return Response.json({ places: await findPlaces(site, q) })
  })
}
