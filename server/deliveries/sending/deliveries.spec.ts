import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, test } from '@jest/globals'
import { readdir, readFile, unlink, writeFile } from 'node:fs/promises'
import path from 'node:path'
import { cancelDelivery, findDelivery } from './delivery-rows'
import { listDestinations } from '../places/destination-rows'
import { pool } from '../../platform/pool'
import { loadSite } from '../../sites/rows/site-rows'
import { compareKnown } from '../looking/compare'
import { removeDestination, saveDestination, testDestination } from '../places/destinations'
import { runDelivery } from './run'
import { markOf } from '../places/open-destination'
import { changeSite } from '../../sites/changes/changes'
import { stepHistory } from '../../sites/changes/step-history'
import {
  accountWithSite,
  askFor,
  freshDatabase,
  practiceForm,
  practiceHost,
  lookAt,
  siteOf,
  statesOf,
  until,
  writePage,
} from '../../testing/support'

let database: Awaited<ReturnType<typeof freshDatabase>>
let host: Awaited<ReturnType<typeof practiceHost>>
let site: { accountId: string; siteId: string; destinationId: string }
let number = 0
beforeAll(async () => {
  database = await freshDatabase()
  host = await practiceHost()
})
afterEach(() => host.faults.reset())
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
  const form = formOf()
  const { hostKey } = await testDestination(form, null, made, null)
  site = { ...made, destinationId: await saveDestination(form, null, made, hostKey) }
})

const formOf = (more: object = {}) => practiceForm(host, `site-${number}`, more)
const pageCalled = async (label: string) =>
  (await siteOf(site.siteId, site.accountId)).pages.find((one) => one.label === label)!
const relabel = async (label: string, value: string) => {
  const { id: pageId } = await pageCalled(label)
  const change = { kind: 'setPageText', pageId, field: 'label', value, was: label } as const
  return changeSite(site.siteId, site.accountId, 0, () => change)
}

async function deliver(removeLeftovers = false) {
  const { id } = (await askFor(site, { removeLeftovers }))!
  await runDelivery(id)
  return (await findDelivery(pool(), id, site.siteId))!
}
const states = () => statesOf(site)
const look = () => lookAt(site)

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
    host.faults.delayMs = 200
    const { id } = (await askFor(site))!
    const run = runDelivery(id)
    await until(async () => (await findDelivery(pool(), id, site.siteId))!.fileCount > 0)
    await cancelDelivery(pool(), id)
    await run
    host.faults.delayMs = 0
    const ended = (await findDelivery(pool(), id, site.siteId))!
    expect(ended.state).toBe('cancelled')
    expect(ended.fileCount).toBeLessThan(32)
    expect(await deliver()).toMatchObject({ state: 'done' })
  })

  test('left behind by a worker that is gone is taken over; one that is worked on is not', async () => {
    const { id } = (await askFor(site))!
    await pool().query(
      `UPDATE deliveries SET state = 'running', worker = gen_random_uuid(), lease_until = now() + interval '1 hour' WHERE id = $1`,
      [id],
    )
    expect(await runDelivery(id)).toBe(false)
    await pool().query(`UPDATE deliveries SET lease_until = now() - interval '1 second' WHERE id = $1`, [id])
    expect(await runDelivery(id)).toBe(true)
    expect(await findDelivery(pool(), id, site.siteId)).toMatchObject({ state: 'done', fileCount: 32 })
  })

  test('to a destination that has one under way is not begun', async () => {
    expect(await askFor(site)).not.toBeNull()
    expect(await askFor(site)).toBeNull()
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
  const { rows } = await pool().query<{ secret_sealed: Buffer }>('SELECT secret_sealed FROM web_hosts')
  for (const row of rows) expect(row.secret_sealed.toString('latin1')).not.toContain(host.password)
  const shown = JSON.stringify(await listDestinations(pool(), site.siteId))
  expect(shown).not.toMatch(/sealed|secret/i)
  expect(shown).not.toContain(host.password)
})

