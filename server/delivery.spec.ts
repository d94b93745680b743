import { afterAll, beforeAll, beforeEach, describe, expect, test } from '@jest/globals'
import { readdir, readFile, writeFile } from 'node:fs/promises'
import path from 'node:path'
import { findDelivery, insertDelivery, cancelDelivery } from './database/deliveries'
import { findDestination } from './database/destinations'
import { pool } from './database/pool'
import { loadSite } from './database/sites'
import { compareKnown, lookThere } from './delivery'
import { runDelivery } from './delivery-run'
import { saveDestination, testDestination } from './destinations'
import { openSftp } from './transfer/sftp'
import { accountWithSite, freshDatabase, practiceHost, writePage } from './testing/support'

let database: Awaited<ReturnType<typeof freshDatabase>>
let host: Awaited<ReturnType<typeof practiceHost>>
let site: { accountId: string; siteId: string; destinationId: string }
let number = 0

beforeAll(async () => {
  database = await freshDatabase()
  host = await practiceHost()
})
afterAll(async () => {
  await host.end()
  await database.close()
})

const folder = () => `public/site-${number}`
const onDisk = (name: string) => path.join(host.publicPath, `site-${number}`, name)

beforeEach(async () => {
  number += 1
  const pages = Array.from({ length: 30 }, (_, index) => `  Page ${index + 1}`)
  const made = await accountWithSite(`Home\n${pages.join('\n')}`)
  const form = {
    name: 'Practice',
    host: '127.0.0.1',
    port: host.sftpPort,
    account: host.account,
    password: host.password,
    folder: folder(),
    publicAddress: `http://127.0.0.1:${host.webPort}/site-${number}/`,
  }
  const { hostKey } = await testDestination(form, null, made, null)
  site = { ...made, destinationId: await saveDestination(form, null, made, hostKey) }
})

async function deliver(removeLeftovers = false) {
  const stored = (await loadSite(pool(), site.siteId, site.accountId))!
  const { id } = (await insertDelivery(pool(), site.destinationId, stored.revision, removeLeftovers))!
  await runDelivery(id, openSftp)
  return (await findDelivery(pool(), id, site.siteId))!
}
const states = async () => {
  const stored = (await loadSite(pool(), site.siteId, site.accountId))!
  const { files } = await compareKnown(stored, site.destinationId)
  const counts: Record<string, number> = {}
  for (const file of files) counts[file.state] = (counts[file.state] ?? 0) + 1
  return counts
}
const look = async () => {
  const stored = (await loadSite(pool(), site.siteId, site.accountId))!
  const destination = (await findDestination(pool(), site.destinationId, site.siteId, site.accountId))!
  await lookThere(destination, stored, openSftp)
}

