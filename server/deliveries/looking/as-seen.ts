import { isDeepStrictEqual } from 'node:util'
import {
  addsSlash,
  type DeliveredFile,
  folderOfHome,
  groupSeen,
  type HostTraits,
  isForVisitors,
  judgeSeen,
  type ManifestFile,
  type SeenAnswer,
  type SeenFault,
  type SeenGroup,
} from '#core/delivery'
import { encodePath } from '#core/markup'
import { homeFileOf } from '#core/template'
import { askOutside, deadline, eachOf, limitFollowing, limitReadingBack, pool } from '#server/platform'
import type { StoredSite } from '#server/sites'
import { filesFor } from '../places/files-for'
import type { Destination } from '../places/destination-rows'
import { noteTraitsOf } from '../places/web-host-rows'
import { sentBy } from '../sending/record-rows'
import { compareKnown } from './compare'
import { noteSeen, type SeenSite } from './seen-rows'

/** Asked at a time, so that a small host goes on serving visitors. */
const atOnce = 6
/** Until it answers, and how long it may pause. */
const patience = { answerMs: 15_000, idleMs: 15_000 }
/** Beyond that, a file is given what it takes on the slowest line that is waited for. */
const slowestBytesPerMs = 4
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

/** Files of a group that are named. */
const mostPaths = 200

/** What an address gave when it was as it was sent, by the tag that its host gave it (RFC 9110 §8.8.3). */
const seenBefore = new Map<string, { readonly etag: string; readonly answer: SeenAnswer }>()
const mostSeenBefore = 20_000

/**
 * Asks for an address as a visitor does; null where nobody answers. What was seen before is not sent again by hosts that tag
 * what they send.
 * @param wanted what is expected there; null asks without the body
 */
async function see(
  url: URL,
  wanted: Pick<ManifestFile, 'hash' | 'sizeBytes'> | null,
  cancelled: AbortSignal,
): Promise<SeenAnswer | null> {
  const reads = wanted !== null && wanted.sizeBytes <= mostBytes
  const comesMs = reads ? wanted.sizeBytes / slowestBytesPerMs : 0
  const signal = deadline(2 * patience.answerMs + comesMs, cancelled)
  const before = seenBefore.get(url.href)
  const known = before && before.answer.hash === (wanted?.hash ?? null) ? before : null
  try {
    const method = reads ? 'GET' : 'HEAD'
    const conditional = known ? { ...headers, 'if-none-match': known.etag } : headers
    const most = reads ? mostBytes + 1 : 0
    const { status, headers: said, hash } = await askOutside(url, method, conditional, signal, most, patience)
    if (status === 304 && known) return known.answer
    const answer = {
      status,
      location: said.location ?? null,
      contentType: said['content-type'] ?? '',
      hash: status === 200 ? hash : null,
    }
    const { etag } = said
    // A weak one says that it is about the same.
    if (etag && !etag.startsWith('W/') && answer.hash !== null && answer.hash === wanted?.hash) {
      if (seenBefore.size >= mostSeenBefore) seenBefore.clear()
      seenBefore.set(url.href, { etag, answer })
    } else seenBefore.delete(url.href)
    return answer
  } catch {
    cancelled.throwIfAborted()
    return null
  }
}

/** What one site's files are judged by. */
interface Looking {
  readonly publicAddress: string
  /** Name of its home files, which visitors come to by the addresses of their folders. */
  readonly homeFile: string
  readonly signal: AbortSignal
}

/** What is wrong with how one file is seen. */
interface Judged {
  readonly path: string
  readonly fault: SeenFault | null
  /** Of a home page: whether its folder shows one; null where that is not known, and of any other file. */
  readonly showsHome: boolean | null
}

