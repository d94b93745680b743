import { randomBytes } from 'node:crypto'
import { strToU8, zipSync } from 'fflate'
import { mkdir, rm, truncate, writeFile } from 'node:fs/promises'
import path from 'node:path'
import { expect, test } from '@playwright/test'
import {
  dropFromDisk,
  expectAccessible,
  expectLabels,
  makeSite,
  openView,
  pick,
  practice,
  row,
  signUp,
} from './support'

test('the example is understood, seen under other choices, and brought in', async ({ page }) => {
  await signUp(page)
  await page.goto('/sites')
  await page.getByRole('link', { name: 'or bring one in that exists already' }).click()
  await expectAccessible(page)
  await page.getByRole('button', { name: /^Try it with Saltings Ferry/ }).click()
  const plan = page.getByRole('list', { name: 'The plan that was found' })
  await expect(plan.getByRole('listitem').first()).toContainText('index.html')
  await expect(page.getByText('fits 16 pages')).toBeVisible()
  await expect(page.getByText('Menus are written anew on 14 pages')).toBeVisible()
  await expectAccessible(page)

  // As they are written: nothing comes out otherwise then.
  await page.getByRole('button', { name: /^Menus/ }).click()
  await page.getByRole('menuitemradio', { name: /stay as they are written/ }).click()
  await expect(page.getByText('Menus are written anew')).toHaveCount(0)
  await page.getByRole('button', { name: /^Names/ }).click()
  await page.getByRole('menuitemradio', { name: /follow the usual scheme/ }).click()
  await expect(plan.getByText('was old/history.htm')).toBeVisible()
  await page.getByLabel('The site is called').fill('Ferry')
  await page.getByRole('button', { name: 'Bring it in' }).click()
  await page.waitForURL('**/plan')
  await expect(page.getByRole('row', { name: 'The old slip' })).toBeVisible()
  await openView(page, 'Checks')
  await expect(page.getByText('Fares.html differs from fares.html in capitals only')).toBeVisible()
  await openView(page, 'Pages')
  await expect(page.frameLocator('iframe').getByRole('heading', { level: 1 })).toHaveText(
    'Across the saltings',
  )
})

test('the plan that was found is corrected before the site is made', async ({ page }) => {
  await signUp(page)
  await page.goto('/sites/bring')
  await page.getByRole('button', { name: /^Try it with Saltings Ferry/ }).click()
  const label = (was: string) => page.getByRole('textbox', { name: `Label of ${was}` })
  const plan = page.getByRole('list', { name: 'The plan that was found' })
  await label('fares.html').focus()
  await page.keyboard.press('Alt+ArrowRight')
  await expect(page.getByRole('button', { name: 'Bring it in' })).toBeDisabled()
  await expect(page.getByRole('button', { name: 'Bring it in' })).toBeEnabled()
  // The line keeps the focus where it went.
  await expect(label('fares.html')).toBeFocused()
  await label('contact.html').fill('Write to us')
  await label('contact.html').press('Enter')
  await plan
    .getByRole('listitem')
    .filter({ has: label('contact.html') })
    .hover()
  await page.getByRole('button', { name: 'Move up: Write to us' }).click()
  await expect(page.getByRole('button', { name: 'Bring it in' })).toBeEnabled()
  await expectAccessible(page)
  await page.getByRole('button', { name: 'Put back the plan that was found' }).click()
  await expect(page.getByRole('button', { name: 'Put back the plan that was found' })).toHaveCount(0)
  await expect(label('contact.html')).toHaveValue('Contact')
  await pick(page, 'Plan', /the folders/)
  await expect(page.getByRole('button', { name: 'Plan: the folders' })).toBeVisible()

  await label('contact.html').fill('Write to us')
  await label('contact.html').press('Alt+ArrowUp')
  await expect(page.getByRole('button', { name: 'Bring it in' })).toBeEnabled()
  await page.getByRole('button', { name: 'Bring it in' }).click()
  await page.waitForURL('**/plan')
  await expect(page.getByRole('row', { name: 'Write to us' })).toBeVisible()
})

