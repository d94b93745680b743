import http from 'node:http'
import type { AddressInfo } from 'node:net'
import { type APIRequestContext, expect, type Page, test } from '@playwright/test'
import { freePort } from '../bin/lib/run.mjs'
import { startChild } from '../bin/lib/services.mjs'
import { addPracticeHost, allSaved, makeSite, openView, row, signUp } from './support'

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
      RUBRICANT_NOTICE: 1,
      LOG_LEVEL: 'error',
    },
    /server ready/,
  )
  return { port, figuresPort, child, stop }
}

const asked = (port: number, path: string): Promise<number> =>
  new Promise((resolve) => {
    http
      .get({ host: '127.0.0.1', port, path, timeout: 2_000 }, (answer) => {
        answer.resume()
        resolve(answer.statusCode ?? 0)
      })
      .on('error', () => resolve(0))
  })

/** Passes requests on to whoever says that it is ready, in turn, over a connection of their own. */
class Proxy {
  readonly #server: http.Server
  #ready: number[] = []
  #turn = 0
  readonly #timer: NodeJS.Timeout
  ports: number[] = []

  constructor() {
    this.#server = http.createServer((request, response) => {
      const port = this.#ready[this.#turn++ % Math.max(1, this.#ready.length)]
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
    this.#timer = setInterval(() => void this.look(), 200)
  }

  async look(): Promise<void> {
    const states = await Promise.all(this.ports.map((port) => asked(port, '/health/ready')))
    this.#ready = this.ports.filter((_, index) => states[index] === 200)
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

interface Answer {
  readonly revision: number
  readonly diffs: readonly {
    readonly pages: Readonly<Record<string, { readonly after: { readonly label?: string } | null }>>
  }[]
}

/** Somebody who writes all the time, and tells what was answered, and what with anything but success. */
async function edit(request: APIRequestContext, siteId: string, isOver: () => boolean) {
  const wrong: string[] = []
  const written: string[] = []
  const pageId = crypto.randomUUID()
  let seen = 0
  const send = async (change: object, label: string) => {
    const data = { seen, do: 'change', change, shown: true }
    try {
      const answer = await request.post(`/sites/${siteId}/changes`, { data })
      if (answer.status() !== 200) return wrong.push(`${answer.status()} ${await answer.text()}`)
      seen = ((await answer.json()) as Answer).revision
      written.push(label)
    } catch (error) {
      wrong.push((error as Error).message.split('\n')[0]!)
    }
  }
  await send(
    { kind: 'addPages', parentId: null, after: null, pages: [{ id: pageId, label: 'Draft 0' }] },
    'Draft 0',
  )
  for (let nth = 1; !isOver(); nth++) {
    const [was, value] = [`Draft ${nth - 1}`, `Draft ${nth}`]
    await send({ kind: 'setPageText', pageId, field: 'label', value, was }, value)
    await new Promise((resolve) => setTimeout(resolve, 150))
  }
  return { wrong, written, pageId }
}

test('three processes are replaced one after the other while people write and deliver: nobody sees an error, nothing is lost', async ({ browser, playwright }) => {
  test.setTimeout(240_000)
  const proxy = new Proxy()
  const origin = await proxy.listen()
  const processes = [await startProcess(origin), await startProcess(origin), await startProcess(origin)]
  const told = () => (proxy.ports = processes.map(({ port }) => port))
  told()
  await expect.poll(() => proxy.readyCount).toBe(3)
  expect(await asked(processes[0]!.port, '/health/live')).toBe(200)

  // One in a real browser, who delivers too.
  const context = await browser.newContext({ baseURL: origin })
  const page: Page = await context.newPage()
  const failed: string[] = []
  page.on('response', (answer) => answer.status() >= 500 && failed.push(`${answer.status()} ${answer.url()}`))
  await signUp(page)
  const siteId = await makeSite(page, 'Saltpan Chapel', `Home\n${Array.from({ length: 60 }, (_, nth) => `  Page ${nth + 1}`).join('\n')}`)
  await openView(page, 'Upload')
  await addPracticeHost(page, `public/${siteId}`)

  const clients: { request: APIRequestContext; siteId: string }[] = []
  for (let nth = 0; nth < editors; nth++) {
    const request = await playwright.request.newContext({ baseURL: origin, extraHTTPHeaders: { origin } })
    const form = { email: `rolling${nth}.${siteId}@saltpan.example`, password: 'three wet herons' }
    await request.post('/sign-up', { form })
    await request.post('/sign-in', { form })
    const made = await request.post('/sites/new', { form: { name: 'Chapel', plan: 'Home' }, maxRedirects: 0 })
    const own = /\/sites\/([0-9a-f-]{36})/.exec(made.headers().location ?? '')?.[1]
    expect([made.status(), own]).toEqual([302, expect.any(String)])
    clients.push({ request, siteId: own! })
  }
  await page.getByRole('button', { name: /^Send \d+ files$/ }).click()
  let over = false
  const work = clients.map(({ request, siteId: own }) => edit(request, own, () => over))
  for (let nth = 0; nth < processes.length; nth++) {
    const { child } = processes[nth]!
    const ended = new Promise<void>((resolve) => child.once('exit', () => resolve()))
    child.kill('SIGTERM')
    await ended
    processes[nth] = await startProcess(origin)
    told()
    await expect.poll(() => proxy.readyCount).toBe(3)
  }
  over = true
  const results = await Promise.all(work)
  for (const [index, { wrong, written, pageId }] of results.entries()) {
    expect(wrong).toEqual([])
    expect(written.length).toBeGreaterThan(10)
    const { request, siteId: own } = clients[index]!
    const { diffs } = (await (await request.get(`/sites/${own}/changes?seen=0`)).json()) as Answer
    // What was answered is there, each once.
    expect(diffs.map(({ pages }) => pages[pageId]?.after?.label)).toEqual(written)
    await request.dispose()
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
  for (const { stop } of processes) await stop()
}) // prettier-ignore
