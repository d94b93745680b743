import { randomUUID } from 'node:crypto'
import { Readable } from 'node:stream'
import { afterAll, beforeAll, expect, test } from '@jest/globals'
import { planSite, readOutline } from '#core/plan'
import type { Change } from '#core/change'
import { emptyHash } from '#core/site'
import { countRequest, pool } from '#server/platform'
import { config } from '../../platform/config'
import { accountWithSite, freshDatabase, siteOf } from '../../testing/support'
import { changeSite } from '../changes/changes'
import { stepHistory } from '../changes/step-history'
import { createSite } from '../create'
import { takeFile, takePortions } from '../files'
import { listSites } from './site-rows'

let database: Awaited<ReturnType<typeof freshDatabase>>
beforeAll(async () => {
  database = await freshDatabase()
  // As the settings would say it.
  Object.assign(config(), {
    perAccount: { mostSites: 3, mostPages: 40, mostBytes: 100_000, requestsAMinute: 5 },
  })
})
afterAll(() => database.close())

test('an account has so many sites and no more, also when they are asked for at once', async () => {
  const { accountId } = await accountWithSite('Home')
  const make = () =>
    createSite(accountId, { name: 'x', language: 'en', plan: planSite(readOutline('Home'), 'x') })
  const made = await Promise.allSettled(Array.from({ length: 5 }, make))
  expect(made.filter(({ status }) => status === 'fulfilled')).toHaveLength(2)
  for (const one of made)
    if (one.status === 'rejected') expect(one.reason).toMatchObject({ code: 'too-many-sites' })
  expect(await listSites(pool(), accountId)).toHaveLength(3)
})

test('files of all its sites come to so many bytes, whole or in portions', async () => {
  const { accountId, siteId } = await accountWithSite('Home')
  const add = async (bytes: number) =>
    takeFile(
      await siteOf(siteId, accountId),
      accountId,
      0,
      { id: randomUUID(), name: 'a.txt', replaces: null, keepsPlace: true },
      Readable.from([Buffer.alloc(bytes, 'x')]),
    )
  await add(60_000)
  await expect(add(60_000)).rejects.toMatchObject({ code: 'account-full' })
  await expect(
    takePortions(await siteOf(siteId, accountId), randomUUID(), 0, Readable.from([Buffer.alloc(60_000)])),
  ).rejects.toMatchObject({ code: 'account-full' })
  await add(20_000)
  expect((await siteOf(siteId, accountId)).files.filter(({ label }) => label.startsWith('a'))).toHaveLength(2)
})

test('pages of all its sites are so many, added, brought back, or with a new site', async () => {
  const { accountId, siteId } = await accountWithSite('Home')
  let seen = 0
  const change = async (made: Change) => {
    seen = (await changeSite(siteId, accountId, seen, () => made)).revision
  }
  const add = (count: number) => {
    const pages = Array.from({ length: count }, (_, nth) => ({ id: randomUUID(), label: `Page ${nth}` }))
    const content = emptyHash
    return change({ kind: 'addPages', parentId: null, after: null, pages, content })
  }
  await add(30)
  await expect(add(10)).rejects.toMatchObject({ code: 'too-many-pages' })
  await add(9)
  // What is written in those that are there goes on.
  const { pages } = await siteOf(siteId, accountId)
  const [last] = pages.slice(-1)
  await change({ kind: 'setPageText', pageId: last!.id, field: 'label', value: 'Other', was: last!.label })
  await change({ kind: 'removePages', pageIds: pages.slice(-5).map(({ id }) => id) })
  await expect(
    createSite(accountId, {
      name: 'x',
      language: 'en',
      plan: planSite(readOutline('Home\n  A\n  B\n  C\n  D\n  E\n  F'), 'x'),
    }),
  ).rejects.toMatchObject({ code: 'too-many-pages' })
  await stepHistory(siteId, accountId, seen, 'undo')
  expect((await siteOf(siteId, accountId)).pages).toHaveLength(40)
})

test('an account that asks without end is told to wait; others are not', async () => {
  const [one, other] = [randomUUID(), randomUUID()]
  for (let nth = 0; nth < 5; nth++) expect(await countRequest(one)).toBeNull()
  expect(await countRequest(one)).toBeGreaterThan(0)
  expect(await countRequest(other)).toBeNull()
})
