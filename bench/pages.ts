import { type Browser, chromium, type Page } from '@playwright/test'
import { launchOptions } from '../bin/lib/chromium.mjs'

// What a view of the demo asks of a browser: bytes that arrive by kind, as they are packed, the largest paint, long tasks.
// Cold is a browser that has never been here; warm, one that has.
const address = process.env.BENCH_ADDRESS!
const runs = 5
const views = ['plan', 'pages', 'checks'] as const

interface Load {
  readonly bytes: ReadonlyMap<string, number>
  readonly paintMs: number
  readonly longestTaskMs: number
}

const middle = (numbers: readonly number[]) =>
  [...numbers].sort((a, b) => a - b)[Math.floor(numbers.length / 2)]!

async function openDemo(browser: Browser): Promise<Page> {
  const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage()
  await page.goto(`${address}/sign-in`)
  await page.getByRole('button', { name: 'Open the demo account' }).click()
  await page.waitForURL('**/sites')
  return page
}

/** Loads an address and waits until nothing more comes. */
async function load(page: Page, url: string): Promise<Load> {
  const network = await page.context().newCDPSession(page)
  await network.send('Network.enable')
  const begun = new Map<string, { kind: string; headerBytes: number }>()
  const bytes = new Map<string, number>()
  network.on('Network.responseReceived', ({ requestId, type, response }) =>
    begun.set(requestId, { kind: type, headerBytes: response.encodedDataLength }),
  )
  network.on('Network.loadingFinished', ({ requestId, encodedDataLength }) => {
    const { kind, headerBytes } = begun.get(requestId) ?? { kind: 'Other', headerBytes: 0 }
    bytes.set(kind, (bytes.get(kind) ?? 0) + Math.max(0, encodedDataLength - headerBytes))
  })
  await page.goto(url)
  await page.getByRole('treegrid', { name: 'Pages' }).waitFor()
  await page.waitForTimeout(1_500)
  await network.detach()
  const times = await page.evaluate(
    () =>
      new Promise<{ paintMs: number; longestTaskMs: number }>((resolve) => {
        let paintMs = 0
        let longestTaskMs = 0
        new PerformanceObserver((list) => {
          for (const entry of list.getEntries()) paintMs = Math.max(paintMs, entry.startTime)
        }).observe({ type: 'largest-contentful-paint', buffered: true })
        new PerformanceObserver((list) => {
          for (const entry of list.getEntries()) longestTaskMs = Math.max(longestTaskMs, entry.duration)
        }).observe({ type: 'longtask', buffered: true })
        setTimeout(() => resolve({ paintMs, longestTaskMs }), 200)
      }),
  )
  return { bytes, ...times }
}

function print(name: string, loads: readonly Load[]): void {
  const kilobytes = (kind: string) =>
    `${(middle(loads.map(({ bytes }) => bytes.get(kind) ?? 0)) / 1000).toFixed(0).padStart(5)} KB`
  const ms = (of: (one: Load) => number) => `${middle(loads.map(of)).toFixed(0).padStart(5)} ms`
  console.log(
    `${name.padEnd(16)} ${['Script', 'Stylesheet', 'Font', 'Document'].map(kilobytes).join(' ')}   ${ms((one) => one.paintMs)}   ${ms((one) => one.longestTaskMs)}`,
  )
}

console.log(`\nThe demo in a browser; medians of ${runs} loads\n`)
console.log(`${''.padEnd(16)}   script   styles    fonts     page     paint   longest task`)
for (const view of views) {
  const cold: Load[] = []
  const warm: Load[] = []
  for (let run = 0; run < runs; run++) {
    const browser = await chromium.launch(launchOptions)
    const first = await openDemo(browser)
    await first.getByRole('link', { name: 'Marrow Skerry Light' }).click()
    await first.getByRole('treegrid', { name: 'Pages' }).waitFor()
    const url = new URL(first.url().replace(/\/plan.*/, `/${view}`)).href
    const cookies = await first.context().cookies()
    // A context of its own has nothing in its cache.
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 } })
    await context.addCookies(cookies)
    const page = await context.newPage()
    cold.push(await load(page, url))
    warm.push(await load(page, url))
    await browser.close()
  }
  print(`${view}, cold`, cold)
  print(`${view}, warm`, warm)
}
