import type { SeenGroup } from '#core/delivery'
import { maybeOne, type Queryable } from '#server/platform'

/** What visitors get of what was sent. */
export interface SeenSite {
  readonly looked: number
  readonly groups: readonly (SeenGroup & { readonly first: string })[]
}

/** What they got of what one delivery sent; null where it was not asked for yet. */
export const seenOf = async (db: Queryable, deliveryId: string): Promise<SeenSite | null> =>
  (await maybeOne<{ seen: SeenSite | null }>(db, 'SELECT seen FROM deliveries WHERE id = $1', [deliveryId]))
    ?.seen ?? null

/** Keeps that with the delivery; nothing where it is another destination's. */
export const noteSeen = (
  db: Queryable,
  destinationId: string,
  deliveryId: string,
  seen: SeenSite,
): Promise<unknown> =>
  db.query('UPDATE deliveries SET seen = $3 WHERE id = $2 AND destination_id = $1', [
    destinationId,
    deliveryId,
    JSON.stringify(seen),
  ])
