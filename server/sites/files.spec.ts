import { randomBytes, randomUUID } from 'node:crypto'
import { afterAll, beforeAll, beforeEach, describe, expect, test } from '@jest/globals'
import { namesOf } from '#core/naming'
import { accountWithSite, freshDatabase, siteOf, writePage } from '../testing/support'
import { filesOfSite } from './build'
import { changeSite } from './changes/changes'
import { stepHistory } from './changes/step-history'
import { takeFile, takePortions, takeWhole, usesOfFiles } from './files'
import { getTexts, hashOf } from '../contents/blobs'
import { dropPartial, receivedBytes } from '../contents/partial'
import { PostgresContents } from '../contents/postgres-store'
import { housekeeping } from '../housekeeping'
import { fileKindOf } from './file-kind'
import { pool } from '../platform/pool'

let database: Awaited<ReturnType<typeof freshDatabase>>
let ids: { accountId: string; siteId: string }
beforeAll(async () => {
  database = await freshDatabase()
})
afterAll(() => database.close())
beforeEach(async () => {
  ids = await accountWithSite('Home\n  Visit')
})

/** The smallest pictures there are: a signature, and what has to follow it. */
const png = Buffer.concat([
  Buffer.from('89504e470d0a1a0a0000000d49484452000000010000000108060000001f15c489', 'hex'),
  randomBytes(20),
])
const site = () => siteOf(ids.siteId, ids.accountId)

async function* inPieces(bytes: Buffer, size = 65_536) {
  for (let at = 0; at < bytes.length; at += size) yield bytes.subarray(at, at + size)
}
const send = async (
  name: string,
  bytes: Buffer,
  more: { id?: string; replaces?: string; keepsPlace?: boolean } = {},
) => {
  const { id = randomUUID(), replaces = null, keepsPlace = false } = more
  return takeFile(await site(), ids.accountId, 0, { id, name, replaces, keepsPlace }, inPieces(bytes))
}
const pathOf = async (id: string) => namesOf(await site()).files.get(id)

