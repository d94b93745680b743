import { randomBytes, randomUUID } from 'node:crypto'
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals'
import { pool } from '../platform/pool'
import { freshDatabase } from '../testing/support'
import { hashOf } from './blobs'
import { MemoryContents } from './memory-store'
import { PostgresContents } from './postgres-store'
import { type ContentStore, portionBytes } from './store'

let database: Awaited<ReturnType<typeof freshDatabase>>
beforeAll(async () => {
  database = await freshDatabase()
})
afterAll(() => database.close())

interface Tested {
  readonly store: ContentStore
  /** Has something name a content. */
  readonly name: (hash: string) => Promise<void>
  readonly age: (hours: number) => Promise<void>
}

const forms: Record<string, () => Tested> = {
  'in PostgreSQL': () => ({
    store: new PostgresContents(pool()),
    async name(hash) {
      const account = randomUUID()
      await pool().query(`INSERT INTO accounts (id, email, password_hash) VALUES ($1, $2, '')`, [
        account,
        account,
      ])
      const site = randomUUID()
      await pool().query(
        `INSERT INTO sites (id, account_id, name, language, title_pattern, home_id, scheme, next_seq, template_id)
         VALUES ($1, $2, '', 'en', '', $1, '{}', 0, $1)`,
        [site, account],
      )
      await pool().query(`INSERT INTO templates (site_id, id, name, source) VALUES ($1, $1, '', $2)`, [
        site,
        hash,
      ])
    },
    async age(hours) {
      for (const table of ['blobs', 'blob_portions'])
        await pool().query(`UPDATE ${table} SET put_at = put_at - make_interval(hours => $1)`, [hours])
    },
  }),
  'in memory': () => {
    const names = new Set<string>()
    let now = 0
    return {
      store: new MemoryContents(names, () => now),
      name: async (hash) => void names.add(hash),
      age: async (hours) => void (now += hours),
    }
  },
}

async function* inPieces(bytes: Buffer, size: number) {
  for (let at = 0; at < bytes.length; at += size) yield bytes.subarray(at, at + size)
}
const read = async (store: ContentStore, hash: string) => {
  const found = await store.get(hash)
  if (!found) return null
  const pieces: Buffer[] = []
  for await (const piece of found.pieces) pieces.push(piece)
  return { pieces, bytes: Buffer.concat(pieces), sizeBytes: found.sizeBytes }
}

describe.each(Object.entries(forms))('contents %s', (_, form) => {
  let tested: Tested
  beforeAll(() => {
    tested = form()
  })

  test.each([
    ['nothing', 0, 10],
    ['a few bytes', 11, 4],
    ['exactly a portion', portionBytes, 70_000],
    ['a byte more', portionBytes + 1, portionBytes + 1],
    ['some portions, in small pieces', 3_200_000, 65_536],
    ['some portions, in one piece', 2_500_000, 2_500_000],
  ])('of %s come back as they were, in portions', async (_name, size, pieceSize) => {
    const bytes = randomBytes(size)
    const stored = await tested.store.put(inPieces(bytes, pieceSize))
    expect(stored).toEqual({ hash: hashOf(bytes), sizeBytes: size })
    const found = await read(tested.store, stored.hash)
    expect(found!.bytes.equals(bytes)).toBe(true)
    expect(found!.sizeBytes).toBe(size)
    expect(Math.max(0, ...found!.pieces.map((piece) => piece.length))).toBeLessThanOrEqual(portionBytes)
    for (const start of [1, portionBytes - 1, portionBytes, portionBytes + 1, size]) {
      const rest: Buffer[] = []
      for await (const piece of (await tested.store.get(stored.hash, start))!.pieces) rest.push(piece)
      expect(Buffer.concat(rest).equals(bytes.subarray(start))).toBe(true)
    }
    expect(await tested.store.sizes([stored.hash, '0'.repeat(64)])).toEqual(new Map([[stored.hash, size]]))
  })

  test('are kept once, whoever puts them; what is not there is null', async () => {
    const bytes = randomBytes(1_500_000)
    const [one, two] = await Promise.all([
      tested.store.put(inPieces(bytes, 400_000)),
      tested.store.put(inPieces(bytes, 900_000)),
    ])
    expect(one).toEqual(two)
    expect((await read(tested.store, one.hash))!.bytes.equals(bytes)).toBe(true)
    expect(await tested.store.get('0'.repeat(64))).toBeNull()
  })

  test('that break off in the middle leave nothing', async () => {
    const bytes = randomBytes(2_500_000)
    async function* broken() {
      yield bytes.subarray(0, 2_000_000)
      throw new Error('cut')
    }
    await expect(tested.store.put(broken())).rejects.toThrow('cut')
    expect(await tested.store.get(hashOf(bytes))).toBeNull()
  })

  test('are collected when nothing names them and they are old, and not before', async () => {
    await tested.age(100)
    await tested.store.collect(1_000, 24)
    const [named, old, again] = await Promise.all(
      [1_400_000, 1_500_000, 30].map((size) => tested.store.put([randomBytes(size)])),
    )
    await tested.name(named!.hash)
    expect(await tested.store.isNamed(named!.hash)).toBe(true)
    expect(await tested.store.isNamed(old!.hash)).toBe(false)
    expect(await tested.store.collect(1_000, 24)).toBe(0)
    await tested.age(30)
    const bytes = (await read(tested.store, again!.hash))!.bytes
    await tested.store.put([bytes])
    expect(await tested.store.collect(1_000, 24)).toBe(1)
    const left = await tested.store.sizes([named!.hash, old!.hash, again!.hash])
    expect([...left.keys()].sort()).toEqual([named!.hash, again!.hash].sort())
    expect((await read(tested.store, named!.hash))!.sizeBytes).toBe(1_400_000)
  })
})

test('portions of contents that are gone, or never came to their end, are gone too', async () => {
  const store = new PostgresContents(pool())
  await store.put([randomBytes(2_100_000)])
  await pool().query(`INSERT INTO blob_portions (content, position, bytes) VALUES ($1, 0, 'x')`, [
    randomUUID(),
  ])
  await pool().query(`UPDATE blobs SET put_at = now() - interval '2 days'`)
  await pool().query(`UPDATE blob_portions SET put_at = now() - interval '2 days'`)
  await store.collect(1_000, 24)
  const { rows } = await pool().query<{ count: number }>(
    'SELECT count(*) FROM blob_portions p WHERE NOT EXISTS (SELECT 1 FROM blobs WHERE portions = p.content)',
  )
  expect(rows[0]!.count).toBe(0)
})