test('the edge of a slot is moved by keyboard, put back, and moved again before the site is made', async ({
  page,
}) => {
  await signUp(page)
  await page.goto('/sites/bring')
  await page.getByRole('button', { name: /^Try it with Saltings Ferry/ }).click()
  const over = page.getByRole('group', { name: 'Template over fares.html' })
  const button = (words: RegExp) => over.getByRole('button', { name: words })
  const around = button(/^Take in the element around it: content$/)
  await around.focus()
  await page.keyboard.press('Enter')
  await expect(over.getByText('<div id="text">').locator('visible=true')).toHaveCount(1)
  await expect(button(/^Begin earlier.*: content$/)).toBeEnabled()
  // There is no more to take in around it, and the button that was pressed is still where the keyboard is.
  await expect(around).toBeFocused()
  await expect(around).toHaveAttribute('aria-disabled', 'true')
  await expectAccessible(page)
  await button(/^End later.*: content$/).press('Enter')
  await expect(button(/^End later.*: content$/)).toHaveAttribute('aria-disabled', 'true')
  await page.getByRole('button', { name: 'Put back the edges that were found' }).click()
  await expect(page.getByRole('button', { name: 'Put back the edges that were found' })).toHaveCount(0)
  await expect(around).toHaveAttribute('aria-disabled', 'false')
  await around.press('Enter')
  await expect(button(/^Begin earlier.*: content$/)).toBeEnabled()
  await page.getByRole('button', { name: 'Bring it in' }).click()
  await page.waitForURL('**/plan')
  await row(page, /Fares/).click()
  await openView(page, 'Pages')
  await expect(page.getByRole('textbox', { name: 'Content of Fares' })).toContainText('<div id="text">')
})

test('a folder comes in as it lies on a disk, and what is none is told', async ({ page }, testInfo) => {
  await signUp(page)
  await page.goto('/sites/bring')
  await page
    .getByLabel('Choose a ZIP: the file')
    .setInputFiles({ name: 'notes.zip', mimeType: 'application/zip', buffer: Buffer.from('no archive') })
  await expect(page.getByRole('alert')).toContainText('This is no ZIP that can be unpacked')

  const folder = testInfo.outputPath('my-site')
  await mkdir(path.join(folder, 'birds'), { recursive: true })
  const html = (title: string, body: string) =>
    `<!DOCTYPE html>\n<title>${title}</title>\n<div id="all">\n${body}\n</div>\n`
  await writeFile(path.join(folder, 'index.html'), html('Mine', '<p><a href="birds/">Birds</a></p>'))
  await writeFile(
    path.join(folder, 'birds', 'index.html'),
    html('Birds', '<p><a href="terns.html">Terns</a></p>'),
  )
  await writeFile(path.join(folder, 'birds', 'terns.html'), html('Terns', '<p>In May.</p>'))
  await page.getByLabel('The folder of the site').setInputFiles(folder)
  await page.getByRole('button', { name: 'Bring it in' }).click()
  await page.waitForURL('**/plan')
  await expectLabels(page, ['Mine', 'Birds', 'Terns'])
})

test('a ZIP and a folder that are cut on their way go on by themselves', async ({ page, context }, testInfo) => {
  await signUp(page)
  await page.goto('/sites/bring')
  const html = (title: string) => `<!DOCTYPE html>\n<title>${title}</title>\n<p><a href="terns.html">Terns</a></p>\n`
  let cuts = 0
  // The line goes down in the midst of it, and what was being sent with it.
  await page.route(/\/bringing\/[^/]+\/(uploads|files)/, async (route) => {
    const isNext = /from=[1-9]|terns/.test(route.request().url())
    if (cuts > 0 || !isNext) return route.continue()
    cuts += 1
    await context.setOffline(true)
    await route.abort()
  })
  const words = page.getByText('It goes on by itself when the line is back.')
  const files = { 'index.html': html('Mine'), 'terns.html': html('Terns') }
  const chart = randomBytes(5_000_000)
  const buffer = Buffer.from(zipSync({ ...Object.fromEntries(Object.entries(files).map(([name, text]) => [name, strToU8(text)])), 'chart.bin': chart }, { level: 0 }))
  await page.getByLabel('Choose a ZIP: the file').setInputFiles({ name: 'mine.zip', mimeType: 'application/zip', buffer })
  await expect(words).toBeVisible()
  await expectAccessible(page)
  await context.setOffline(false)
  await expect(page.getByText('2 pages, 1 file')).toBeVisible()
  await page.getByRole('button', { name: 'Leave it' }).click()

  cuts = 0
  const folder = testInfo.outputPath('mine')
  await mkdir(folder, { recursive: true })
  for (const [name, text] of Object.entries(files)) await writeFile(path.join(folder, name), text)
  await page.getByLabel('The folder of the site').setInputFiles(folder)
  await expect(words).toBeVisible()
  await context.setOffline(false)
  await page.getByRole('button', { name: 'Bring it in' }).click()
  await expectLabels(page, ['Mine', 'Terns'])
}) // prettier-ignore

