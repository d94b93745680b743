import { randomBytes, randomUUID } from 'node:crypto'
import { readdir } from 'node:fs/promises'
import { Readable } from 'node:stream'
import { expect, test } from '@jest/globals'
import { takeFile } from '#server/sites'
import { askFor, siteOf, statesOf } from '../../testing/support'
import { deliveringSuite } from '../../testing/delivering-suite'
import { runDelivery } from './run'

const suite = deliveringSuite('Home\n  Films')

/** Films of a few million bytes: more of them than may be under way together. */
const films = 8
const filmBytes = 3_000_000

test('over a slow line films go a few at a time, and how far they have come is told while they are on their way', async () => {
  const { siteId, accountId } = suite.site
  for (let nth = 0; nth < films; nth++) {
    const asked = { id: randomUUID(), name: `Film ${nth}.bin`, replaces: null, keepsPlace: false }
    const site = await siteOf(siteId, accountId)
    await takeFile(site, accountId, 0, asked, Readable.from([randomBytes(filmBytes)]))
  }
  const { id } = (await askFor(suite.site))!
  suite.host.faults.bytesPerSecond = 6_000_000
  let hasEnded = false
  const ended = runDelivery(id).finally(() => (hasEnded = true))
  let most = 0
  /** What was told to have gone out while as many files were complete. */
  const told = new Map<number, Set<number>>()
  while (!hasEnded) {
    const names = await readdir(suite.onDisk('files')).catch(() => [])
    most = Math.max(most, names.filter((name) => name.endsWith('.rubricant-part')).length)
    const { fileCount, byteCount, byteTotal, state } = await suite.stateOf(id)
    expect(byteCount).toBeLessThanOrEqual(byteTotal)
    if (state === 'running') told.set(fileCount, (told.get(fileCount) ?? new Set()).add(byteCount))
    await new Promise((resolve) => setTimeout(resolve, 50))
  }
  await ended
  const done = await suite.stateOf(id)
  expect([done.state, done.byteCount]).toEqual(['done', done.byteTotal])
  expect(done.byteTotal).toBeGreaterThan(films * filmBytes)
  expect(await statesOf(suite.site)).toEqual({ same: films + 3 })
  // Eight million bytes, each film counting for two.
  expect(most).toBeGreaterThan(0)
  expect(most).toBeLessThanOrEqual(4)
  expect(Math.max(...[...told.values()].map((counts) => counts.size))).toBeGreaterThan(2)
})
