import { expect, test } from '@playwright/test'
import { allSaved, expectAccessible, makeSite, openView, row, signUp } from './support'

test('a site is taken away whole, and brought back in another account; what is no site is refused in words', async ({ page, browser }, info) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home\n  Visit')
  await row(page, /Visit/).click()
  await openView(page, 'Pages')
  await page.getByRole('textbox', { name: 'Content of Visit' }).click()
  await page.keyboard.insertText('<p>By the pier</p>')
  await allSaved(page)
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
  await input.setInputFiles(archive)
  await other.waitForURL('**/plan')
  await expect(other.getByRole('heading', { name: 'Saltpan Chapel' }).first()).toBeVisible()
  await row(other, /Visit/).click()
  await openView(other, 'Pages')
  await expect(other.getByRole('textbox', { name: 'Content of Visit' })).toContainText('By the pier')
}) // prettier-ignore
