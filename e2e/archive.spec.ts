import { randomBytes } from 'node:crypto'
import { expect, test } from '@playwright/test'
import { allSaved, expectAccessible, fileRow, makeSite, openView, row, signUp } from './support'

test('a site is taken away whole, and brought back in another account; what is no site is refused in words', async ({ page, browser }, info) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home\n  Visit')
  await row(page, /Visit/).click()
  await openView(page, 'Pages')
  await page.getByRole('textbox', { name: 'Content of Visit' }).click()
  await page.keyboard.insertText('<p>By the pier</p>')
  await allSaved(page)
  await page.getByLabel('Files to add').setInputFiles({
    name: 'Chart.bin', mimeType: 'application/octet-stream', buffer: randomBytes(5_000_000),
  })
  await expect(fileRow(page, 'files/chart.bin')).toBeVisible()
  await page.goto('/sites')
  await page.getByText('Take away').click()
  await expectAccessible(page)
  const coming = page.waitForEvent('download')
  await page.getByRole('link', { name: 'With its earlier versions' }).click()
  const archive = info.outputPath('archive.zip')
  await (await coming).saveAs(archive)

  const other = await (await browser.newContext()).newPage()
  await signUp(other)
  await other.goto('/sites')
  const input = other.locator('input[type=file]')
  await input.setInputFiles({ name: 'x.zip', mimeType: 'application/zip', buffer: Buffer.from('no archive') })
  await expect(other.getByRole('alert')).toContainText('ZIP')
  await expectAccessible(other)
  // Cut on its way it goes on by itself.
  let isCut = false
  await other.route(/\/uploads\/.*from=[1-9]/, async (route) => {
    if (isCut) return route.continue()
    isCut = true
    await other.context().setOffline(true)
    await route.abort()
  })
  await input.setInputFiles(archive)
  await expect(other.getByText('goes on by itself when the line is back')).toBeVisible()
  await expectAccessible(other)
  await other.context().setOffline(false)
  await other.waitForURL('**/plan')
  await expect(other.getByRole('heading', { name: 'Saltpan Chapel' }).first()).toBeVisible()
  await row(other, /Visit/).click()
  await openView(other, 'Pages')
  await expect(other.getByRole('textbox', { name: 'Content of Visit' })).toContainText('By the pier')
}) // prettier-ignore
