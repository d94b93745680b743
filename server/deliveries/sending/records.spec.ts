import { readdir, readFile, writeFile } from 'node:fs/promises'
import { afterAll, describe, expect, test } from '@jest/globals'
import { pool } from '#server/platform'
import { changeSite, loadSite } from '#server/sites'
import { PostgresContents } from '#server/contents'
import { buffer } from 'node:stream/consumers'
import { Readable } from 'node:stream'
import type { ReadableStream as NodeStream } from 'node:stream/web'
import { askFor, lookAt, practiceForm, siteOf, statesOf, until, writePage } from '../../testing/support'
import { deliveringSuite } from '../../testing/delivering-suite'
import { readSide, takeThere, zipThere } from '../looking/there'
import { findDestination } from '../places/destination-rows'
import { saveDestination } from '../places/destinations'
import { setByItself, thinkOfDeliveries } from './by-itself'
import { findDelivery, listDeliveries } from './delivery-rows'
import { forgetOldRecords, stateAfter } from './record-rows'
import { askToPutBack, readRecord } from './records'
import { runDelivery } from './run'
import { stopDelivering } from './worker'

const suite = deliveringSuite('Home\n  Visit\n  Birds\n    Terns')
const { onDisk } = suite
afterAll(stopDelivering)
const write = (label: string, html: string) => writePage(suite.site.siteId, suite.site.accountId, label, html)
const destination = async () =>
  (await findDestination(pool(), suite.site.destinationId, suite.site.siteId, suite.site.accountId))!
const stored = async () => (await loadSite(pool(), suite.site.siteId, suite.site.accountId))!
async function run(asked: { id: string } | null) {
  await runDelivery(asked!.id)
  const ended = (await findDelivery(pool(), asked!.id, suite.site.siteId))!
  expect(ended).toMatchObject({ state: 'done', heldCount: 0 })
  return ended
}
const deliver = async (removeLeftovers = false) => run(await askFor(suite.site, { removeLeftovers }))
const remove = async (label: string) => {
  const page = (await siteOf(suite.site.siteId, suite.site.accountId)).pages.find(
    (one) => one.label === label,
  )!
  await changeSite(suite.site.siteId, suite.site.accountId, 0, () => ({
    kind: 'removePages',
    pageIds: [page.id],
  }))
}

describe('the state after an earlier delivery', () => {
  test('is seen with what it would change, and put back to the byte', async () => {
    await write('Visit', '<p>first</p>')
    const first = await deliver()
    const before = new Map(
      await Promise.all(
        (await stateAfter(pool(), suite.site.destinationId, first.id)).map(
          async ({ path: at }) => [at, await readFile(onDisk(at), 'utf8')] as const,
        ),
      ),
    )
    await write('Visit', '<p>second</p>')
    await remove('Terns')
    const second = await deliver(true)
    expect(second.removedCount).toBe(1)

    const record = await readRecord(first, null)
    expect(record.isKept).toBe(true)
    expect(record.changes).toContainEqual({ path: 'visit.html', change: 'differs' })
    const terns = [...before.keys()].find((at) => at.includes('terns'))!
    expect(record.changes).toContainEqual({ path: terns, change: 'comes' })
    expect((await readRecord(second, first.id)).changes).toContainEqual({ path: terns, change: 'goes' })

    const back = await run(await askToPutBack(first, suite.site.accountId))
    expect(back.putBack).toBe(first.id)
    for (const [at, text] of before) expect(await readFile(onDisk(at), 'utf8')).toBe(text)
    expect((await readRecord(first, null)).changes).toEqual([])
    // The site itself is as it was; the next delivery brings it again.
    expect((await statesOf(suite.site)).changed).toBeGreaterThan(0)
    await deliver(true)
    expect(await readFile(onDisk('visit.html'), 'utf8')).toContain('<p>second</p>')
  })

  test('is none of another place, and of old ones what was replaced since is forgotten', async () => {
    const first = await deliver()
    for (let nth = 0; nth < 3; nth++) {
      await write('Visit', `<p>${nth}</p>`)
      await deliver()
    }
    // As though thirty more had come.
    await pool().query(
      `INSERT INTO deliveries (destination_id, state, revision, asked_at, ended_at)
       SELECT $1, 'done', 1, now() + make_interval(secs => n), now() FROM generate_series(1, 28) AS n`,
      [suite.site.destinationId],
    )
    const deliveries = await listDeliveries(pool(), suite.site.destinationId, 100)
    const states = await Promise.all(
      deliveries.slice(0, 30).map(({ id }) => stateAfter(pool(), suite.site.destinationId, id)),
    )
    expect(await forgetOldRecords(pool(), 1_000)).toBeGreaterThan(0)
    expect(await forgetOldRecords(pool(), 1_000)).toBe(0)
    const after = await Promise.all(
      deliveries.slice(0, 30).map(({ id }) => stateAfter(pool(), suite.site.destinationId, id)),
    )
    expect(after).toEqual(states)
    const moved = practiceForm(suite.host, `${suite.site.siteId}-moved`)
    await saveDestination(moved, suite.site.destinationId, suite.site, (await destination()).hostKey)
    expect(await stateAfter(pool(), suite.site.destinationId, first.id)).toEqual([])
    await expect(askToPutBack(first, suite.site.accountId)).rejects.toMatchObject({ code: 'not-kept' })
  })

  test('keeps its contents for as long as the record names them', async () => {
    await write('Visit', '<p>only then</p>')
    const first = await deliver()
    const { hash } = (await stateAfter(pool(), suite.site.destinationId, first.id)).find(
      (one) => one.path === 'visit.html',
    )!
    await write('Visit', '<p>later</p>')
    await deliver()
    await pool().query("UPDATE blobs SET put_at = now() - interval '10 days'")
    await new PostgresContents(pool()).collect(10_000, 24)
    expect(await new PostgresContents(pool()).get(hash)).not.toBeNull()
  })
})

