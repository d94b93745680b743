import { type Comparison, type ManifestFile, removalStep, stepOf } from '#core/delivery'
import { Problem } from '#core/problems'
import { PostgresContents, putBlobs } from '#server/contents'
import { pool, portionsOf, transaction } from '#server/platform'
import type { SiteFiles, StoredSite } from '#server/sites'
import { filesFor } from '../places/files-for'
import { againstKnown, placed } from '../looking/compare'
import { insertDelivery } from './delivery-rows'
import { insertItems, type Item } from './item-rows'

/** What an author wants of a delivery; without anything else, all that differs, and to go on after a cut. */
export interface Wishes {
  /** The files to send; null for all that differ when it begins. */
  readonly paths?: ReadonlySet<string> | null
  /** Whether what earlier deliveries left there and the site no longer has is removed. */
  readonly removeLeftovers?: boolean
  /** Files there, whoever put them there, that are to be removed. */
  readonly strays?: readonly string[]
  readonly goesOn?: boolean
  /** When it begins; null for at once. */
  readonly beginAt?: Date | null
}

/**
 * Asks for a delivery of the site as it is now: every file is frozen with its hash, and its content kept, so that
 * an edit made meanwhile belongs to the next one.
 * @param accountId who asks
 * @returns its id; null when one to that destination is under way
 * @throws Problem `content-missing`, `too-large`
 */
export async function askDelivery(
  stored: StoredSite,
  { destinationId, accountId }: { destinationId: string; accountId: string },
  { paths = null, removeLeftovers = false, strays = [], goesOn = false, beginAt = null }: Wishes = {},
  signal?: AbortSignal,
): Promise<{ id: string } | null> {
  const files = await filesFor(stored.site, destinationId, signal)
  const wanted = paths ? files.manifest.filter(({ path }) => paths.has(path)) : files.manifest
  await keepContents(files, wanted, signal)
  const replaced = replacedBy(await againstKnown(destinationId, wanted))
  const send = placed(wanted, stored.site).map((file): Item => ({
    ...file,
    step: stepOf(file),
    replaces: replaced.has(file.path),
  }))
  // Of a choice, what else is of the site is no leftover, and only the whole of it tells that.
  const { leftovers } = await againstKnown(destinationId, files.manifest)
  const gone = new Set(removeLeftovers && paths ? leftoversOf({ leftovers }) : [])
  const others = new Set(leftovers.map(({ path }) => path))
  for (const path of strays) if (others.has(path)) gone.add(path)
  const remove = removals([...gone])
  return transaction(async (client) => {
    const delivery = await insertDelivery(client, {
      destinationId,
      revision: stored.revision,
      removeLeftovers: removeLeftovers && !paths,
      goesOn,
      beginAt,
      putBack: null,
      askedBy: accountId,
    })
    if (delivery) await insertItems(client, delivery.id, [...send, ...remove])
    return delivery
  })
}

/** Files to be removed, as rows of a delivery. */
export const removals = (paths: readonly string[]): Item[] =>
  paths.map((path) => ({
    path,
    hash: null,
    sizeBytes: 0,
    pageId: null,
    step: removalStep,
    replaces: true,
  }))

const leftoversOf = ({ leftovers }: Pick<Comparison, 'leftovers'>): string[] =>
  leftovers.filter(({ state }) => state === 'to remove').map(({ path }) => path)

/** Files that stand where somebody else put something, as far as is known: who asks has seen it. */
export const replacedBy = ({ files }: Comparison): ReadonlySet<string> =>
  new Set(
    files
      .filter(({ state }) => state === 'changed there' || state === 'other there' || state === 'unknown')
      .map(({ path }) => path),
  )

/** Keeps the contents of finished files that are made, not stored, for as long as a record names them. */
async function keepContents(
  files: SiteFiles,
  wanted: readonly ManifestFile[],
  signal: AbortSignal | undefined,
): Promise<void> {
  const kept = await new PostgresContents(pool()).sizes(wanted.map(({ hash }) => hash))
  for (const portion of portionsOf(wanted.filter(({ hash }) => !kept.has(hash)))) {
    signal?.throwIfAborted()
    const bytes = await files.bytesOf(portion.map(({ path }) => path))
    // One that is large is stored already: it is nobody's but the author's.
    const made = portion.flatMap(({ path }) => bytes.get(path) ?? [])
    if (made.length < portion.length) throw new Problem('content-missing')
    await putBlobs(pool(), made)
  }
}
