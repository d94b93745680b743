import { randomBytes, randomUUID } from 'node:crypto'
import { afterAll, beforeAll, expect, test } from '@jest/globals'
import { namesOf } from '#core/naming'
import { config } from '../../platform/config'
import { pool } from '../../platform/pool'
import { getBlobs } from '../../contents/blobs'
import { outsideServer } from '../../testing/outside'
import { accountWithSite, freshDatabase, siteOf } from '../../testing/support'
import { takeFromOutside } from './take'

/** The front of a picture, and what may follow it. */
const front = Buffer.from('89504e470d0a1a0a0000000d49484452', 'hex')
const large = Buffer.concat([front, randomBytes(300_000)])

let database: Awaited<ReturnType<typeof freshDatabase>>
let accountId: string
let siteId: string
let outside: Awaited<ReturnType<typeof outsideServer>>
let base: string
const asked: string[] = []

beforeAll(async () => {
  database = await freshDatabase()
  ;({ accountId, siteId } = await accountWithSite('Home'))
  outside = await outsideServer((request, response) => {
    asked.push(request.url!)
    const to = (location: string) => response.writeHead(302, { location }).end()
    switch (request.url) {
      case '/img/The%20pier.JPG?v=2': return response.end(large)
      case '/moved': return to('/img/The%20pier.JPG?v=2')
      case '/': return response.end(front)
      case '/round': return to('/round')
      case '/inside': return to('file:///etc/passwd')
      case '/page.png': return response.end('<!DOCTYPE html><p>Gone')
      case '/empty': return response.end()
      case '/broken': return response.writeHead(500).end()
      case '/cut': return void response.writeHead(200, { 'content-length': 900_000 }).write(large, () => response.destroy())
      case '/silent': return undefined
      default: return response.writeHead(404).end()
    }
  }) // prettier-ignore
  ;({ base } = outside)
})
afterAll(async () => {
  outside.close()
  await database.close()
})

async function take(path: string, id = randomUUID(), signal = new AbortController().signal) {
  const picture = { id, address: base + path, keepsPlace: true }
  const fileId = await takeFromOutside(await siteOf(siteId, accountId), accountId, 0, picture, signal)
  const saved = await siteOf(siteId, accountId)
  return { path: namesOf(saved).files.get(fileId), file: saved.files.find((one) => one.id === fileId) }
}

test('a picture of another site becomes a file of this one, by way of redirects, once', async () => {
  const id = randomUUID()
  const before = await siteOf(siteId, accountId)
  const { path, file } = await take('/moved', id)
  // Called as where it was found, and by what it is.
  expect(path).toBe('images/the-pier.png')
  expect((await getBlobs(pool(), [file!.hash])).get(file!.hash)!.equals(large)).toBe(true)
  await take('/moved', id)
  // Asked for as another one: the site has it.
  expect((await take('/img/The%20pier.JPG?v=2')).file!.id).toBe(id)
  expect((await siteOf(siteId, accountId)).files).toHaveLength(before.files.length + 1)
  expect((await take('/')).path).toBe('images/picture.png')
})

test.each([
  ['/nothing', 'it is not there any more'],
  ['/broken', 'it answers 500'],
  ['/round', 'it leads on and on'],
  ['/inside', 'it leads elsewhere'],
  ['/page.png', 'what stands there is no picture'],
  ['/empty', 'what stands there is no picture'],
  ['/cut', 'it broke off'],
])('%s is told, and nothing of it stays', async (path, why) => {
  const before = await siteOf(siteId, accountId)
  await expect(take(path)).rejects.toMatchObject({
    code: 'not-fetched',
    message: expect.stringContaining(why),
  })
  expect((await siteOf(siteId, accountId)).files).toEqual(before.files)
})

test('one that says nothing is let go of at once when its author does not want to wait', async () => {
  const ending = new AbortController()
  const taken = take('/silent', randomUUID(), ending.signal)
  while (!asked.includes('/silent')) await new Promise((next) => setTimeout(next, 10))
  ending.abort()
  await expect(taken).rejects.toMatchObject({ code: 'not-fetched' })
})

test('networks of the server’s own are not reached, directly or by way of a name', async () => {
  const rules = config().outgoing as { privateRanges: boolean }
  const before = asked.length
  rules.privateRanges = false
  try {
    await expect(take('/')).rejects.toMatchObject({ message: expect.stringContaining('it does not answer') })
    await expect(take('/moved')).rejects.toMatchObject({ code: 'not-fetched' })
  } finally {
    rules.privateRanges = true
  }
  expect(asked.length).toBe(before)
})
