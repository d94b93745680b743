import http from 'node:http'
import type { AddressInfo } from 'node:net'
import { type Browser, expect, type Page, test } from '@playwright/test'
import { freePort } from '../bin/lib/run.mjs'
import { startChild } from '../bin/lib/services.mjs'
import { addPracticeHost, allSaved, makeSiteByHand, openView, row, signUpByHand } from './support'

// Three processes of the application behind a proxy, as they run where many work: one after the other is replaced
// while people write and deliver.

const editors = 10

/** One process; it says that it ends before it does, so that the proxy sends nobody there any more. */
async function startProcess(origin: string) {
  const [port, figuresPort] = [await freePort(), await freePort()]
  const { child, stop } = await startChild(
    'bin/server.mjs',
    {
      PORT: port,
      RUBRICANT_ORIGIN: origin,
      RUBRICANT_PROXIES: 1,
      RUBRICANT_METRICS_PORT: figuresPort,
      // Twice the time between two looks, on a machine that ten browsers keep busy.
      RUBRICANT_NOTICE: 4,
      LOG_LEVEL: 'error',
    },
    /server ready/,
  )
  running.add(stop)
  return { port, figuresPort, child }
}

/** Ends of processes, which have to come also where the test fails. */
const running = new Set<() => Promise<void>>()
test.afterEach(async () => {
  for (const stop of running) await stop()
  running.clear()
})

const asked = (port: number, path: string): Promise<number> =>
  new Promise((resolve) => {
    const request = http
      .get({ host: '127.0.0.1', port, path, timeout: 2_000 }, (answer) => {
        answer.resume()
        resolve(answer.statusCode ?? 0)
      })
      .on('timeout', () => request.destroy())
      .on('error', () => resolve(0))
  })

/** Passes requests on to whoever says that it is ready, in turn, over a connection of their own. */
class Proxy {
  readonly #server: http.Server
  readonly #isReady = new Set<number>()
  readonly #isAsked = new Set<number>()
  #turn = 0
  readonly #timer: NodeJS.Timeout
  ports: number[] = []