describe('a file that is sent', () => {
  test('again, under the same name, is the one that is there; under another name, or with another letter, it is another', async () => {
    const first = await send('Pier.png', png)
    const { files } = await site()
    expect(await send('Pier.png', png)).toBe(first)
    expect((await site()).files).toEqual(files)
    const [named, written] = [await send('Quay.png', png), await send('Pier.png', Buffer.concat([png, png]))]
    expect(new Set([first, named, written]).size).toBe(3)
    expect((await site()).files).toHaveLength(files.length + 2)
  })
  test('is named and placed by the scheme, kept to the byte, and part of what comes out', async () => {
    const bytes = Buffer.concat([png, randomBytes(3_000_000)])
    const id = await send('Evening at the Pier.PNG', bytes)
    expect(await pathOf(id)).toBe('images/evening-at-the-pier.png')
    const file = (await site()).files.find((one) => one.id === id)!
    const pieces: Buffer[] = []
    for await (const piece of (await new PostgresContents(pool()).get(file.hash))!.pieces) pieces.push(piece)
    expect(Buffer.concat(pieces).equals(bytes)).toBe(true)
    const { manifest } = await filesOfSite(pool(), await site())
    expect(manifest.find(({ path }) => path === 'images/evening-at-the-pier.png')).toMatchObject({
      sizeBytes: bytes.length,
      hash: file.hash,
    })
  })

  test('that is a photograph no longer says where it was taken, and has lost nothing else', async () => {
    const exif = Buffer.alloc(70)
    exif.write('II*\0')
    for (const [at, value] of [[4, 8], [14, 1], [18, 40]] as const) exif.writeUInt32LE(value, at)
    for (const [at, value] of [[8, 1], [10, 0x8825], [12, 4], [40, 1], [42, 29], [44, 2]] as const) exif.writeUInt16LE(value, at)
    exif.writeUInt32LE(4, 46)
    exif.write('gps!', 50)
    const data = Buffer.concat([Buffer.from('Exif\0\0'), exif])
    const photo = Buffer.concat([Buffer.from('ffd8ffe1', 'hex'), Buffer.from([0, data.length + 2]), data, Buffer.from('ffda0002', 'hex'), randomBytes(500_000)])
    // In pieces that part what has to be read together.
    const id = randomUUID()
    await takeFile(await site(), ids.accountId, 0, { id, name: 'Pier.jpg', replaces: null, keepsPlace: false }, inPieces(photo, 31))
    const pieces: Buffer[] = []
    for await (const piece of (await new PostgresContents(pool()).get((await site()).files.find((one) => one.id === id)!.hash))!.pieces) pieces.push(piece)
    const kept = Buffer.concat(pieces)
    expect(kept.includes('gps!')).toBe(false)
    expect(kept.length).toBe(photo.length)
    expect(kept.subarray(200).equals(photo.subarray(200))).toBe(true)
    // Where that is wanted it is the photograph to the byte.
    const whole = await send('Pier again.jpg', photo, { keepsPlace: true })
    const again: Buffer[] = []
    for await (const piece of (await new PostgresContents(pool()).get((await site()).files.find((one) => one.id === whole)!.hash))!.pieces) again.push(piece)
    expect(Buffer.concat(again).equals(photo)).toBe(true)
  }) // prettier-ignore

  test('that is a film no longer says where it was taken, however it comes, and is whole', async () => {
    const box = (type: string, inside: Buffer) => {
      const head = Buffer.alloc(8)
      head.writeUInt32BE(inside.length + 8)
      head.write(type, 4, 'latin1')
      return Buffer.concat([head, inside])
    }
    const told = box('moov', box('udta', box('\u00a9xyz', Buffer.from('+54.3210-004.8765/'))))
    const film = Buffer.concat([box('ftyp', Buffer.from('qt  \0\0\0\0')), box('mdat', randomBytes(600_000)), told])
    for (const [name, keepsPlace] of [['Boat.mp4', false], ['Boat again.mp4', true]] as const) {
      const id = randomUUID()
      await takeFile(await site(), ids.accountId, 0, { id, name, replaces: null, keepsPlace }, inPieces(Buffer.from(film), 4_001))
      const file = (await site()).files.find((one) => one.id === id)!
      const pieces: Buffer[] = []
      for await (const piece of (await new PostgresContents(pool()).get(file.hash))!.pieces) pieces.push(piece)
      const kept = Buffer.concat(pieces)
      expect([kept.length, kept.includes('+54.3210'), kept.equals(film)]).toEqual([film.length, keepsPlace, keepsPlace])
      expect(kept.subarray(0, 600_000).equals(film.subarray(0, 600_000))).toBe(true)
    }
  }) // prettier-ignore

  test('again because its answer was lost is added once, and undo takes it away', async () => {
    const id = randomUUID()
    const before = (await site()).files.length
    await send('Map.png', png, { id })
    await send('Map.png', png, { id })
    expect((await site()).files.length).toBe(before + 1)
    await stepHistory(ids.siteId, ids.accountId, 0, 'undo')
    expect((await site()).files.length).toBe(before)
  })

  test('in the place of another keeps its name, and what refers to it stays', async () => {
    const id = await send('Map.png', png)
    await writePage(ids.siteId, ids.accountId, 'Visit', '<img src="/images/map.png" alt="">')
    await send('another name.png', Buffer.concat([png, randomBytes(9)]), { replaces: id })
    expect(await pathOf(id)).toBe('images/map.png')
    const visit = (await site()).pages.find((page) => page.label === 'Visit')!
    expect(await usesOfFiles(await site())).toMatchObject({
      [id]: [{ kind: 'page', id: visit.id, count: 1 }],
    })
    await changeSite(ids.siteId, ids.accountId, 0, () => ({
      kind: 'renameFile',
      fileId: id,
      label: 'Way.png',
      was: 'Map.png',
    }))
    expect(await pathOf(id)).toBe('images/way.png')
    expect(await usesOfFiles(await site())).toMatchObject({
      [id]: [{ kind: 'page', id: visit.id, count: 1 }],
    })
  })

  test('says of scripts and data that name it that they do', async () => {
    const tern = await send('Tern.png', Buffer.concat([png, randomBytes(5)]))
    const script = await send('Show.js', Buffer.from('show("/images/tern.png")'))
    const list = await send('List.xml', Buffer.from('<list><one>images/tern.png</one></list>'))
    const uses = await usesOfFiles(await site())
    expect(uses[tern]).toEqual([
      { kind: 'file', id: script, count: 1 },
      { kind: 'file', id: list, count: 1, isByName: true },
    ])
    expect(uses[script]).toBeUndefined()
    await changeSite(ids.siteId, ids.accountId, 0, () => {
      return { kind: 'renameFile', fileId: tern, label: 'Bird.png', was: 'Tern.png' }
    })
    const stored = (await site()).files.find((file) => file.id === script)!
    expect((await getTexts(pool(), [stored.hash])).get(stored.hash)).toBe('show("/images/bird.png")')
  })

  test('is not put in the place of another kind, under a name that says what it is not', async () => {
    const id = await send('Map.png', png)
    const jpeg = Buffer.concat([Buffer.from('ffd8ffe000104a464946', 'hex'), randomBytes(50)])
    await expect(send('Map.jpg', jpeg, { replaces: id })).rejects.toMatchObject({ code: 'other-kind' })
    expect((await site()).files.find((file) => file.id === id)!.sizeBytes).toBe(png.length)
  })

  test('that is larger than one may be ends with a sentence, and leaves nothing', async () => {
    const before = await site()
    async function* endless() {
      const piece = Buffer.alloc(5_000_000)
      for (;;) yield piece
    }
    const sent = { id: randomUUID(), name: 'Endless.bin', replaces: null, keepsPlace: false }
    const taken = takeFile(before, ids.accountId, 0, sent, endless())
    await expect(taken).rejects.toMatchObject({ code: 'file-too-large', status: 413 })
    expect((await site()).files).toEqual(before.files)
    const { rows } = await pool().query<{ count: number }>(
      'SELECT count(*) FROM blob_portions p WHERE NOT EXISTS (SELECT 1 FROM blobs WHERE portions = p.content)',
    )
    expect(rows[0]!.count).toBe(0)
  })
})

