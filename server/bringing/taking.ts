import { randomUUID } from 'node:crypto'
import type { Remark } from '#core/bringing'
import { Problem, type ProblemCode } from '#core/problems'
import { isOfSystem, mostFileBytes } from '#core/site'
import {
  addPortions,
  dropPartial,
  isTaken,
  lookedThrough,
  lookThrough,
  notePartialTaken,
  openPartial,
  pendingBytes,
  type Pieces,
  PostgresContents,
  putBlobs,
  receivedBytes,
  unpack,
} from '#server/contents'
import { notFound, pool } from '#server/platform'
import {
  addUnread,
  type Corrections,
  deleteBringing,
  findBringing,
  insertBringing,
  putCorrections,
  putWaiting,
  weighWaiting,
} from './bringing-rows'

/** What one site that is brought in may have. */
const mostFiles = 20_000
const mostBytes = 2_000_000_000

export async function beginBringing(accountId: string, name: string): Promise<string> {
  const id = randomUUID()
  await insertBringing(pool(), accountId, id, name.slice(0, 200))
  return id
}

/** Whether something of an account's waits under an id. */
export const waitsForAccount = async (accountId: string, id: string): Promise<boolean> =>
  (await findBringing(pool(), accountId, id)) !== null

async function roomFor(accountId: string, id: string): Promise<{ files: number; bytes: number }> {
  if (!(await findBringing(pool(), accountId, id))) throw notFound()
  const has = await weighWaiting(pool(), id)
  return { files: mostFiles - has.files, bytes: mostBytes - has.bytes }
}

const tooMuch = () =>
  new Problem('archive-too-large', { most: `${mostFiles.toLocaleString('en')} files and 2,000 MB` })

/**
 * A path from the top, without steps that lead out, its letters composed as references write them (Unicode Normalization
 * Form C; disks of macOS have them decomposed); null for one that is none.
 */
function cleanPath(path: string): string | null {
  const steps = path
    .normalize('NFC')
    .replaceAll('\\', '/')
    .split('/')
    .filter((step) => step !== '' && step !== '.')
  const isOdd = steps.some((step) => step === '..' || /[\u0000-\u001f]/.test(step))
  return steps.length === 0 || isOdd || path.length > 1_000 ? null : steps.join('/')
}

/**
 * Takes one file of a folder. What is wrong with it alone leaves it out, and it is told with the rest that does not come.
 * @returns whether it was taken, or is one that nobody wants
 * @throws Problem `archive-too-large`, `bad-input`, `not-looked-through`
 */
export async function takeBroughtFile(
  accountId: string,
  id: string,
  path: string,
  body: Pieces,
): Promise<boolean> {
  const at = cleanPath(path)
  if (at === null) throw new Problem('bad-input', { why: `“${path.slice(0, 100)}” is no path of a file.` })
  const room = await roomFor(accountId, id)
  if (room.files <= 0) throw tooMuch()
  if (isOfSystem(at)) return true
  return unlessLeftOut(id, at, async () => {
    const stored = await new PostgresContents(pool()).put(lookedThrough(counted(body, room.bytes), at))
    await putWaiting(pool(), id, [{ path: at, ...stored }])
  })
}

/** What leaves out one file, and nothing beside it: it is harmful, nobody can tell, or it is too large. */
const ofOneFile: ReadonlySet<string> = new Set<ProblemCode>([
  'harmful-file',
  'too-large-to-look-through',
  'file-too-large',
])

/** Takes a file unless something is wrong with it alone; then it is told with what does not come. */
async function unlessLeftOut(id: string, path: string, take: () => Promise<void>): Promise<boolean> {
  try {
    await take()
    return true
  } catch (error) {
    if (!(error instanceof Problem) || !ofOneFile.has(error.code)) throw error
    await addUnread(pool(), id, [{ path, why: error.message }])
    return false
  }
}

async function* counted(body: Pieces, room: number) {
  let size = 0
  for await (const piece of body) {
    size += piece.byteLength
    if (size > mostFileBytes) throw new Problem('file-too-large', { most: '200 MB' })
    if (size > room) throw tooMuch()
    yield piece
  }
}

/**
 * Takes a ZIP, file by file; what is wrong with one alone leaves it out.
 * @throws Problem `not-an-archive`, `archive-too-large`, `not-looked-through`
 */
