import { randomBytes } from 'node:crypto'
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises'
import os from 'node:os'
import path from 'node:path'
import { chromium } from '@playwright/test'
import { launchOptions } from '../bin/lib/chromium.mjs'

// A hundred photographs at once, added in the real interface: how long it takes, and the most memory that the
// server ever had meanwhile (VmHWM of proc(5)).
const address = process.env.BENCH_ADDRESS!
const count = 100
const sizeBytes = 6_000_000

const status = async () => readFile(`/proc/${process.env.BENCH_PID}/status`, 'utf8')
const megabytes = (text: string, name: string) =>
  Math.round(Number(new RegExp(`${name}:\\s+(\\d+) kB`).exec(text)![1]) / 1_000)

const browser = await chromium.launch(launchOptions)
const page = await browser.newPage()
await page.goto(`${address}/sign-in`)
await page.getByRole('button', { name: 'Open the demo account' }).click()
await page.waitForURL('**/sites')
await page.goto(`${address}/sites/new`)
await page.getByLabel('The site is called').fill('Photographs')
await page.getByRole('button', { name: 'Make this site' }).click()
await page.waitForURL('**/plan')

await page.getByRole('button', { name: 'Add files' }).waitFor()
await page.waitForLoadState('networkidle')
const before = megabytes(await status(), 'VmRSS')
const folder = await mkdtemp(path.join(os.tmpdir(), 'rubricant-photographs-'))
const files: string[] = []
for (let index = 1; index <= count; index++) {
  const bytes = randomBytes(sizeBytes)
  // As a photograph begins.
  Buffer.from('ffd8ffe000104a464946', 'hex').copy(bytes)
  const file = path.join(folder, `Bell ${index}.jpg`)
  await writeFile(file, bytes)
  files.push(file)
}
const start = process.hrtime.bigint()
await page.getByLabel('Files to add').setInputFiles(files)
await page.getByRole('button', { name: `${count + 1} files` }).waitFor({ timeout: 300_000 })
await page.getByRole('list', { name: 'Files on their way' }).waitFor({ state: 'hidden' })
const seconds = Number(process.hrtime.bigint() - start) / 1e9
const told = await status()
console.log(`\n${count} photographs of ${sizeBytes / 1_000_000} MB at once`)
console.log(
  `  ${seconds.toFixed(0)} s; memory of the server ${before} MB before, ${megabytes(told, 'VmHWM')} MB at the most`,
)
await browser.close()
await rm(folder, { recursive: true })
