import type { ChildProcess } from 'node:child_process'
import { readdir, readFile, stat, utimes, writeFile } from 'node:fs/promises'
import { describe, expect, test } from '@jest/globals'
import { pool } from '#server/platform'
import { changeSite } from '#server/sites'
import { kill, startDeliverer } from '../../testing/processes'
import { askFor, lookAt, siteOf, statesOf, until, writePage } from '../../testing/support'
import { deliveringSuite, planOf } from '../../testing/delivering-suite'
import { cancelDelivery, goOnNow, pauseDelivery } from './delivery-rows'
import { listItems } from './item-rows'
import { runDelivery, takeDelivery, takePart } from './run'

const pageCount = 500
const suite = deliveringSuite(planOf(pageCount))
const { onDisk, stateOf } = suite
const workersOf = async (id: string) =>
  (
    await pool().query<{ worker: string }>(
      'SELECT worker FROM delivery_workers WHERE delivery_id = $1 AND until > now()',
      [id],
    )
  ).rows.length

/** Seconds for which workers still claim a delivery or a part in it, if none of them renews its claim. */
const claimedFor = async (id: string): Promise<number> => {
  const { rows } = await pool().query<{ seconds: number | null }>(
    `SELECT extract(epoch FROM max(until) - now())::float8 AS seconds FROM
       (SELECT lease_until AS until FROM deliveries WHERE id = $1
        UNION ALL SELECT until FROM delivery_workers WHERE delivery_id = $1) AS claims`,
    [id],
  )
  return rows[0]!.seconds ?? 0
}

describe('a delivery that several work on', () => {
  test('three processes that are killed again and again end it, with every file whole at every moment', async () => {
    // Starting a process takes seconds on a busy machine: they all stand before there is anything to do, and
    // the host is slow until two of them are at it.
    const processes: ChildProcess[] = []
    for (let nth = 0; nth < 3; nth++) processes.push(await startDeliverer())
    suite.host.faults.delayMs = 250
    const { id } = (await askFor(suite.site, { goesOn: true }))!
    const style = (await listItems(pool(), id)).find(({ step }) => step === 1)!.path
    let over = false
    /** A page is there as a whole, or not at all; and none without its style sheet. */
    const watch = (async () => {
      while (!over) {
        const names = await readdir(onDisk('.')).catch((): string[] => [])
        const pages = names.filter((name) => name.endsWith('.html'))
        for (const name of pages.slice(-5))
          expect(await readFile(onDisk(name), 'utf8')).toMatch(/<\/html>\n$/)
        if (pages.length > 0) await stat(onDisk(style))
        if (names.includes('index.html')) expect(pages).toHaveLength(pageCount + 1)
        await new Promise((resolve) => setTimeout(resolve, 50))
      }
    })()
    try {
      await until(async () => (await workersOf(id)) > 1)
      suite.host.faults.delayMs = 60
      for (let kills = 0; kills < 4; kills++) {
        const before = (await stateOf(id)).fileCount
        await until(async () => {
          const { fileCount, state } = await stateOf(id)
          return fileCount > before + 20 || state === 'done'
        })
        // Whoever leads it, at first; then anybody.
        const victim = kills % 3
        await kill(processes[victim]!)
        // What it claimed is free within ten seconds of its end, however busy the machine is.
        expect(await claimedFor(id)).toBeLessThanOrEqual(10)
        const stood = (await stateOf(id)).fileCount
        processes[victim] = await startDeliverer()
        await until(async () => {
          const { fileCount, state } = await stateOf(id)
          return fileCount > stood || state === 'done'
        })
      }
      suite.host.faults.delayMs = 0
      await until(async () => (await stateOf(id)).state === 'done')
    } finally {
      over = true
      await Promise.all(processes.map(kill))
    }
    await watch
    expect(await stateOf(id)).toMatchObject({ state: 'done', heldCount: 0 })
    await lookAt(suite.site)
    expect(await statesOf(suite.site)).toEqual({ same: pageCount + 2 })
    expect((await readdir(onDisk('.'))).filter((name) => name.includes('rubricant'))).toEqual([])
  }, 150_000)

  test('is helped with only where there is much to do, and what a helper cannot do is done by whoever leads', async () => {
    suite.host.faults.delayMs = 30
    const { id } = (await askFor(suite.site))!
    const leading = (await takeDelivery(id))!
    expect(await takePart([])).toBeNull()
    await until(async () => (await stateOf(id)).fileCount > 0)
    const helping = (await takePart([]))!
    expect(helping.id).toBe(id)
    expect(await takePart([id])).toBeNull()
    await until(async () => (await workersOf(id)) === 2)
    await Promise.all([leading.ended, helping.ended])
    const { state, fileCount, fileTotal } = await stateOf(id)
    // Each file once, whoever sent it.
    expect({ state, fileCount, fileTotal }).toEqual({
      state: 'done',
      fileCount: pageCount + 2,
      fileTotal: pageCount + 2,
    })
  })
})

