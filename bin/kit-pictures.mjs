// npm run kit-pictures: the picture that each kit which ships has of itself, from a running application.
import fs from 'node:fs'
import { chromium } from '@playwright/test'
import { launchOptions } from './lib/chromium.mjs'

process.chdir(new URL('..', import.meta.url).pathname)

const address = process.env.SCREENSHOTS_OF ?? 'http://127.0.0.1:4600'
const browser = await chromium.launch(launchOptions)
// A page as wide as it is shown in, at half its size: sharp enough, and some ten kilobytes.
const page = await browser.newPage({ viewport: { width: 1000, height: 750 }, deviceScaleFactor: 0.48 })
await page.goto(`${address}/sign-in`)
await page.getByRole('button', { name: 'Open the demo account' }).click()
await page.waitForURL('**/sites')
for (const id of fs.readdirSync('kits')) {
  await page.goto(`${address}/kits/${id}/look`)
  await page.screenshot({ path: `kits/${id}/picture.png` })
  const file = `kits/${id}/kit.json`
  const manifest = { ...JSON.parse(fs.readFileSync(file, 'utf8')), picture: 'picture.png' }
  fs.writeFileSync(file, `${JSON.stringify(manifest, null, 2)}\n`)
}
await browser.close()
