import { readdir, readFile } from 'node:fs/promises'
import path from 'node:path'
import type { Kit } from '#core/kit'
import type { Hash } from '#core/site'
import { hashOf } from '#server/contents'
import { type LaidOut, manifestName, readLayout } from './layout'

/** A kit that comes with the application, and all that it holds. */
export interface ShippedKit {
  /** The name of its folder. */
  readonly id: string
  readonly kit: Kit
  readonly contents: ReadonlyMap<Hash, Buffer>
}

/** The order in which they are offered: the usual one first. */
const order = ['plain', 'handbook', 'journal', 'notice-board', 'exhibition']

/** Reads a kit from a folder that is laid out as a kit's ZIP is. */
async function readFolder(folder: string): Promise<ShippedKit> {
  const entries = await readdir(folder, { recursive: true, withFileTypes: true })
  const files = new Map<string, LaidOut>()
  const contents = new Map<Hash, Buffer>()
  for (const entry of entries) {
    if (!entry.isFile()) continue
    const file = path.join(entry.parentPath, entry.name)
    const bytes = await readFile(file)
    const hash = hashOf(bytes)
    contents.set(hash, bytes)
    files.set(path.relative(folder, file).replaceAll(path.sep, '/'), {
      hash,
      sizeBytes: bytes.length,
      head: bytes,
    })
  }
  const manifest = await readFile(path.join(folder, manifestName), 'utf8')
  const kit = await readLayout(manifest, (at) => files.get(at))
  return { id: path.basename(folder), kit, contents }
}

let shipped: Promise<readonly ShippedKit[]> | null = null

/** The kits that ship, read once. */
export function shippedKits(folder = path.resolve('kits')): Promise<readonly ShippedKit[]> {
  shipped ??= Promise.all(order.map((id) => readFolder(path.join(folder, id))))
  shipped.catch(() => (shipped = null))
  return shipped
}
