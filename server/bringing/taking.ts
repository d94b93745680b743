import { randomUUID } from 'node:crypto'
import type { Remark } from '#core/bringing'
import { Problem, type ProblemCode } from '#core/problems'
import { isOfSystem, mostFileBytes } from '#core/site'
import { lookedThrough, lookThrough, type Pieces, PostgresContents, putBlobs, unpack } from '#server/contents'
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