describe('a delivery that is paused', () => {
  test('keeps what is there, goes on when it is let, and is then complete', async () => {
    suite.host.faults.delayMs = 30
    const { id } = (await askFor(suite.site))!
    const run = runDelivery(id)
    await until(async () => (await stateOf(id)).fileCount > 0)
    await pauseDelivery(pool(), id)
    await run
    expect(await stateOf(id)).toMatchObject({ state: 'waiting', paused: true, endedAt: null })
    expect(await runDelivery(id)).toBe(false)
    suite.host.faults.delayMs = 0
    await goOnNow(pool(), id)
    expect(await runDelivery(id)).toBe(true)
    const { state, paused, fileCount, fileTotal } = await stateOf(id)
    expect({ state, paused }).toEqual({ state: 'done', paused: false })
    expect(fileCount).toBe(fileTotal)
    expect(await statesOf(suite.site)).toEqual({ same: pageCount + 2 })
  })

  test('before it began does not begin', async () => {
    const { id } = (await askFor(suite.site))!
    await pauseDelivery(pool(), id)
    expect(await runDelivery(id)).toBe(false)
    await goOnNow(pool(), id)
    expect(await runDelivery(id)).toBe(true)
  })
})

describe('what somebody else changed there', () => {
  const deliver = async () => {
    const { id } = (await askFor(suite.site))!
    await runDelivery(id)
    return stateOf(id)
  }

  test('and nobody has seen is left as it is; once it was seen it is replaced', async () => {
    await deliver()
    await writePage(suite.site.siteId, suite.site.accountId, 'Page 7', '<p>ours</p>')
    await writeFile(onDisk('page-7.html'), 'theirs')
    await writeFile(onDisk('page-8.html'), 'theirs too')
    expect(await deliver()).toMatchObject({ state: 'done', fileCount: 0, heldCount: 2 })
    expect(await readFile(onDisk('page-7.html'), 'utf8')).toBe('theirs')
    expect(await statesOf(suite.site)).toMatchObject({ 'changed there': 2 })
    // The look of that delivery is what its author sees now.
    expect(await deliver()).toMatchObject({ state: 'done', fileCount: 2, heldCount: 0 })
    expect(await readFile(onDisk('page-7.html'), 'utf8')).toContain('<p>ours</p>')
  })

  test('is not what only has another time: that is read back, and is ours', async () => {
    await deliver()
    const { size } = await stat(onDisk('page-9.html'))
    await utimes(onDisk('page-9.html'), 1_000, 1_000)
    await lookAt(suite.site)
    expect(await statesOf(suite.site)).toEqual({ same: pageCount + 2 })
    await writeFile(onDisk('page-9.html'), 'x'.repeat(size))
    await lookAt(suite.site)
    expect(await statesOf(suite.site)).toMatchObject({ 'changed there': 1 })
  })

  test('a choice of files is sent, and nothing else', async () => {
    await deliver()
    for (const label of ['Page 1', 'Page 2', 'Page 3'])
      await writePage(suite.site.siteId, suite.site.accountId, label, '<p>new</p>')
    const { id } = (await askFor(suite.site, { paths: new Set(['page-2.html']) }))!
    await runDelivery(id)
    expect((await listItems(pool(), id)).map(({ path: at, state }) => [at, state])).toEqual([
      ['page-2.html', 'sent'],
    ])
    expect(await statesOf(suite.site)).toMatchObject({ changed: 2 })
  })

  test('a choice of files with what is left over removed takes away nothing else of the site', async () => {
    await deliver()
    const gone = (await siteOf(suite.site.siteId, suite.site.accountId)).pages.find(
      ({ label }) => label === 'Page 4',
    )!
    await changeSite(suite.site.siteId, suite.site.accountId, 0, () => ({
      kind: 'removePages',
      pageIds: [gone.id],
    }))
    const { id } = (await askFor(suite.site, { paths: new Set(['page-2.html']), removeLeftovers: true }))!
    await runDelivery(id)
    expect(await stateOf(id)).toMatchObject({ state: 'done', removedCount: 1 })
    const names = (await readdir(onDisk('.'))).filter((name) => name.endsWith('.html'))
    expect(names).not.toContain('page-4.html')
    expect(names).toHaveLength(pageCount)
  })

  test('one that is called off before it began leaves no files in its record', async () => {
    const { id } = (await askFor(suite.site))!
    await cancelDelivery(pool(), id)
    expect(await stateOf(id)).toMatchObject({ state: 'cancelled' })
    expect(await listItems(pool(), id)).toEqual([])
  })
})
