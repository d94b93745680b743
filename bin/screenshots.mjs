// npm run screenshots: one PNG of each main view from the demo site of a running application.
import fs from 'node:fs'
import { chromium } from '@playwright/test'
import { launchOptions } from './lib/chromium.mjs'

process.chdir(new URL('..', import.meta.url).pathname)

const address = process.env.SCREENSHOTS_OF ?? 'http://127.0.0.1:4600'
const folder = process.env.SCREENSHOTS_TO ?? 'docs/screenshots'
const only = process.argv.slice(2)
fs.mkdirSync(folder, { recursive: true })

const browser = await chromium.launch(launchOptions)
const page = await browser.newPage({
  viewport: { width: Number(process.env.WIDTH ?? 1280), height: 800 },
  colorScheme: process.env.DARK ? 'dark' : 'light',
})
page.on('console', (message) => message.type() === 'error' && console.error(message.text()))
page.on('pageerror', (error) => console.error(error.message))

const shots = {
  async sites() {
    await page.goto(`${address}/sites`)
  },
  async 'new-site'() {
    await page.goto(`${address}/sites/new`)
    await page.getByLabel('The site is called').fill('Saltpan Chapel')
    await page.getByRole('button', { name: 'Try an example' }).click()
    await page.getByText('visit/index.html').waitFor()
  },
  async bring() {
    await page.goto(`${address}/sites/bring`)
    await page.getByRole('button', { name: /^Try it with Saltings Ferry/ }).click()
    await page.getByText('Menus are written anew').waitFor()
    await page.evaluate(() => scrollTo(0, 110))
  },
  async kits() {
    await page.goto(`${address}/kits`)
    await page.getByRole('heading', { name: 'Exhibition' }).waitFor()
  },
  async plan() {
    await openSite('plan', 'Ringing log')
  },
  async names() {
    await openSite('names', 'Keepers, 1871–1983')
    await page.getByRole('button', { name: /^Words left out/ }).click()
    await page.getByRole('textbox', { name: 'Words left out' }).fill('a, an, and, of, the')
    await page.keyboard.press('Enter')
    await page.getByText(/links? (is|are) rewritten/).waitFor()
  },
  async template() {
    await openSite('template', 'Terns')
    await page.getByRole('textbox', { name: 'HTML of the page that results' }).waitFor()
  },
  async style() {
    await openSite('template', 'Terns')
    await page.getByRole('tab', { name: 'site.css' }).click()
    await page.frameLocator('iframe').getByRole('heading', { level: 1 }).waitFor()
    await page.getByRole('button', { name: 'As on a desktop' }).click()
  },
  async pages() {
    await openSite('pages', 'Crossings & tides')
    await page.frameLocator('iframe').getByRole('table').waitFor()
  },
  async picture() {
    await openSite('pages', 'The fog signal')
    await page.getByRole('button', { name: 'Picture', exact: true }).click()
    await page.getByRole('button', { name: /light-at-dusk/ }).click()
    await page.getByLabel('What it says to somebody who cannot see it').fill('The tower at dusk')
    await page.getByText(/1,600 × 1,000/).waitFor()
  },
  async checks() {
    await page.keyboard.press('Escape')
    await page.goto(`${address}/sites`)
    // The demo's own site has nothing to find; the example to bring in has each usual fault once.
    if ((await page.getByRole('link', { name: 'Saltings Ferry' }).count()) === 0) {
      await page.goto(`${address}/sites/bring`)
      await page.getByRole('button', { name: /^Try it with Saltings Ferry/ }).click()
      await page.getByText('Menus are written anew').waitFor()
      await page.getByRole('button', { name: 'Bring it in' }).click()
      await page.waitForURL('**/plan')
    }
    await openSite('checks', 'Fares', 'Saltings Ferry')
  },
  async links() {
    await openSite('checks', 'Keeper')
    await page.getByRole('link', { name: 'Who leads to whom' }).click()
    await page.getByText(/^Keeper.* leads to/).waitFor()
  },
  async weight() {
    await openSite('checks', 'The light')
    await page.getByRole('link', { name: 'What pages weigh' }).click()
    await page.getByText(/None weighs more/).waitFor()
  },
  async files() {
    await openSite('pages', 'Terns')
    const files = page.getByRole('region', { name: 'Files', exact: true })
    await files.getByRole('button', { name: /^\d+ files$/ }).click()
    await files.getByRole('button', { name: 'images/tern-in-flight.svg' }).click()
    await page.getByText(/pixels$/).waitFor()
  },
  async versions() {
    await openSite('pages', 'Opening days')
    const text = page.getByRole('textbox', { name: 'Content of Opening days' })
    await text.click()
    await page.keyboard.press('Control+Home')
    await page.keyboard.insertText('<p>New this year: open on Mondays in July.</p>\n')
    await page.getByText(/^Saved \d/).waitFor()
    await page.getByRole('button', { name: 'Earlier versions' }).click()
    await page.getByText(/differs? from now/).waitFor()
  },
  async narrow() {
    // What was written for the picture before is taken back.
    await page.keyboard.press('Escape')
    await page.getByRole('button', { name: 'Undo' }).click()
    await page.getByText(/^Saved \d/).waitFor()
    await page.setViewportSize({ width: 640, height: 800 })
    await page.goto(`${address}/sites`)
    await page.getByRole('link', { name: 'Marrow Skerry Light' }).click()
    await page.getByRole('row', { name: 'Terns' }).click()
  },
  async upload() {
    await page.setViewportSize({ width: Number(process.env.WIDTH ?? 1280), height: 800 })
    await openSite('upload', 'Season 2025')
    await page.getByRole('button', { name: 'Compare again' }).waitFor()
  },
  async people() {
    await page.goto(await peopleOf())
    await page.getByRole('heading', { name: 'A look for somebody else' }).waitFor()
  },
  async look() {
    await page.goto(await peopleOf())
    await page.getByLabel('Who looks').fill('The committee')
    await page.getByRole('button', { name: 'Make an address to look' }).click()
    await page.goto(await page.getByLabel('The address to hand out').inputValue())
    await page.getByLabel('You see').selectOption({ label: 'Terns' })
    await page.frameLocator('iframe').getByText('The colony settles').click()
    await page.getByLabel('What you have to say').fill('Do they still nest on the north side?')
    await page.getByLabel('Your name').fill('Orla')
    await page.getByRole('button', { name: 'Leave the note' }).click()
    await page
      .getByRole('complementary', { name: 'Notes' })
      .getByText('Orla', { exact: true })
      .first()
      .waitFor()
    await page.frameLocator('iframe').getByText('Walk on, hold').click()
  },
}

async function openSite(view, label, site = 'Marrow Skerry Light') {
  await page.goto(`${address}/sites`)
  await page.getByRole('link', { name: site }).click()
  await page
    .getByRole('navigation', { name: 'Views' })
    .getByRole('link', { name: new RegExp(`^${view}`, 'i') })
    .click()
  await page.waitForLoadState('networkidle').catch(() => {})
  await page
    .getByRole('row', { name: new RegExp(label) })
    .first()
    .click()
}

/** The address of the demo site's people. */
async function peopleOf() {
  await page.goto(`${address}/sites`)
  const site = await page.getByRole('link', { name: 'Marrow Skerry Light' }).getAttribute('href')
  return `${address}${site.replace(/\/plan$/, '/people')}`
}

await page.goto(`${address}/sign-in`)
await page.getByRole('button', { name: 'Open the demo account' }).click()
await page.waitForURL('**/sites')
for (const [name, prepare] of Object.entries(shots)) {
  const wanted = only.length === 0 || only.includes(name)
  if (wanted) {
    await prepare()
    await page.waitForTimeout(400)
    await page.screenshot({ path: `${folder}/${name}.png` })
  }
}
await browser.close()
