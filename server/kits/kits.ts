import { randomUUID } from 'node:crypto'
import { contentsOfKit, faultOfKit, kitOfSite, type Kit } from '#core/kit'
import { Problem } from '#core/problems'
import type { Hash, Site } from '#core/site'
import {
  getBlobs,
  getTexts,
  type Pieces,
  PostgresContents,
  lookedThrough,
  putBlobs,
  readAhead,
  readFilesAhead,
  textFrom,
  unpack,
} from '#server/contents'
import { pool, transaction } from '#server/platform'
import { readTemplateAhead, tellingBytes, usesOfFiles, zipSite } from '#server/sites'
import { deleteKept, findKept, insertKit, type KeptKit, listKept } from './kit-rows'
import { type LaidOut, layOut, manifestName, mostKitFiles, readLayout } from './layout'
import { shippedKits } from './shipped'

/** A kit that an account can choose from: one of its own, or one that ships. */
export interface OfferedKit extends KeptKit {
  readonly isOwn: boolean
}

/** Kits that ship, then those that the account keeps. */
export async function listKits(accountId: string): Promise<OfferedKit[]> {
  const own = await listKept(pool(), accountId)
  return [
    ...(await shippedKits()).map(({ id, kit }) => ({ id, kit, isOwn: false })),
    ...own.map((one) => ({ ...one, isOwn: true })),
  ]
}

const uuid = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/

/** A kit that ships or that the account keeps; null for any other. */
export async function findKit(accountId: string, id: string): Promise<OfferedKit | null> {
  const ships = (await shippedKits()).find((one) => one.id === id)
  if (ships) return { id, kit: ships.kit, isOwn: false }
  const own = uuid.test(id) ? await findKept(pool(), accountId, id) : null
  return own && { ...own, isOwn: true }
}

/** What a kit holds, whole; a kit is small. */
export async function contentsOf({ id, kit, isOwn }: OfferedKit): Promise<ReadonlyMap<Hash, Buffer>> {
  if (isOwn) return getBlobs(pool(), contentsOfKit(kit))
  return (await shippedKits()).find((one) => one.id === id)!.contents
}

/** A kit with its contents kept, so that a site can be made with it. */
export async function kitToUse(accountId: string, id: string): Promise<Kit | null> {
  const found = await findKit(accountId, id)
  if (found && !found.isOwn) await putBlobs(pool(), [...(await contentsOf(found)).values()])
  return found?.kit ?? null
}

/** All that one kit may hold, in bytes. */
const mostKitBytes = 20_000_000

/** Keeps scheme, templates and styles of a site under a name; a kit of that name gives way. Returns its id. */
export async function keepKit(
  site: Site,
  accountId: string,
  said: Pick<Kit, 'name' | 'about'>,
): Promise<string> {
  const uses = await usesOfFiles(site)
  const kit = kitOfSite(site, said, (id) => (uses[id] ?? []).some(({ kind }) => kind !== 'page'))
  const fault = faultOfKit(kit)
  if (fault !== null) throw new Problem('bad-kit', { why: fault })
  if (kit.files.reduce((sum, file) => sum + file.sizeBytes, 0) > mostKitBytes)
    throw new Problem('archive-too-large', { most: `${mostKitBytes / 1_000_000} MB` })
  return keep(accountId, kit)
}

async function keep(accountId: string, kit: Kit): Promise<string> {
  const id = randomUUID()
  await transaction((client) => insertKit(client, accountId, id, kit))
  return id
}

export const forgetKit = (accountId: string, id: string): Promise<void> => deleteKept(pool(), accountId, id)

/**
 * Takes a kit in from a ZIP and keeps it under its name; its folder may stand in another one.
 * @throws Problem `bad-kit`, `not-an-archive`, `archive-too-large`, `too-heavy`, `template-too-heavy`, and those of
 *   `lookedThrough`
 */
export async function takeKit(accountId: string, body: Pieces): Promise<string> {
  const store = new PostgresContents(pool())
  const files = new Map<string, LaidOut>()
  const limits = { packedBytes: mostKitBytes, bytes: mostKitBytes, files: mostKitFiles * 2 }
  for await (const { path, pieces } of unpack(body, limits)) {
    let head = Buffer.alloc(0)
    async function* headed() {
      for await (const piece of pieces()) {
        if (head.length < tellingBytes) head = Buffer.concat([head, piece.subarray(0, tellingBytes)])
        yield piece
      }
    }
    const stored = await store.put(lookedThrough(headed(), path))
    files.set(path, { ...stored, head })
  }
  const manifestPath = [...files.keys()]
    .filter((path) => path === manifestName || path.endsWith(`/${manifestName}`))
    .sort((a, b) => a.length - b.length)[0]
  if (manifestPath === undefined) throw new Problem('bad-kit', { why: `There is no ${manifestName} in it.` })
  const folder = manifestPath.slice(0, -manifestName.length)
  const { hash } = files.get(manifestPath)!
  const manifest = (await getTexts(pool(), [hash])).get(hash)!
  const kit = await readLayout(manifest, (path) => files.get(folder + path))
  const styles = kit.files.filter(({ kind }) => kind === 'style').map((file) => file.hash)
  const sources = kit.templates.map(({ source }) => source)
  const textOf = textFrom(await getTexts(pool(), [...styles, ...sources]))
  for (const source of sources) await readTemplateAhead(textOf(source))
  for (const style of styles) await readAhead('css', textOf(style))
  await readFilesAhead(kit.files)
  return keep(accountId, kit)
}

/** A kit as a ZIP. */
export async function zipKit(offered: OfferedKit): Promise<ReadableStream<Uint8Array>> {
  const contents = await contentsOf(offered)
  const { manifest, contents: laidOut } = layOut(offered.kit)
  const files = new Map<string, Buffer>([[manifestName, Buffer.from(manifest)]])
  for (const [path, hash] of laidOut) files.set(path, contents.get(hash)!)
  return zipSite({
    manifest: [...files].map(([path, bytes]) => ({
      path,
      hash: '',
      sizeBytes: bytes.length,
      kind: 'file',
      isHome: false,
    })),
    bytesOf: async (paths) => new Map(paths.map((path) => [path, files.get(path)!])),
    piecesOf: async () => null,
  })
}