describe('a file that comes in several requests', () => {
  const bytes = Buffer.concat([png, randomBytes(3_500_000)])
  async function* cutAfter(most: number) {
    yield* inPieces(bytes.subarray(0, most))
    throw new Error('cut')
  }
  const whole = async (id: string, size = bytes.length) =>
    takeWhole(
      await site(),
      ids.accountId,
      0,
      { id, name: 'Sea.png', replaces: null, keepsPlace: false },
      size,
    )

  test('goes on where it was cut, is the same to the byte, and leaves nothing behind', async () => {
    const id = randomUUID()
    await expect(takePortions(await site(), id, 0, cutAfter(2_300_000))).rejects.toThrow('cut')
    const has = await receivedBytes(pool(), { siteId: ids.siteId }, id)
    expect(has).toBe(2_000_000)
    // What does not follow on what is here is left, and told where to go on.
    expect(await takePortions(await site(), id, 0, inPieces(bytes))).toBe(has)
    expect(await takePortions(await site(), id, 3_000_000, inPieces(bytes.subarray(3_000_000)))).toBe(has)
    await expect(whole(id)).rejects.toMatchObject({ code: 'upload-gone' })
    expect(await takePortions(await site(), id, has, inPieces(bytes.subarray(has)))).toBe(bytes.length)
    await whole(id)
    await whole(id)
    const { files } = await site()
    expect(files.filter((file) => file.id === id)).toMatchObject([{ hash: hashOf(bytes), sizeBytes: bytes.length }])
    const { rows } = await pool().query('SELECT 1 FROM blob_portions WHERE content = $1', [id])
    expect(rows).toEqual([])
  }) // prettier-ignore

  test('is of its site alone; two requests at once never mix', async () => {
    const id = randomUUID()
    const there = await accountWithSite('Home')
    const [one, two] = await Promise.all([
      takePortions(await site(), id, 0, inPieces(bytes)),
      takePortions(await site(), id, 0, inPieces(bytes)),
    ])
    expect(Math.max(one, two)).toBe(bytes.length)
    expect(await receivedBytes(pool(), { siteId: there.siteId }, id)).toBe(0)
    const elsewhere = await siteOf(there.siteId, there.accountId)
    expect(await takePortions(elsewhere, id, 0, inPieces(bytes))).toBe(0)
    await dropPartial(pool(), { siteId: there.siteId }, id)
    await whole(id)
    expect((await site()).files.find((file) => file.id === id)!.hash).toBe(hashOf(bytes))
  })

  test('that nobody goes on with is let go of after a day, and not before', async () => {
    const id = randomUUID()
    await takePortions(await site(), id, 0, inPieces(bytes))
    const age = (hours: number) =>
      Promise.all([
        pool().query(`UPDATE uploads SET touched_at = touched_at - make_interval(hours => $1)`, [hours]),
        pool().query(`UPDATE blob_portions SET put_at = put_at - make_interval(hours => $1)`, [hours]),
      ])
    await age(23)
    await housekeeping()
    expect(await receivedBytes(pool(), { siteId: ids.siteId }, id)).toBe(bytes.length)
    await age(2)
    await housekeeping()
    expect(await receivedBytes(pool(), { siteId: ids.siteId }, id)).toBe(0)
    expect((await pool().query('SELECT 1 FROM blob_portions WHERE content = $1', [id])).rows).toEqual([])
    await expect(whole(id)).rejects.toMatchObject({ code: 'upload-gone' })
  })
})