describe('addresses that are out in the world', () => {
  test('are noted for what arrived before a cut, so that a later rename leaves a forwarder', async () => {
    host.faults.cutAfterFiles = 12
    expect(await deliver()).toMatchObject({ state: 'failed', errorCode: 'connection-lost' })
    const out = (await siteOf(site.siteId, site.accountId)).pages.filter((page) => page.addresses.length > 0)
    // Eleven pages at the least, beside the style sheet; the answer to one may have been lost.
    expect(out.length).toBeGreaterThanOrEqual(10)
    const { label } = out[0]!
    await relabel(label, 'Called otherwise')
    const page = await pageCalled('Called otherwise')
    expect(page.keptName).not.toBeNull()
  })

  test('belong to their destination: undo goes past a delivery, and forgetting the destination lets them go', async () => {
    await relabel('Page 5', 'Before')
    await deliver()
    expect((await pageCalled('Before')).addresses).toEqual(['before.html'])
    await stepHistory(site.siteId, site.accountId, 0, 'undo')
    // The old label is back, and the address it had in the world is still known.
    expect((await pageCalled('Page 5')).addresses).toEqual(['before.html'])
    await stepHistory(site.siteId, site.accountId, 0, 'redo')
    expect((await pageCalled('Before')).addresses).toEqual(['before.html'])
    await removeDestination(site.destinationId, site)
    expect((await pageCalled('Before')).addresses).toEqual([])
  })

  test('that are given up come back with undo, and with a page that was removed', async () => {
    await deliver()
    const { id } = await pageCalled('Page 6')
    const change = (what: Parameters<typeof changeSite>[3]) =>
      changeSite(site.siteId, site.accountId, 0, what)
    await change(() => ({ kind: 'dropAddresses', addresses: { [id]: ['page-6.html'] } }))
    await deliver()
    await stepHistory(site.siteId, site.accountId, 0, 'undo')
    expect((await pageCalled('Page 6')).addresses).toEqual(['page-6.html'])
    await change(() => ({ kind: 'removePages', pageIds: [id] }))
    await deliver()
    await stepHistory(site.siteId, site.accountId, 0, 'undo')
    expect((await pageCalled('Page 6')).addresses).toEqual(['page-6.html'])
  })

  test('a delivery sends the site as it was when it was asked for: what is written meanwhile belongs to the next one', async () => {
    await writePage(site.siteId, site.accountId, 'Page 7', '<p>as asked</p>')
    const { revision } = (await loadSite(pool(), site.siteId, site.accountId))!
    const { id } = (await askFor(site))!
    await writePage(site.siteId, site.accountId, 'Page 7', '<p>meanwhile</p>')
    await relabel('Page 5', 'Later')
    await runDelivery(id)
    expect(await findDelivery(pool(), id, site.siteId)).toMatchObject({ state: 'done', revision })
    expect(await readFile(onDisk('page-7.html'), 'utf8')).toContain('<p>as asked</p>')
    expect(await readdir(path.dirname(onDisk('x')))).not.toContain('later.html')
    await deliver()
    expect(await readFile(onDisk('page-7.html'), 'utf8')).toContain('<p>meanwhile</p>')
    expect(await states()).toEqual({ same: 33 })
  })
})