  constructor() {
    this.#server = http.createServer((request, response) => {
      const ready = this.#ready
      const port = ready[this.#turn++ % Math.max(1, ready.length)]
      const { method, url, headers } = request
      const passed = http.request(
        {
          port,
          host: '127.0.0.1',
          method,
          path: url,
          agent: false,
          headers: { ...headers, 'x-forwarded-for': '192.0.2.7', 'x-forwarded-host': headers.host },
        },
        (answer) => {
          response.writeHead(answer.statusCode!, answer.headers)
          answer.pipe(response)
          answer.on('error', () => response.destroy())
        },
      )
      passed.on('error', () => (response.headersSent ? response.destroy() : response.writeHead(502).end()))
      response.on('close', () => passed.destroy())
      request.pipe(passed)
    })
    this.#timer = setInterval(() => this.look(), 200)
  }

  /** Each is asked by itself: an answer that waited for those of others would tell of what was. */
  look(): void {
    for (const port of this.ports) {
      if (this.#isAsked.has(port)) continue
      this.#isAsked.add(port)
      void asked(port, '/health/ready').then((status) => {
        this.#isAsked.delete(port)
        if (status === 200) this.#isReady.add(port)
        else this.#isReady.delete(port)
      })
    }
  }
  get #ready(): number[] {
    return this.ports.filter((port) => this.#isReady.has(port))
  }
  get readyCount(): number {
    return this.#ready.length
  }
  async listen(): Promise<string> {
    await new Promise<void>((resolve) => this.#server.listen(0, '127.0.0.1', resolve))
    return `http://127.0.0.1:${(this.#server.address() as AddressInfo).port}`
  }
  close(): void {
    clearInterval(this.#timer)
    this.#server.closeAllConnections()
    this.#server.close()
  }
}

/** Somebody at a browser of their own who types without a pause, and what came as anything but an answer. */
interface Author {
  readonly page: Page
  readonly failed: string[]
  readonly siteId: string
}

async function author(browser: Browser, origin: string, nth: number): Promise<Author> {
  const context = await browser.newContext({ baseURL: origin })
  const form = { email: `rolling${nth}.${crypto.randomUUID()}@saltpan.example`, password: 'three wet herons' }
  const headers = { origin }
  await context.request.post('/sign-up', { form, headers })
  await context.request.post('/sign-in', { form, headers })
  const made = await context.request.post('/sites/new', { form: { name: 'Chapel', plan: 'Home' }, headers, maxRedirects: 0 }) // prettier-ignore
  const siteId = /\/sites\/([0-9a-f-]{36})/.exec(made.headers().location ?? '')?.[1]
  expect([made.status(), siteId]).toEqual([302, expect.any(String)])
  const page = await context.newPage()
  const failed: string[] = []
  page.on('response', (answer) => answer.status() >= 500 && failed.push(`${answer.status()} ${answer.url()}`))
  page.on('pageerror', (error) => failed.push(error.message))
  await page.goto(`/sites/${siteId}/pages`)
  await page.locator('.cm-content').click()
  await page.keyboard.press('Control+a')
  return { page, failed, siteId: siteId! }
}

/** Words that each types at least, however slow the machine is. */
const leastWords = 8

/** Writes words, counted, one after the other until it is over; resolves to all of them. */
async function typeUntil({ page }: Author, isOver: () => boolean): Promise<string> {
  let typed = ''
  for (let nth = 1; nth <= leastWords || !isOver(); nth++) {
    const word = `tide${nth} `
    await page.keyboard.insertText(word)
    typed += word
    await new Promise((resolve) => setTimeout(resolve, 400))
  }
  return typed.trim()
}

test('three processes are replaced one after the other while people write and deliver: nobody sees an error, nothing is lost', async ({ browser }) => {
  test.setTimeout(480_000)
  const proxy = new Proxy()
  const origin = await proxy.listen()
  const processes = [await startProcess(origin), await startProcess(origin), await startProcess(origin)]
  const told = () => (proxy.ports = processes.map(({ port }) => port))
  told()
  await expect.poll(() => proxy.readyCount, { timeout: 60_000 }).toBe(3)
  expect(await asked(processes[0]!.port, '/health/live')).toBe(200)

  // One who delivers, and ten who type.
  const context = await browser.newContext({ baseURL: origin })
  const page: Page = await context.newPage()
  const failed: string[] = []
  page.on('response', (answer) => answer.status() >= 500 && failed.push(`${answer.status()} ${answer.url()}`))
  await signUpByHand(page)
  const siteId = await makeSiteByHand(page, 'Saltpan Chapel', `Home\n${Array.from({ length: 60 }, (_, nth) => `  Page ${nth + 1}`).join('\n')}`)
  await openView(page, 'Upload')
  await addPracticeHost(page, `public/${siteId}`)

  const authors: Author[] = []
  for (let nth = 0; nth < editors; nth++) authors.push(await author(browser, origin, nth))
  await page.getByRole('button', { name: /^Send \d+ files$/ }).click()
  let over = false
  const work = authors.map((one) => typeUntil(one, () => over))
  for (let nth = 0; nth < processes.length; nth++) {
    const { child } = processes[nth]!
    const ended = new Promise<void>((resolve) => child.once('exit', () => resolve()))
    child.kill('SIGTERM')
    await ended
    processes[nth] = await startProcess(origin)
    told()
    await expect.poll(() => proxy.readyCount, { timeout: 60_000 }).toBe(3)
  }
  over = true
  for (const [index, typed] of (await Promise.all(work)).entries()) {
    const { page: own, failed: wrong } = authors[index]!
    await allSaved(own)
    expect(wrong).toEqual([])
    // What was typed is there, each word once, for whoever opens it next.
    await own.goto(own.url())
    await expect(own.locator('.cm-content')).toHaveText(typed, { timeout: 30_000 })
    await own.context().close()
  }
  await expect(page.getByRole('button', { name: 'Nothing to send' })).toBeVisible({ timeout: 60_000 })
  await openView(page, 'Plan')
  await row(page, /Page 1\b/).click()
  await page.keyboard.press('F2')
  await page.keyboard.insertText('First')
  await page.keyboard.press('Enter')
  await allSaved(page)
  expect(failed).toEqual([])
  // Figures are at a port of their own, and name no site.
  expect(await asked(processes[0]!.port, '/metrics')).not.toBe(200)
  const figures = await (await fetch(`http://127.0.0.1:${processes[0]!.figuresPort}/metrics`)).text()
  expect(figures).toMatch(/rubricant_answer_seconds_count\{method="POST",part="site changes",status="2xx"\} [1-9]/)
  expect(figures).toMatch(/rubricant_database_connections\{state="idle"\} \d/)
  expect(figures).not.toContain(siteId)
  await context.close()
  proxy.close()
}) // prettier-ignore
