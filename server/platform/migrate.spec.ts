import { randomUUID } from 'node:crypto'
import { readdir, readFile } from 'node:fs/promises'
import path from 'node:path'
import { afterAll, beforeAll, expect, test } from '@jest/globals'
import pg from 'pg'
import { freshDatabase } from '../testing/support'
import { migrate } from './migrate'
import { pool } from './pool'

let database: Awaited<ReturnType<typeof freshDatabase>>
beforeAll(async () => {
  database = await freshDatabase()
})
afterAll(() => database.close())

test('migrations run once, and a later version’s database is refused', async () => {
  expect(await migrate()).toEqual([])
  await pool().query(`INSERT INTO migrations (name) VALUES ('999_future.sql')`)
  await expect(migrate()).rejects.toThrow('later version')
  await pool().query(`DELETE FROM migrations WHERE name = '999_future.sql'`)
})

test('a database from before keeps its addresses, and its history', async () => {
  const admin = new pg.Client({ connectionString: process.env.DATABASE_URL })
  await admin.connect()
  const name = `before_${randomUUID().replaceAll('-', '')}`
  await admin.query(`CREATE DATABASE ${name}`)
  const url = new URL(process.env.DATABASE_URL!)
  url.pathname = `/${name}`
  const client = new pg.Client({ connectionString: url.href })
  await client.connect()
  try {
    const folder = 'server/platform/migrations'
    const files = (await readdir(folder)).sort()
    for (const file of files.filter((one) => one < '006'))
      await client.query(await readFile(path.join(folder, file), 'utf8'))
    const hash = 'a'.repeat(64)
    await client.query(`
      INSERT INTO accounts (id, email, password_hash) VALUES ('00000000-0000-4000-8000-000000000001', 'a@b.example', 'x');
      INSERT INTO blobs VALUES ('${hash}', 'x');
      INSERT INTO sites (id, account_id, name, language, title_pattern, home_id, scheme, next_seq)
        VALUES ('00000000-0000-4000-8000-000000000002', '00000000-0000-4000-8000-000000000001', 'x', 'en', 'x', '00000000-0000-4000-8000-000000000003', '{}', 2);
      INSERT INTO pages (site_id, id, position, seq, label, trial, in_menus, content, addresses)
        VALUES ('00000000-0000-4000-8000-000000000002', '00000000-0000-4000-8000-000000000003', 'a0', 1, 'x', false, true, '${hash}', '{old.html}');
      INSERT INTO templates (site_id, id, name, source)
        VALUES ('00000000-0000-4000-8000-000000000002', '00000000-0000-4000-8000-000000000004', 'x', '${hash}');
      INSERT INTO destinations (site_id, name, host, port, account, password_sealed, folder, public_address, host_key)
        VALUES ('00000000-0000-4000-8000-000000000002', 'x', 'h', 22, 'a', 'x', '', 'x', 'x');
      INSERT INTO history (site_id, revision, kind, title, diff, state)
        VALUES ('00000000-0000-4000-8000-000000000002', 1, 'change', 'x', '{"pages": {"p": {"before": {"content": "${hash}"}, "after": {"content": "${hash}"}}}}', 'done');`)
    for (const file of files.filter((one) => one >= '006'))
      await client.query(await readFile(path.join(folder, file), 'utf8'))
    expect((await client.query('SELECT path FROM delivered_addresses')).rows).toEqual([{ path: 'old.html' }])
    expect((await client.query('SELECT hash FROM history_contents')).rows).toEqual([{ hash }])
    expect((await client.query('SELECT template_id FROM sites')).rows).toEqual([
      { template_id: '00000000-0000-4000-8000-000000000004' },
    ])
  } finally {
    await client.end()
    await admin.query(`DROP DATABASE ${name} WITH (FORCE)`)
    await admin.end()
  }
})