describe('one at a time in one place', () => {
  const other = async (more: object = {}) => {
    const form = formOf(more)
    const { hostKey } = await testDestination(form, null, site, null)
    return saveDestination(form, null, site, hostKey)
  }
  const hanging = async () => {
    host.faults.never.add('READDIR')
    const { id } = (await askFor(site))!
    const run = runDelivery(id)
    await until(() => host.faults.unanswered > 0)
    return {
      async end() {
        await cancelDelivery(pool(), id)
        await run
        expect(await findDelivery(pool(), id, site.siteId)).toMatchObject({ state: 'cancelled' })
      },
    }
  }

  test('a destination under way is neither changed, forgotten nor looked into, and is let go when it is cancelled', async () => {
    const { end } = await hanging()
    const form = formOf({ name: 'Otherwise', password: null })
    const key = (await listDestinations(pool(), site.siteId))[0]!.hostKey
    await expect(removeDestination(site.destinationId, site)).rejects.toMatchObject({ code: 'busy' })
    await expect(look()).rejects.toMatchObject({ code: 'busy' })
    host.faults.never.clear()
    await expect(saveDestination(form, site.destinationId, site, key)).rejects.toMatchObject({ code: 'busy' })
    await end()
    await saveDestination(form, site.destinationId, site, key)
    await look()
  })

  test('another destination in the same folder, above or below it waits; one beside it does not', async () => {
    const [same, below, beside] = [
      await other({ name: 'Same' }),
      await other({ name: 'Below', folder: `${folder()}/sub` }),
      await other({ name: 'Beside', folder: `${folder()}-2` }),
    ]
    const { end } = await hanging()
    const sent = async (destinationId: string) => {
      const { id } = (await askFor({ ...site, destinationId }))!
      host.faults.never.clear()
      await runDelivery(id)
      return (await findDelivery(pool(), id, site.siteId))!.state
    }
    expect(await sent(same)).toBe('waiting')
    expect(await sent(below)).toBe('waiting')
    expect(await sent(beside)).toBe('done')
    await end()
  })

  test('two in one folder sweep only their own parts', async () => {
    const second = await other({ name: 'Second' })
    await deliver()
    const part = (mark: string) => `page.html.${mark}00000000.rubricant-part`
    await writeFile(onDisk(part(markOf(second))), 'half')
    await writeFile(onDisk(part(markOf(site.destinationId))), 'half')
    await deliver()
    const names = await readdir(path.dirname(onDisk('x')))
    expect(names).toContain(part(markOf(second)))
    expect(names).not.toContain(part(markOf(site.destinationId)))
  })

  test('a password goes to no other host or account than it was given for', async () => {
    const stored = (await listDestinations(pool(), site.siteId))[0]!
    for (const more of [{ host: 'other.example' }, { port: 2222 }, { account: 'somebody' }])
      await expect(
        testDestination(formOf({ ...more, password: null }), site.destinationId, site, stored.hostKey),
      ).rejects.toMatchObject({ code: 'password-again' })
  })

  test('a place that cannot be written, or is a file, is found by the test', async () => {
    const key = (await listDestinations(pool(), site.siteId))[0]!.hostKey
    host.faults.readOnly = true
    await expect(testDestination(formOf(), null, site, key)).rejects.toMatchObject({ code: 'not-allowed' })
    host.faults.readOnly = false
    const found = { hostKey: key, traits: { tellsCase: true, setsTimes: true } }
    expect(await testDestination(formOf(), null, site, key)).toEqual({ ...found, fileCount: 0 })
    await deliver()
    const inFile = formOf({ folder: `${folder()}/index.html` })
    await expect(testDestination(inFile, null, site, key)).rejects.toMatchObject({ code: 'not-a-folder' })
    expect(await testDestination(formOf(), null, site, key)).toEqual({ ...found, fileCount: 32 })
  })
})

test('a text that is missing is told when a delivery is asked for, and never sent as an empty page', async () => {
  await writePage(site.siteId, site.accountId, 'Page 3', '<p>kept</p>')
  const { content } = await pageCalled('Page 3')
  await pool().query('ALTER TABLE pages DROP CONSTRAINT pages_content_fkey')
  await pool().query('DELETE FROM blobs WHERE hash = $1', [content])
  await expect(askFor(site)).rejects.toMatchObject({ code: 'content-missing' })
  expect(await readdir(path.dirname(path.dirname(onDisk('x'))))).not.toContain('page-3.html')
})
