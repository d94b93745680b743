import { randomUUID } from 'node:crypto'
import { Readable } from 'node:stream'
import { afterAll, beforeAll, expect, test } from '@jest/globals'
import { planSite, readOutline } from '#core/plan'
import { pool } from '#server/platform'
import { config } from '../../platform/config'
import { accountWithSite, freshDatabase, siteOf } from '../../testing/support'
import { createSite } from '../create'
import { takeFile, takePortions } from '../files'
import { listSites } from './site-rows'

let database: Awaited<ReturnType<typeof freshDatabase>>
beforeAll(async () => {
  database = await freshDatabase()
  // As the settings would say it.
  Object.assign(config(), { perAccount: { mostSites: 3, mostBytes: 100_000 } })
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