describe('what stands there', () => {
  const side = async (which: Parameters<typeof readSide>[3], at: string) =>
    (
      await readSide(
        await stored(),
        suite.site.accountId,
        await destination(),
        which,
        at,
        AbortSignal.timeout(10_000),
      )
    )?.toString()

  test('is read beside what the site has, and beside what was sent', async () => {
    await write('Visit', '<p>sent</p>')
    const { id } = await deliver()
    await write('Visit', '<p>here</p>')
    await writeFile(onDisk('visit.html'), 'there')
    expect(await side('there', 'visit.html')).toBe('there')
    expect(await side('here', 'visit.html')).toContain('<p>here</p>')
    expect(await side({ after: id }, 'visit.html')).toContain('<p>sent</p>')
    for (const which of ['there', 'here', { after: id }] as const)
      expect(await side(which, 'nothing.html')).toBeUndefined()
    await expect(side('there', '../../../etc/passwd')).rejects.toThrow()
  })

  test('is fetched back as a ZIP, and taken into what is brought in', async () => {
    await deliver()
    await writeFile(onDisk('stray.txt'), 'somebody')
    const zip = await buffer(
      Readable.fromWeb((await zipThere(await destination(), AbortSignal.timeout(20_000))) as NodeStream),
    )
    expect(zip.subarray(0, 2).toString()).toBe('PK')
    for (const name of [...(await readdir(onDisk('.'))).filter((one) => one.includes('.'))])
      expect(zip.includes(name)).toBe(true)
    expect(zip.includes('not-fetched.txt')).toBe(false)
    suite.host.faults.shut.add('stray.txt')
    const without = await buffer(
      Readable.fromWeb((await zipThere(await destination(), AbortSignal.timeout(20_000))) as NodeStream),
    )
    expect(without.includes('not-fetched.txt')).toBe(true)
    suite.host.faults.reset()
    const taken = await takeThere(
      suite.site.accountId,
      await destination(),
      new Set(['stray.txt', 'visit.html']),
      AbortSignal.timeout(20_000),
      () => {},
    )
    const { rows } = await pool().query<{ path: string }>(
      'SELECT path FROM brought_files WHERE bringing_id = $1 ORDER BY path',
      [taken],
    )
    expect(rows.map((row) => row.path)).toEqual(['stray.txt', 'visit.html'])
  })

  test('a stray is removed when it was chosen, and one of the site never', async () => {
    await deliver()
    await writeFile(onDisk('default.html'), 'the host’s own')
    await writeFile(onDisk('keep.txt'), 'somebody’s')
    await lookAt(suite.site)
    const ended = await run(
      await askFor(suite.site, { strays: ['default.html', 'visit.html', 'not-there.html'] }),
    )
    expect(ended.removedCount).toBe(1)
    const names = await readdir(onDisk('.'))
    expect(names).toEqual(expect.arrayContaining(['keep.txt', 'visit.html']))
    expect(names).not.toContain('default.html')
  })
})

describe('a site that goes out by itself', () => {
  const asked = async () => (await listDeliveries(pool(), suite.site.destinationId, 10)).length
  const longAgo = () =>
    pool().query("UPDATE sites SET changed_at = now() - interval '20 minutes' WHERE id = $1", [
      suite.site.siteId,
    ])

  test('does so when nothing has changed for a while and nothing grave is found, once for each state', async () => {
    await setByItself(suite.site.destinationId, suite.site.accountId, 15)
    for (const label of ['Home', 'Visit', 'Birds', 'Terns'])
      await write(label, `<p>Of ${label} there is this to say.</p>`)
    await thinkOfDeliveries()
    expect(await asked()).toBe(0)
    await longAgo()
    await thinkOfDeliveries()
    expect(await asked()).toBe(1)
    await thinkOfDeliveries()
    expect(await asked()).toBe(1)
    // This process's own worker took it up.
    await until(async () => (await listDeliveries(pool(), suite.site.destinationId, 1))[0]!.state === 'done')
    await longAgo()
    // What the delivery noted is a revision, and nothing to send.
    await thinkOfDeliveries()
    expect(await asked()).toBe(1)
    await write('Visit', '<p>See <a href="/nowhere.html">there</a>.</p>')
    await longAgo()
    await thinkOfDeliveries()
    expect(await asked()).toBe(1)
    await write('Visit', '<p>Of Visit there is more to say now.</p>')
    await longAgo()
    await thinkOfDeliveries()
    expect(await asked()).toBe(2)
  })
})
