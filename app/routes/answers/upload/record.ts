import Joi from 'joi'
import { findDelivery, readRecord } from '#server/deliveries'
import { notFound, pool } from '#server/platform'
import { answerProblems, checkInput, requireSite } from '../../../owner.server'
import type { Route } from './+types/record'

const uuid = Joi.string().guid({ version: 'uuidv4' })
const input = Joi.object<{ against: string | null }>({ against: uuid.allow(null).empty('').default(null) })

/** What a delivery did, and what its state would change of what is there, or of the state after another. */
export async function loader({ request, params }: Route.LoaderArgs) {
  const { site } = await requireSite(request, params.siteId, 'deliver')
  return answerProblems(async () => {
    const { against } = checkInput(input, Object.fromEntries(new URL(request.url).searchParams))
    const find = async (id: string) => {
      const found = uuid.validate(id).error ? null : await findDelivery(pool(), id, site.id)
      if (!found) throw notFound()
      return found
    }
    const delivery = await find(params.deliveryId)
    const other = against === null ? null : await find(against)
    if (other && other.destinationId !== delivery.destinationId) throw notFound()
    return Response.json(await readRecord(delivery, against), { headers: { 'cache-control': 'no-store' } })
  })
}
