import {
  type DeliveredFile,
  groupSeen,
  isForVisitors,
  judgeSeen,
  type SeenAnswer,
  type SeenFault,
  type SeenGroup,
} from '#core/delivery'
import { encodePath } from '#core/markup'
import { askOutside, deadline, eachOf, limitFollowing } from '#server/platform'
import type { StoredSite } from '#server/sites'
import { filesFor } from '../places/files-for'
import { compareKnown } from './compare'
import type { Destination } from '../places/destination-rows'

/** Asked at a time, so that a small host goes on serving visitors. */
const atOnce = 6
const deadlineMs = 15_000
/** After so many answers of which none is of this site, no more are asked for. */
const enoughToTell = 24
const elsewhere: ReadonlySet<SeenFault> = new Set(['missing', 'silent', 'moved', 'forbidden'])
/** Of larger files it is only asked whether they are there. */
const mostBytes = 20_000_000

const headers = {
  'user-agent': 'Rubricant (looks whether what was sent is what visitors get)',
  accept: '*/*',
  // As a visitor who wants it fresh; what a cache gives all the same, visitors get, too.
  'cache-control': 'no-cache',
}

/** What visitors get of what was sent. */
export interface SeenSite {
  readonly looked: number
  readonly groups: readonly (SeenGroup & { readonly first: string })[]
}

/** Files of a group that are named. */
const mostPaths = 200

async function see(file: DeliveredFile, sizeBytes: number, address: string, cancelled: AbortSignal): Promise<SeenAnswer | null> {
  const signal = deadline(deadlineMs, cancelled)
  try {
    const isRead = sizeBytes <= mostBytes
    const { status, headers: said, hash } = await askOutside(
      new URL(encodePath(file.path), address),
      isRead ? 'GET' : 'HEAD',
      headers,
      signal,
      isRead ? mostBytes + 1 : 0,
    )
    return { status, location: said.location ?? null, contentType: said['content-type'] ?? '', hash: status === 200 ? hash : null }
  } catch {
    cancelled.throwIfAborted()
    return null
  }
} // prettier-ignore

/**
 * Asks the public address for every file that was sent and is there as it was, and tells what visitors get otherwise.
 * @param tell told how many were asked for, of how many
 */
export async function seeAsVisitors(
  stored: StoredSite,
  accountId: string,
  destination: Pick<Destination, 'id' | 'publicAddress'>,
  signal: AbortSignal,
  tell: (done: number, all: number) => void,
): Promise<SeenSite> {
  await limitFollowing(accountId, 'The site was looked at several times just now.')
  const { manifest } = await filesFor(stored.site, destination.id, signal)
  const { files } = await compareKnown(stored, destination.id, signal)
  const sent = new Set(files.filter(({ state }) => state === 'same').map(({ path }) => path))
  const wanted = manifest.filter(({ path }) => sent.has(path) && isForVisitors(path))
  const judged: { path: string; fault: ReturnType<typeof judgeSeen> }[] = []
  await eachOf(wanted, atOnce, async ({ path, kind, hash, sizeBytes }) => {
    signal.throwIfAborted()
    // It tells enough; and who is asked may not be the author's own server.
    if (judged.length >= enoughToTell && judged.every(({ fault }) => fault !== null && elsewhere.has(fault)))
      return
    const file: DeliveredFile = { path, kind, hash }
    judged.push({
      path,
      fault: judgeSeen(file, await see(file, sizeBytes, destination.publicAddress, signal)),
    })
    tell(judged.length, wanted.length)
  })
  judged.sort((a, b) => (a.path < b.path ? -1 : 1))
  const groups = groupSeen(judged).map((group) => ({
    ...group,
    paths: group.paths.slice(0, mostPaths),
    first: new URL(encodePath(group.paths[0]!), destination.publicAddress).href,
  }))
  return { looked: judged.length, groups }
}