export async function takeBroughtZip(accountId: string, id: string, body: Pieces): Promise<void> {
  const { files, bytes } = await roomFor(accountId, id)
  const store = new PostgresContents(pool())
  /** Small files, stored some hundred at a time: one by one a site of pages took as long as understanding it. */
  let held: { readonly path: string; readonly bytes: Buffer }[] = []
  let heldBytes = 0
  const putHeld = async () => {
    if (held.length === 0) return
    const hashes = await putBlobs(
      pool(),
      held.map((one) => one.bytes),
    )
    const waiting = held.map((one, index) => ({
      path: one.path,
      hash: hashes[index]!,
      sizeBytes: one.bytes.length,
    }))
    await putWaiting(pool(), id, waiting)
    held = []
    heldBytes = 0
  }
  for await (const { path, sizeBytes, pieces } of unpack(body, { packedBytes: mostBytes, bytes, files })) {
    const at = cleanPath(path)
    if (at === null || isOfSystem(at)) continue
    if (sizeBytes > smallFile) {
      await unlessLeftOut(id, at, async () => {
        const stored = await store.put(lookedThrough(counted(pieces(), bytes), at))
        await putWaiting(pool(), id, [{ path: at, ...stored }])
      })
      continue
    }
    const read: Uint8Array[] = []
    // What an archive says of its sizes is checked as it is unpacked.
    for await (const piece of counted(pieces(), bytes)) read.push(piece)
    const whole = Buffer.concat(read)
    if (!(await unlessLeftOut(id, at, () => lookThrough(whole, at)))) continue
    held.push({ path: at, bytes: whole })
    heldBytes += sizeBytes
    if (held.length >= 200 || heldBytes > heldAtOnce) await putHeld()
  }
  await putHeld()
}

/**
 * Takes some more of a file that comes in several requests; see `addPortions`.
 * @returns how many bytes of it are here
 * @throws Problem `archive-too-large`
 */
export async function takeBroughtPortions(
  accountId: string,
  id: string,
  uploadId: string,
  from: number,
  body: Pieces,
): Promise<number> {
  const of = { bringingId: id }
  let room = (await roomFor(accountId, id)).bytes - (await pendingBytes(pool(), of))
  async function* counted() {
    for await (const piece of body) {
      room -= piece.byteLength
      if (room < 0) throw tooMuch()
      yield piece
    }
  }
  return addPortions(pool(), of, uploadId, from, counted())
}

/** How much is here of a file that comes in several requests. */
export async function broughtBytes(accountId: string, id: string, uploadId: string): Promise<number> {
  if (!(await waitsForAccount(accountId, id))) throw notFound()
  return receivedBytes(pool(), { bringingId: id }, uploadId)
}

/**
 * What has come of an upload, in pieces: something else than files of a site is made of it.
 * @throws Problem `upload-gone`
 */
export async function openBrought(
  accountId: string,
  id: string,
  uploadId: string,
  sizeBytes: number,
): Promise<Pieces> {
  const has = await broughtBytes(accountId, id, uploadId)
  const pieces = has === sizeBytes ? await openPartial(pool(), { bringingId: id }, uploadId) : null
  if (!pieces) throw new Problem('upload-gone')
  return pieces
}

/** What is being taken of all that has come in several requests: a ZIP takes a while. */
const beingTaken = new Map<string, Promise<void>>()

/**
 * Takes a file of which all has come, or, without a path, a ZIP. Asked for again since the answer was lost, it is taken once.
 * @throws Problem as `takeBroughtFile` and `takeBroughtZip`, and `upload-gone` where some of it is not here any more
 */
export async function takeBroughtWhole(
  accountId: string,
  id: string,
  uploadId: string,
  path: string | null,
  sizeBytes: number,
): Promise<void> {
  const of = { bringingId: id }
  if (!(await waitsForAccount(accountId, id))) throw notFound()
  if (await isTaken(pool(), of, uploadId)) return
  const key = `${id} ${uploadId}`
  const known = beingTaken.get(key)
  if (known) return known
  const take = async () => {
    const pieces = await openBrought(accountId, id, uploadId, sizeBytes)
    try {
      if (path === null) await takeBroughtZip(accountId, id, pieces)
      else await takeBroughtFile(accountId, id, path, pieces)
    } catch (error) {
      // What is wrong with it stays so.
      if (error instanceof Problem) await dropPartial(pool(), of, uploadId)
      throw error
    }
    await notePartialTaken(pool(), of, uploadId)
  }
  const taking = take().finally(() => beingTaken.delete(key))
  beingTaken.set(key, taking)
  return taking
}

/** Files that are held until there are some, and what is held of them. */
const smallFile = 500_000
const heldAtOnce = 8_000_000

/** Notes what of a site did not come, and why: it is told with the rest that is worth knowing. */
export const noteUnread = (id: string, unread: readonly Remark[]): Promise<void> =>
  addUnread(pool(), id, unread)

/** Keeps what the author of files that wait says otherwise than it was found. */
export async function correctBringing(
  accountId: string,
  id: string,
  corrections: Partial<Corrections>,
): Promise<void> {
  if (!(await putCorrections(pool(), accountId, id, corrections))) throw notFound()
}

export const dropBringing = (accountId: string, id: string): Promise<void> =>
  deleteBringing(pool(), accountId, id)