describe('a delivery', () => {
  test('sends all, then nothing, then only what changed', async () => {
    expect(await deliver()).toMatchObject({ state: 'done', fileCount: 32, fileTotal: 32 })
    expect(await states()).toEqual({ same: 32 })
    expect(await deliver()).toMatchObject({ state: 'done', fileCount: 0 })
    await writePage(site.siteId, site.accountId, 'Page 7', '<p>new</p>')
    expect(await states()).toEqual({ same: 31, changed: 1 })
    expect(await deliver()).toMatchObject({ state: 'done', fileCount: 1 })
    expect(await readFile(onDisk('page-7.html'), 'utf8')).toContain('<p>new</p>')
  })

  test('whose connection is cut says so, keeps what arrived and goes on from there', async () => {
    host.faults.cutAfterFiles = 12
    const cut = await deliver()
    expect(cut).toMatchObject({ state: 'failed', errorCode: 'connection-lost' })
    expect(cut.errorMessage).toContain('was lost')
    // The home page goes last, so a visitor never meets one without its pages.
    expect(await readdir(path.dirname(onDisk('x')))).not.toContain('index.html')
    const again = await deliver()
    expect(again.state).toBe('done')
    // Twelve had arrived; those whose answer was lost in the cut are read back, not sent again.
    expect(again.fileCount).toBeLessThanOrEqual(32 - 12)
    expect(await states()).toEqual({ same: 32 })
    const left = (await readdir(path.dirname(onDisk('x')))).filter((name) => name.includes('rubricant'))
    expect(left).toEqual([])
  })

  test('that is cancelled stops, with its record', async () => {
    host.faults.delayMs = 40
    const stored = (await loadSite(pool(), site.siteId, site.accountId))!
    const { id } = (await insertDelivery(pool(), site.destinationId, stored.revision, false))!
    const run = runDelivery(id, openSftp)
    await new Promise((resolve) => setTimeout(resolve, 700))
    await cancelDelivery(pool(), id)
    await run
    host.faults.delayMs = 0
    const ended = (await findDelivery(pool(), id, site.siteId))!
    expect(ended.state).toBe('cancelled')
    expect(ended.fileCount).toBeLessThan(32)
    expect(await deliver()).toMatchObject({ state: 'done' })
  })

  test('left behind by a worker that is gone is taken over; one that is worked on is not', async () => {
    const stored = (await loadSite(pool(), site.siteId, site.accountId))!
    const { id } = (await insertDelivery(pool(), site.destinationId, stored.revision, false))!
    await pool().query(
      `UPDATE deliveries SET state = 'running', worker = gen_random_uuid(), lease_until = now() + interval '1 hour' WHERE id = $1`,
      [id],
    )
    expect(await runDelivery(id, openSftp)).toBe(false)
    await pool().query(`UPDATE deliveries SET lease_until = now() - interval '1 second' WHERE id = $1`, [id])
    expect(await runDelivery(id, openSftp)).toBe(true)
    expect(await findDelivery(pool(), id, site.siteId)).toMatchObject({ state: 'done', fileCount: 32 })
  })

  test('to a destination that has one under way is not begun', async () => {
    expect(await insertDelivery(pool(), site.destinationId, 0, false)).not.toBeNull()
    expect(await insertDelivery(pool(), site.destinationId, 0, false)).toBeNull()
  })

  test('to a full disk says so', async () => {
    host.faults.bytesLeft = 5_000
    expect(await deliver()).toMatchObject({ state: 'failed', errorCode: 'disk-full' })
    host.faults.bytesLeft = null
  })
})

describe('comparing', () => {
  test('tells what was changed or removed there, and what is not from this site', async () => {
    await deliver()
    await writeFile(onDisk('page-1.html'), 'somebody else was here')
    await writeFile(onDisk('stray.txt'), 'x')
    const { unlink } = await import('node:fs/promises')
    await unlink(onDisk('page-2.html'))
    await look()
    expect(await states()).toEqual({ same: 30, 'changed there': 1, 'gone there': 1 })
    const stored = (await loadSite(pool(), site.siteId, site.accountId))!
    expect((await compareKnown(stored, site.destinationId)).leftovers).toMatchObject([
      { path: 'stray.txt', state: 'stray' },
    ])
  })

  test('reads back files of the right size that no delivery recorded', async () => {
    await deliver()
    await pool().query('DELETE FROM delivered_files')
    expect(await states()).toEqual({ unknown: 32 })
    await look()
    expect(await states()).toEqual({ same: 32 })
  })

  test('what the site no longer has is removed when asked, strays never', async () => {
    await deliver()
    await writeFile(onDisk('stray.txt'), 'x')
    const { changeSite } = await import('./site-changes')
    const stored = (await loadSite(pool(), site.siteId, site.accountId))!
    const page = stored.site.pages.find((one) => one.label === 'Page 3')!
    await changeSite(site.siteId, site.accountId, 0, () => ({ kind: 'removePages', pageIds: [page.id] }))
    expect(await deliver(true)).toMatchObject({ state: 'done', removedCount: 1 })
    const names = await readdir(path.dirname(onDisk('x')))
    expect(names).toContain('stray.txt')
    expect(names).not.toContain('page-3.html')
  })
})

test('a password is sealed at rest and never handed out', async () => {
  const { rows } = await pool().query<{ password_sealed: Buffer }>('SELECT password_sealed FROM destinations')
  for (const row of rows) expect(row.password_sealed.toString('latin1')).not.toContain(host.password)
  const { listDestinations } = await import('./database/destinations')
  expect(JSON.stringify(await listDestinations(pool(), site.siteId))).not.toMatch(/password/i)
})
