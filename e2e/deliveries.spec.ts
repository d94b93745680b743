import { readdir, readFile, rm, writeFile } from 'node:fs/promises'
import path from 'node:path'
import { expect, type Page, test } from '@playwright/test'
import {
  addPracticeHost,
  allSaved,
  expectAccessible,
  makeSite,
  openView,
  practice,
  row,
  signUp,
} from './support'

/** A site that has been delivered, with the folder it stands in. */
async function deliveredSite(page: Page, plan: string): Promise<{ siteId: string; folder: string }> {
  await signUp(page)
  const siteId = await makeSite(page, 'Saltpan Chapel', plan)
  await openView(page, 'Upload')
  await addPracticeHost(page, `public/${siteId}`)
  await page.getByRole('button', { name: /^Send \d+ files$/ }).click()
  await expect(page.getByRole('button', { name: 'Nothing to send' })).toBeVisible({ timeout: 20_000 })
  return { siteId, folder: path.join(practice.folder, siteId) }
}

async function rename(page: Page, label: RegExp, to: string): Promise<void> {
  await openView(page, 'Plan')
  await row(page, label).click()
  await page.keyboard.press('F2')
  await page.keyboard.press('Control+A')
  await page.keyboard.type(to)
  await page.keyboard.press('Enter')
  await allSaved(page)
  await openView(page, 'Upload')
}

test('what somebody changed there is read beside what is here, and taken here; what is chosen is sent alone', async ({ page }) => {
  const { folder } = await deliveredSite(page, 'Home\n  Visit\n  Contact')
  const at = path.join(folder, 'visit.html')
  await writeFile(at, (await readFile(at, 'utf8')).replace('</main>', '<p>Ring the bell twice.</p></main>'))
  await writeFile(path.join(folder, 'default.html'), '<h1>Your new web space</h1>')
  await page.getByRole('button', { name: 'Compare again' }).click()
  await expect(page.getByText('One file was changed there by somebody else.')).toBeVisible()
  await page.getByRole('button', { name: 'Difference of visit.html' }).click()
  const dialog = page.getByRole('dialog', { name: 'visit.html' })
  await expect(dialog.getByRole('region', { name: 'What differs' })).toContainText('Ring the bell twice.')
  await expectAccessible(page)
  await dialog.getByRole('button', { name: 'Take it here' }).click()
  await page.waitForURL(/\/sites\/bring\?/)
  await expect(page.getByText('replaced', { exact: true })).toBeVisible({ timeout: 20_000 })
  await page.getByRole('button', { name: 'Bring them in' }).click()
  await page.waitForURL('**/plan**')
  await row(page, /Visit/).click()
  await openView(page, 'Pages')
  await expect(page.getByRole('textbox', { name: 'Content of Visit' })).toContainText('Ring the bell twice.')

  // The host's own page is told, looked into and removed; of what differs one page is sent.
  await rename(page, /Contact/, 'Write to us')
  const also = page.getByRole('region', { name: 'Also there' })
  await expect(also).toContainText('may hide your home page')
  await also.getByRole('button', { name: 'Look of default.html' }).click()
  await expect(page.getByRole('region', { name: 'What differs' })).toContainText('Your new web space')
  await page.keyboard.press('Escape')
  await also.getByLabel('remove default.html').check()
  const send = page.getByRole('region', { name: 'To send' })
  await send.getByLabel('send index.html').uncheck()
  await expect(send.getByRole('status')).toContainText('stays as visitors see it now')
  await expectAccessible(page)
  await page.getByRole('button', { name: /^Send \d+ of \d+ files, remove 1$/ }).click()
  await expect(page.getByRole('region', { name: 'Earlier deliveries' })).toContainText('1 removed', { timeout: 20_000 })
  expect(await readdir(folder)).not.toContain('default.html')
  expect(await readFile(path.join(folder, 'index.html'), 'utf8')).not.toContain('Write to us')
  await expect(page.getByRole('button', { name: 'Send 1 file' })).toBeVisible()
}) // prettier-ignore

test('an earlier state is compared and put back; what stands there is fetched as a ZIP', async ({ page }) => {
  const { folder, siteId } = await deliveredSite(page, 'Home\n  Visit\n  Contact')
  const before = await readFile(path.join(folder, 'index.html'), 'utf8')
  await rename(page, /Contact/, 'Write to us')
  await page.getByRole('button', { name: /^Send \d+ files$/ }).click()
  await expect(page.getByRole('button', { name: 'Nothing to send' })).toBeVisible({ timeout: 20_000 })
  expect(await readFile(path.join(folder, 'index.html'), 'utf8')).not.toBe(before)
  const earlier = page.getByRole('region', { name: 'Earlier deliveries' })
  await earlier.getByRole('button', { name: /^Its record/ }).last().click()
  await earlier.getByRole('button', { name: 'Difference of index.html' }).click()
  await expect(page.getByRole('region', { name: 'What differs' })).toContainText('Write to us')
  await page.keyboard.press('Escape')
  await earlier.getByRole('button', { name: 'Put this state back…' }).click()
  await expect(earlier).toContainText('become as they were')
  await expectAccessible(page)
  await earlier.getByRole('button', { name: 'Put this back' }).click()
  await expect(earlier).toContainText('putting back what stood there', { timeout: 20_000 })
  expect(await readFile(path.join(folder, 'index.html'), 'utf8')).toBe(before)
  // The site here is as it was, and can go out again.
  await expect(page.getByRole('button', { name: /^Send \d+ files$/ })).toBeVisible()
  const zip = await page.request.get(new URL(await page.getByRole('link', { name: 'fetched back as a ZIP' }).getAttribute('href') ?? '', page.url()).href)
  expect((await zip.body()).subarray(0, 2).toString()).toBe('PK')
  expect(siteId).toBeTruthy()
}) // prettier-ignore

test('a delivery waits for its time, is called off or sent now; its end is told in other views', async ({ page }) => {
  const { folder } = await deliveredSite(page, `Home\n${Array.from({ length: 40 }, (_, nth) => `  Page ${nth + 1}`).join('\n')}`)
  await rename(page, /Page 2/, 'The second one')
  await page.getByRole('button', { name: 'When…' }).click()
  await expectAccessible(page)
  await page.getByRole('button', { name: 'Send it then' }).click()
  await expect(page.getByText(/The site goes out today|The site goes out \d/)).toBeVisible()
  await page.getByRole('button', { name: 'Do not send it' }).click()
  await expect(page.getByRole('region', { name: 'Earlier deliveries' })).toContainText('cancelled')

  await rm(path.join(folder, 'index.html'))
  await page.getByRole('button', { name: 'When…' }).click()
  await page.getByRole('button', { name: 'Send it then' }).click()
  await expect(page.getByRole('button', { name: 'Send it now' })).toBeVisible()
  await page.getByRole('button', { name: 'Send it now' }).click()
  await openView(page, 'Plan')
  await expect(page.getByText(/^The delivery has ended: \d+ files sent\./)).toBeVisible({ timeout: 30_000 })
  await page.getByRole('link', { name: 'Look at it' }).click()
  await expect(page.getByRole('button', { name: 'Nothing to send' })).toBeVisible()

  await page.getByRole('button', { name: 'When…' }).click()
  await page.getByLabel(/^Send it by itself when/).selectOption({ label: '15 minutes' })
  await page.keyboard.press('Escape')
  await expect(page.getByRole('button', { name: 'By itself…' })).toBeVisible()
}) // prettier-ignore
