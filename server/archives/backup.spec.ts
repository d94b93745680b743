import { execFile } from 'node:child_process'
import { randomBytes } from 'node:crypto'
import { mkdtemp, readdir, rm } from 'node:fs/promises'
import os from 'node:os'
import path from 'node:path'
import { promisify } from 'node:util'
import { afterAll, beforeAll, expect, test } from '@jest/globals'
import pg from 'pg'
import { checkSite, type Site } from '#core/site'
import { putBlob } from '../contents/blobs'
import { pool } from '../platform/pool'
import { changeSite } from '../sites/changes/changes'
import { loadSite } from '../sites/rows/site-rows'
import { accountWithSite, freshDatabase, siteOf, until } from '../testing/support'

const run = promisify(execFile)
let database: Awaited<ReturnType<typeof freshDatabase>>
let folder: string
const copy = `copy_${randomBytes(6).toString('hex')}`
beforeAll(async () => {
  database = await freshDatabase()
  folder = await mkdtemp(path.join(os.tmpdir(), 'rubricant-dump-'))
})
afterAll(async () => {
  await pool().query(`DROP DATABASE IF EXISTS ${copy} WITH (FORCE)`)
  await database.close()
  await rm(folder, { recursive: true, force: true })
})

/** Debian keeps each version's programs in a folder of its own. */
async function programs(): Promise<string> {
  const [latest] = (await readdir('/usr/lib/postgresql')).sort((a, b) => Number(b) - Number(a))
  return `/usr/lib/postgresql/${latest}/bin`
}

test('a dump made while people write is restored with every site whole, and every content that one names', async () => {
  const people = await Promise.all(Array.from({ length: 4 }, () => accountWithSite('Home\n  Visit\n  Terns')))
  let isOver = false
  let changes = 0
  const write = async ({ siteId, accountId }: (typeof people)[number]) => {
    const [first] = (await siteOf(siteId, accountId)).pages.filter((page) => page.label === 'Visit')
    let was = first!.content
    for (let nth = 0; !isOver; nth++) {
      const next = await putBlob(pool(), `<p>${siteId} ${nth}</p>`)
      await changeSite(siteId, accountId, 0, () => ({
        kind: 'setContent',
        pageId: first!.id,
        content: next,
        was,
      }))
      was = next
      changes += 1
    }
  }
  const writing = Promise.all(people.map(write))
  const bin = await programs()
  const dump = path.join(folder, 'dump')
  const url = new URL(process.env.DATABASE_URL!)
  try {
    // It is no dump of something at rest: one during which nobody wrote, on a machine that is busy, is made again.
    for (let begun = changes; changes === begun;) {
      await until(() => changes > begun)
      begun = changes
      await run(`${bin}/pg_dump`, ['-Fc', '-f', dump, url.href])
    }
  } finally {
    isOver = true
    await writing
  }

  await pool().query(`CREATE DATABASE ${copy}`)
  url.pathname = `/${copy}`
  await run(`${bin}/pg_restore`, ['--no-owner', '-d', url.href, dump])
  const client = new pg.Client({ connectionString: url.href })
  await client.connect()
  try {
    for (const { siteId, accountId } of people) {
      // History goes as far as the site.
      const { rows: last } = await client.query<{ is: boolean }>(
        `SELECT coalesce(max(h.revision), s.revision) = s.revision AS is FROM sites s LEFT JOIN history h ON h.site_id = s.id
         WHERE s.id = $1 GROUP BY s.revision`,
        [siteId],
      )
      expect(last[0]!.is).toBe(true)
      const site = (await loadFrom(client, siteId, accountId))!
      expect(checkSite(site)).toEqual([])
      const hashes = [
        ...site.pages.flatMap((page) => [page.content, ...Object.values(page.slots)]),
        ...site.files.map((file) => file.hash),
        ...site.templates.map((template) => template.source),
      ]
      const { rows } = await client.query<{ hash: string }>(
        'SELECT hash FROM blobs WHERE hash = ANY($1::text[])',
        [hashes],
      )
      const there = new Set(rows.map(({ hash }) => hash))
      expect(hashes.filter((hash) => !there.has(hash))).toEqual([])
    }
  } finally {
    await client.end()
  }
})

/** A site of another database, read as the application reads it. */
async function loadFrom(client: pg.Client, siteId: string, accountId: string): Promise<Site | null> {
  // What this process remembers of the first database is of other revisions.
  await client.query('UPDATE sites SET revision = revision + 1000000 WHERE id = $1', [siteId])
  return (await loadSite(client, siteId, accountId))?.site ?? null
}
