import { type Comparison, kindInStep } from '#core/delivery'
import { Problem } from '#core/problems'
import { PostgresContents } from '#server/contents'
import { pool, transaction } from '#server/platform'
import { againstKnown } from '../looking/compare'
import { replacedBy } from './ask'
import { type Delivery, insertDelivery } from './delivery-rows'
import { insertItems } from './item-rows'
import { recordOf, type RecordLine, type StateFile, stateAfter } from './record-rows'

/** How a file of one state stands in another. */
export interface StateChange {
  readonly path: string
  readonly change: 'comes' | 'goes' | 'differs'
}

/** A delivery's record, and what putting its state back would do. */
export interface DeliveryRecord {
  readonly lines: readonly RecordLine[]
  /** Against what is known to be there now, or against the state after another delivery. */
  readonly changes: readonly StateChange[]
  readonly fileCount: number
  /** Whether every content of that state is kept, so that it can be put back. */
  readonly isKept: boolean
}

/** Lines of a record that are shown. */
const mostLines = 2_000

const asManifest = (files: readonly StateFile[]) =>
  files.map((file) => ({ ...file, ...kindInStep(file.step) }))

function changesOf({ files, leftovers }: Comparison): StateChange[] {
  const changes: StateChange[] = files.flatMap(({ path, state }) => {
    if (state === 'same') return []
    return [{ path, change: state === 'new' || state === 'gone there' ? 'comes' : 'differs' }]
  })
  for (const { path, state } of leftovers) if (state === 'to remove') changes.push({ path, change: 'goes' })
  return changes.sort((a, b) => (a.path < b.path ? -1 : 1))
}

/** What differs from one state to another. */
export function compareStates(from: readonly StateFile[], to: readonly StateFile[]): StateChange[] {
  const before = new Map(from.map((file) => [file.path, file.hash]))
  const changes: StateChange[] = []
  for (const { path, hash } of to) {
    const was = before.get(path)
    before.delete(path)
    if (was === undefined) changes.push({ path, change: 'comes' })
    else if (was !== hash) changes.push({ path, change: 'differs' })
  }
  for (const path of before.keys()) changes.push({ path, change: 'goes' })
  return changes.sort((a, b) => (a.path < b.path ? -1 : 1))
}

async function areKept(files: readonly StateFile[]): Promise<boolean> {
  const kept = await new PostgresContents(pool()).sizes(files.map(({ hash }) => hash))
  return files.every(({ hash }) => kept.has(hash))
}

/**
 * A delivery's record beside what is there now, or beside the state after another.
 * @param other the delivery that it is held against; null for what is there
 */
export async function readRecord(
  { id, destinationId }: Pick<Delivery, 'id' | 'destinationId'>,
  other: string | null,
): Promise<DeliveryRecord> {
  const [lines, state] = await Promise.all([
    recordOf(pool(), id, mostLines),
    stateAfter(pool(), destinationId, id),
  ])
  const changes = other
    ? compareStates(await stateAfter(pool(), destinationId, other), state)
    : changesOf(await againstKnown(destinationId, asManifest(state)))
  return { lines, changes, fileCount: state.length, isKept: state.length > 0 && (await areKept(state)) }
}

/**
 * Asks for a delivery that puts back what an earlier one had left there; what came since and is in no state of then is
 * removed. The site itself stays as it is.
 * @returns its id; null when one to that destination is under way
 * @throws Problem `not-kept`
 */
export async function askToPutBack(
  { id, destinationId, revision }: Pick<Delivery, 'id' | 'destinationId' | 'revision'>,
  accountId: string,
): Promise<{ id: string } | null> {
  const state = await stateAfter(pool(), destinationId, id)
  if (state.length === 0 || !(await areKept(state))) throw new Problem('not-kept')
  const replaced = replacedBy(await againstKnown(destinationId, asManifest(state)))
  return transaction(async (client) => {
    const delivery = await insertDelivery(client, {
      destinationId,
      revision,
      removeLeftovers: true,
      goesOn: true,
      beginAt: null,
      putBack: id,
      askedBy: accountId,
    })
    if (delivery)
      await insertItems(
        client,
        delivery.id,
        state.map((file) => ({ ...file, replaces: replaced.has(file.path) })),
      )
    return delivery
  })
}
