import { readFileSync } from 'node:fs'
import net from 'node:net'
import { expect, test } from '@playwright/test'
import pg from 'pg'
import { becomesFree, freePort } from '../bin/lib/run.mjs'
import { keepRunning } from '../bin/lib/services.mjs'
import { addPracticeHost, again, allSaved, makeSite, openView, row, signUp } from './support'

test('what ends by itself is started again until it is asked to stop, however often starting fails', async () => {
  const ends: ((reason: string) => void)[] = []
  let starts = 0
  const start = async () => {
    starts += 1
    if (starts === 3) throw new Error('not this time')
    const resolvers: ((reason: string) => void)[] = []
    const ended = new Promise<string>((resolve) => resolvers.push(resolve))
    const end = resolvers[0]!
    ends.push(end)
    return { ended, stop: async () => end('asked') }
  }
  const kept = await keepRunning('What is tested', start)
  ends[0]!('SIGKILL')
  await expect.poll(() => starts).toBe(2)
  ends[1]!('SIGKILL')
  // The third start fails; the fourth comes after a longer pause.
  await expect.poll(() => starts).toBe(4)
  await kept.stop()
  ends.at(-1)!('again')
  await expect.poll(() => starts, { intervals: [600] }).toBe(4)
})

test('a port that is held for a moment is waited for', async () => {
  const port = await freePort()
  const server = net.createServer()
  await new Promise<void>((resolve) => server.listen(port, '127.0.0.1', resolve))
  const free = becomesFree(port, 5_000)
  server.close()
  expect(await free).toBe(true)
  const holder = net.createServer()
  await new Promise<void>((resolve) => holder.listen(port, '127.0.0.1', resolve))
  expect(await becomesFree(port, 200)).toBe(false)
  holder.close()
})

test('a port that is found free is none of those that the system gives to connections by itself', async () => {
  const ports = await Promise.all(Array.from({ length: 50 }, freePort))
  const [first = 0, last = 0] = readFileSync('/proc/sys/net/ipv4/ip_local_port_range', 'utf8')
    .split(/\s+/)
    .map(Number)
  expect(new Set(ports).size).toBe(ports.length)
  expect(ports.filter((port) => port >= first && port <= last)).toEqual([])
})

test('a stream of events answers HEAD and ends, and has no data of its own', async ({ page }) => {
  await signUp(page)
  const siteId = await makeSite(page, 'Saltpan Chapel', 'Home')
  expect((await page.request.head(`/sites/${siteId}/events`)).status()).toBe(200)
  expect((await page.request.get(`/sites/${siteId}/events.data`)).status()).toBe(404)
})

test('a window that hears nothing while a delivery ends shows its end once it hears again', async ({
  page,
}) => {
  await signUp(page)
  const siteId = await makeSite(page, 'Saltpan Chapel', 'Home\n  Visit\n  Contact')
  await openView(page, 'Upload')
  await addPracticeHost(page, `public/${siteId}`)
  await page.route('**/events', (route) => route.abort())
  await page.reload()
  const seen = await page.context().newPage()
  await page.getByRole('button', { name: /^Send \d+ files$/ }).click()
  await seen.goto(page.url())
  await expect(seen.getByRole('button', { name: 'Nothing to send' })).toBeVisible()
  await page.unroute('**/events')
  await expect(page.getByRole('button', { name: 'Nothing to send' })).toBeVisible()
})

test('a database that breaks off under two windows loses nothing, and neither is left deaf', async ({
  page,
}) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home\n  Visit\n  Contact')
  const other = await again(page)
  const client = new pg.Client({ connectionString: process.env.DATABASE_URL })
  await client.connect()
  const breakOff = () =>
    client.query(
      'SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = current_database() AND pid <> pg_backend_pid()',
    )
  await row(page, /Contact/).click()
  for (let number = 1; number <= 4; number++) {
    await page.keyboard.press('Enter')
    await page.keyboard.type(`Page ${number}`)
    await page.keyboard.press('Enter')
    await breakOff()
    await page.keyboard.press('Escape')
  }
  await allSaved(page)
  await client.end()
  for (let number = 1; number <= 4; number++) {
    await expect(row(page, new RegExp(`Page ${number}`))).toHaveCount(1)
    await expect(row(other, new RegExp(`Page ${number}`))).toBeVisible()
  }
  // And once more, now that all is quiet: the other window still hears.
  await row(page, /Page 4/).click()
  await page.keyboard.press('F2')
  await page.keyboard.type('The last')
  await page.keyboard.press('Enter')
  await expect(row(other, /The last/)).toBeVisible()
})