test('a folder that is dropped from a disk comes in without what cannot be read or is too large, and says so', async ({
  page,
}, testInfo) => {
  const folder = testInfo.outputPath('Boat shed')
  await mkdir(folder, { recursive: true })
  for (const [name, label] of [
    ['index.html', 'Boat shed'],
    ['hire.html', 'Hire'],
    ['Termine.html', 'Dates'],
  ])
    await writeFile(path.join(folder, name!), `<!DOCTYPE html><title>${label}</title><h1>${label}</h1>`)
  const lost = path.join(folder, 'lost.html')
  await writeFile(lost, '<p>Lost')
  await writeFile(path.join(folder, 'film.mp4'), '')
  // Holes take no room on a disk.
  await truncate(path.join(folder, 'film.mp4'), 300_000_000)
  await signUp(page)
  await page.goto('/sites/bring')
  // It goes while its folder is on its way.
  await page.route('**/bringing', (route) => rm(lost).then(() => route.continue()))
  await dropFromDisk(page, page.getByText('Drop the folder of your site here'), [folder])
  const remarks = page.getByRole('list', { name: 'Worth knowing' })
  await expect(remarks).toContainText('film.mp4 It is larger than 200 MB')
  await expect(remarks).toContainText('lost.html Your computer does not let it be read')
  await expectAccessible(page)
  await page.getByRole('button', { name: 'Bring it in' }).click()
  await expectLabels(page, ['Boat shed', 'Dates', 'Hire'])

  // Dropped on a site: what can come comes, the rest says why not, and is not tried again and again.
  await makeSite(page, 'Saltpan Chapel', 'Home')
  const chart = path.join(folder, 'chart.pdf')
  await writeFile(chart, '%PDF-1.4')
  await page.route('**/files?*', async (route) => {
    await rm(chart)
    await route.abort()
  })
  await dropFromDisk(page, page.getByRole('main'), [path.join(folder, 'film.mp4'), chart])
  const underWay = page.getByRole('list', { name: 'Files on their way' })
  await expect(underWay).toContainText('is larger than 200 MB')
  await expect(underWay).toContainText(/chart\.pdf.*does not let it be read/)
  await expect(underWay.getByRole('button', { name: 'Try again' })).toHaveCount(1)
})

test('a site that stands at a host is fetched, brought in, and can be sent back there', async ({ page }) => {
  const name = `old-${Date.now()}`
  const html = (title: string) => `<!DOCTYPE html>\n<title>${title}</title>\n<h1>${title}</h1>\n<p><a href="b.html">b</a></p>\n`
  await mkdir(path.join(practice.folder, name))
  for (const [file, title] of [['index.html', 'Old'], ['b.html', 'Bee']] as const)
    await writeFile(path.join(practice.folder, name, file), html(title))
  await signUp(page)
  await page.goto('/sites/bring')
  await page.getByRole('button', { name: 'Fetch it from a host' }).click()
  await expectAccessible(page)
  await page.getByLabel(/^What your host wrote/).fill(`ftp://keeper@127.0.0.1:${practice.ftpPort}/public/${name}`)
  await page.getByLabel('Password').fill('wrong')
  await page.getByLabel(/^Public address/).fill(`${practice.address}${name}/`)
  await page.getByRole('button', { name: 'Connect' }).click()
  await expect(page.getByText('Nothing shows that this host is itself')).toBeVisible()
  await page.getByRole('button', { name: 'Go on and fetch it' }).click()
  await expect(page.getByRole('alert')).toContainText('does not accept this account and password')
  // Nothing of what was typed is lost.
  await expect(page.getByLabel('Host', { exact: true })).toHaveValue('127.0.0.1')
  await page.getByLabel('Password', { exact: true }).fill(practice.password)
  await page.getByRole('button', { name: 'Connect' }).click()
  await page.getByRole('button', { name: 'Go on and fetch it' }).click()
  await expect(page.getByRole('list', { name: 'The plan that was found' }).getByRole('listitem')).toHaveCount(2)
  await page.getByRole('button', { name: 'Bring it in' }).click()
  await page.waitForURL('**/plan')
  await expectLabels(page, ['Old', 'Bee'])
  await openView(page, 'Upload')
  await expect(page.getByText(/^FTP to/)).toBeVisible()
  await expect(page.getByRole('button', { name: 'Nothing to send' })).toBeVisible({ timeout: 20_000 })
}) // prettier-ignore