async function judge(
  { path, kind, hash, sizeBytes }: ManifestFile,
  { publicAddress, homeFile, signal }: Looking,
): Promise<Judged> {
  const file: DeliveredFile = { path, kind, hash }
  const ask = (at: string) => see(new URL(encodePath(at), publicAddress), { hash, sizeBytes }, signal)
  const folder = folderOfHome(path, homeFile)
  const first = await ask(folder ?? path)
  const fault = judgeSeen(file, first)
  if (folder === null || fault === null || fault === 'silent')
    return { path, fault, showsHome: folder !== null && fault === null ? true : null }
  const ofFile = judgeSeen(file, await ask(path))
  // Where the folder shows something, another file may only be in front of it.
  const isNone = ofFile === null && first !== null && first.status >= 400
  return { path, fault: ofFile ?? 'folder', showsHome: isNone ? false : null }
}

/** What the homes of folders show of the host; nothing where the site has none that tell. */
async function traitsSeen(
  judged: readonly Judged[],
  { publicAddress, homeFile, signal }: Looking,
): Promise<HostTraits> {
  const shown = judged.filter(({ showsHome }) => showsHome)
  const below = shown.find(({ path }) => path !== homeFile)
  const isKnown = judged.some(({ showsHome }) => showsHome !== null)
  const told = isKnown ? { showsHome: shown.length > 0 } : {}
  if (!below) return told
  const folder = new URL(encodePath(folderOfHome(below.path, homeFile)!), publicAddress)
  const adds = addsSlash(folder, await see(new URL(folder.href.slice(0, -1)), null, signal))
  return adds === null ? told : { ...told, addsSlash: adds }
}

/**
 * Asks the public address for every file that was sent and is there as it was, and tells what visitors get otherwise.
 * Home pages are asked for at the addresses of their folders, as visitors come to them; what that shows of the host is kept.
 * @param deliveryId asks for what that one sent alone, and keeps with it what is seen; null for all that is known to be there
 * @param tell told how many were asked for, of how many
 */
export async function seeAsVisitors(
  stored: StoredSite,
  accountId: string,
  destination: Pick<Destination, 'id' | 'publicAddress'>,
  deliveryId: string | null,
  signal: AbortSignal,
  tell: (done: number, all: number) => void,
): Promise<SeenSite> {
  if (deliveryId === null) await limitFollowing(accountId, 'The site was looked at several times just now.')
  else await limitReadingBack(accountId)
  const { manifest } = await filesFor(stored.site, destination.id, signal)
  const { files } = await compareKnown(stored, destination.id, signal)
  const sent = new Set(files.filter(({ state }) => state === 'same').map(({ path }) => path))
  const sentThen = deliveryId === null ? null : new Set(await sentBy(pool(), destination.id, deliveryId))
  const wanted = manifest.filter(
    ({ path }) => sent.has(path) && (sentThen?.has(path) ?? true) && isForVisitors(path),
  )
  const judged: Judged[] = []
  const looking = { publicAddress: destination.publicAddress, homeFile: homeFileOf(stored.site), signal }
  await eachOf(wanted, atOnce, async (file) => {
    signal.throwIfAborted()
    // It tells enough; and who is asked may not be the author's own server.
    if (judged.length >= enoughToTell && judged.every(({ fault }) => fault !== null && elsewhere.has(fault)))
      return
    judged.push(await judge(file, looking))
    tell(judged.length, wanted.length)
  })
  const traits = await traitsSeen(judged, looking)
  if (!isDeepStrictEqual(traits, {})) await noteTraitsOf(pool(), destination.id, traits)
  judged.sort((a, b) => (a.path < b.path ? -1 : 1))
  /** Where a visitor meets it: at the file itself all is well where its folder does not show it. */
  const shownAt = ({ fault, paths: [path] }: SeenGroup) =>
    (fault === 'folder' ? folderOfHome(path!, looking.homeFile) : null) ?? path!
  const groups = groupSeen(judged).map((group) => ({
    ...group,
    paths: group.paths.slice(0, mostPaths),
    first: new URL(encodePath(shownAt(group)), destination.publicAddress).href,
  }))
  const seen = { looked: judged.length, groups }
  if (deliveryId !== null) await noteSeen(pool(), destination.id, deliveryId, seen)
  return seen
}