describe('what a file is', () => {
  const compound = Buffer.concat([Buffer.from('d0cf11e0a1b11ae1', 'hex'), Buffer.alloc(600)])
  const text = (content: string) => Buffer.from(content)
  test.each([
    ['Sea.jpg', png, 'image', 'Sea.png'],
    ['Sea', png, 'image', 'Sea.png'],
    // A chunk that goes on far beyond what is looked at.
    [
      'Sea.png',
      Buffer.concat([png.subarray(0, 33), Buffer.from('7fffffff69434350', 'hex'), Buffer.alloc(90_000, 7)]),
      'image',
      'Sea.png',
    ],
    ['Sea.png', text('no picture at all'), 'other', 'Sea.png'],
    ['Tern.svg', text('<?xml version="1.0"?><svg xmlns="http://www.w3.org/2000/svg"/>'), 'image', 'Tern.svg'],
    ['Tern.svg', text('<svg/>'), 'image', 'Tern.svg'],
    ['Tern.svg', text('just words'), 'document', 'Tern.svg'],
    ['Tides.pdf', text('%PDF-1.7\n'), 'document', 'Tides.pdf'],
    ['Tides.csv', text('a,b\n'), 'document', 'Tides.csv'],
    ['print.css', text('body {}'), 'style', 'print.css'],
    ['menu.js', text('1'), 'script', 'menu.js'],
    ['menu.js', Buffer.from([0, 1, 2]), 'other', 'menu.js'],
    ['.htaccess', text('x'), 'other', '.htaccess'],
    ['Fees.xls', compound, 'document', 'Fees.xls'],
    ['Talk.pps', compound, 'document', 'Talk.pps'],
    ['Statutes', compound, 'document', 'Statutes'],
    ['Fees.docm', Buffer.from('504b030414', 'hex'), 'document', 'Fees.docm'],
    ['Fees.pdf', Buffer.from('504b030414', 'hex'), 'document', 'Fees.zip'],
    ['Fees.html', png, 'image', 'Fees.png'],
    ['Logo.ai', text('%PDF-1.7\n'), 'document', 'Logo.ai'],
    ['Track.anything', png, 'image', 'Track.anything'],
  ])('%s is told by what is in it', async (name, head, kind, label) => {
    expect(await fileKindOf(name, head)).toEqual({ kind, label })
  })
})
