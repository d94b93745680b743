import { randomUUID } from 'node:crypto'
import { chromium } from '@playwright/test'
import { launchOptions } from '../bin/lib/chromium.mjs'
import { figureOf } from './measure'

// From a key's own time stamp to the frame that shows what it did, in the register of 5,000 pages.
const address = process.env.BENCH_ADDRESS!
const pageCount = 5_000
const warmUps = 4
const presses = 15

const lines = ['Home']
for (let section = 1; lines.length < pageCount; section++) {
  lines.push(`  Section ${section}`)
  for (let index = 1; index <= 20 && lines.length < pageCount; index++)
    lines.push(`    Page ${section}.${index}`)
}

const email = `${randomUUID()}@saltpan.example`
const password = 'three wet herons'
const browser = await chromium.launch(launchOptions)
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
await page.goto(`${address}/sign-up`)
await page.getByLabel('E-mail address').fill(email)
await page.getByLabel('Password').fill(password)
await page.getByRole('button', { name: 'Make the account' }).click()
await page.waitForURL('**/sign-in?new')
await page.getByLabel('E-mail address').fill(email)
await page.getByLabel('Password').fill(password)
await page.getByRole('button', { name: 'Sign in' }).click()
await page.waitForURL('**/sites')
await page.goto(`${address}/sites/new`)
await page.getByLabel('The site is called').fill('Saltpan Chapel')
await page.getByLabel('Its pages, one a line, indented under each other').evaluate((editor, text) => {
  const clipboardData = new DataTransfer()
  clipboardData.setData('text/plain', text)
  editor.dispatchEvent(new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }))
}, lines.join('\n'))
await page.getByRole('button', { name: 'Make this site' }).click()
await page.waitForURL('**/plan', { timeout: 120_000 })
await page.getByRole('row', { name: 'Page 1.3' }).first().click()
await page.evaluate(() => {
  const times: number[] = []
  Object.assign(window, { times })
  addEventListener(
    'keydown',
    (event) => {
      requestAnimationFrame(() => {
        // The task after a frame's callbacks runs when the frame has been handed on.
        const channel = new MessageChannel()
        channel.port1.onmessage = () => times.push(performance.now() - event.timeStamp)
        channel.port2.postMessage(null)
      })
    },
    true,
  )
})

async function keys(name: string, press: (turn: number) => Promise<void>) {
  for (let turn = 0; turn < warmUps + presses; turn++) {
    await press(turn)
    // Each key on its own, as from a hand, and what the last one left to do is done.
    await page.waitForTimeout(250)
  }
  const times = await page.evaluate(() => (window as unknown as { times: number[] }).times.splice(0))
  figureOf(name, times.slice(warmUps))
}

console.log(
  `\nChromium ${browser.version()}, drawn by the processor; medians of ${presses} keys after ${warmUps}\n`,
)
await keys('a key that chooses the next of 5,000 pages, to the frame', () => page.keyboard.press('ArrowDown'))
await keys('a key that moves a page among its neighbours', (turn) =>
  page.keyboard.press(turn % 2 ? 'Alt+ArrowDown' : 'Alt+ArrowUp'),
)
await page.keyboard.press('F2')
await page.waitForTimeout(300)
await page.evaluate(() => void (window as unknown as { times: number[] }).times.splice(0))
await keys('a letter of a label', (turn) => page.keyboard.press(String.fromCharCode(97 + turn)))
await page.keyboard.press('Escape')
await page.getByRole('tab', { name: 'Text' }).click()
await page.getByRole('textbox', { name: 'The whole plan as text' }).click()
await keys('a letter of the plan as text', (turn) => page.keyboard.press(String.fromCharCode(97 + turn)))
await browser.close()
