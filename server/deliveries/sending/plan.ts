import { type ComparedFile, kindInStep } from '#core/delivery'
import { pool, transaction } from '#server/platform'
import { type PlacedFile, refreshListing } from '../looking/compare'
import type { Transport } from '../transfer/transport'
import { removals } from './ask'
import type { ClaimedDelivery } from './delivery-rows'
import { insertItems, type ItemRow, type ItemState, listItems, planItems } from './item-rows'

/** What there is to do, counted. */
export interface DeliveryPlan {
  readonly fileTotal: number
  readonly byteTotal: number
  readonly heldCount: number
}

const asPlaced = ({ path, hash, sizeBytes, pageId, step }: ItemRow): PlacedFile => ({
  ...{ path, hash: hash!, sizeBytes, pageId },
  ...kindInStep(step),
})

/** What there is to do with a file, by what is there. */
function stateFor({ state }: ComparedFile, { replaces, begun, state: was }: ItemRow): ItemState {
  if (state === 'same') return was === 'sent' ? 'sent' : 'same'
  const isAnothers = state === 'changed there' || state === 'other there' || state === 'unknown'
  return isAnothers && !replaces && !begun ? 'held' : 'waiting'
}

/**
 * Looks at what is there and writes what there is to do with each file of a delivery. What somebody else put there
 * and its author has not seen is left as it is, and told.
 */
export async function planDelivery(
  { id, destinationId, removeLeftovers }: ClaimedDelivery,
  transport: Transport,
  signal: AbortSignal,
): Promise<DeliveryPlan> {
  const items = await listItems(pool(), id)
  const manifest = items.filter(({ hash }) => hash !== null).map(asPlaced)
  const comparison = await refreshListing(transport, destinationId, manifest)
  signal.throwIfAborted()
  const rows = new Map(items.map((item) => [item.path, item]))
  const states = comparison.files.map((file) => ({
    path: file.path,
    state: stateFor(file, rows.get(file.path)!),
  }))
  const listed = new Set(comparison.leftovers.map(({ path }) => path))
  // One that is not there any more is removed without being asked for.
  for (const { path, hash } of items)
    if (hash === null) states.push({ path, state: listed.has(path) ? 'waiting' : 'removed' })
  const left = comparison.leftovers.filter(({ state, path }) => state === 'to remove' && !rows.has(path))
  const gone = removeLeftovers ? left.map(({ path }) => path) : []
  await transaction(async (client) => {
    await insertItems(client, id, removals(gone))
    await planItems(client, id, [...states, ...gone.map((path) => ({ path, state: 'waiting' as const }))])
  })
  const toSend = states
    .filter(({ path, state }) => state === 'waiting' && rows.get(path)!.hash !== null)
    .map(({ path }) => rows.get(path)!)
  return {
    fileTotal: toSend.length,
    byteTotal: toSend.reduce((sum, item) => sum + item.sizeBytes, 0),
    heldCount: states.filter(({ state }) => state === 'held').length,
  }
}
