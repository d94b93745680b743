import { expect, test } from '@playwright/test'
import { expectAccessible, makeSite, openView, signUp } from './support'

test('a kit is kept from a site, seen, taken out and in, and the next site begins with it', async ({
  page,
}) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home\n  Visit')
  await openView(page, 'Template')
  await page.getByRole('button', { name: 'Keep as a kit' }).click()
  await page.getByLabel('The kit is called').fill('Of salt')
  await page.getByLabel('What it is good for').fill('Chapels')
  await page.getByRole('button', { name: 'Keep it' }).click()
  await expect(page.getByText('“Of salt” is kept.')).toBeVisible()
  await expectAccessible(page)

  await page.getByRole('link', { name: 'See your kits' }).click()
  await expect(page.getByRole('heading', { name: 'Of salt' })).toBeVisible()
  await expect(page.frameLocator('iframe').getByRole('heading', { level: 1 })).toHaveText(
    'The painted ceiling',
  )
  await expectAccessible(page)
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Of salt as a ZIP' }).click(),
  ])
  expect(download.suggestedFilename()).toBe('of-salt.zip')
  const zip = await download.path()
  await page.getByRole('button', { name: 'Forget Of salt' }).click()
  await expect(page.getByText(/^None yet/)).toBeVisible()

  // What is no kit is told; the one that was taken out comes back.
  const choose = (file: Parameters<ReturnType<typeof page.locator>['setInputFiles']>[0]) =>
    page.getByLabel('Take one in from a ZIP: the file').setInputFiles(file)
  await choose({ name: 'notes.zip', mimeType: 'application/zip', buffer: Buffer.from('no archive') })
  await expect(page.getByRole('alert')).toContainText('notes.zip: This is no ZIP that can be unpacked')
  await choose(zip)
  await expect(page.getByRole('heading', { name: 'Of salt' })).toBeVisible()

  await page.getByRole('link', { name: 'Begin a site with Of salt' }).click()
  await expect(page.getByRole('radio', { name: 'Of salt' })).toBeChecked()
  await expectAccessible(page)
  await page.getByLabel('The site is called').fill('Second')
  await page.getByLabel('Its pages, one a line, indented under each other').fill('Home\n  Visit')
  await page.getByRole('button', { name: 'Make this site' }).click()
  await page.waitForURL('**/plan')
  await openView(page, 'Template')
  await expect(page.getByRole('tab', { name: 'site.css' })).toBeVisible()
})

test('a site begins with a kit that ships: its names, its templates and its look', async ({ page }) => {
  await signUp(page)
  await page.goto('/sites/new')
  await page.getByLabel('The site is called').fill('Rooms')
  await page
    .getByLabel('Its pages, one a line, indented under each other')
    .fill('Home\n  Boats\n    The coble')
  await expect(page.getByText('boats/index.html')).toBeVisible()
  // The kit brings its scheme, and the tree follows.
  await page.getByText('Exhibition', { exact: true }).click()
  await expect(page.getByRole('region', { name: 'What it becomes' })).toContainText('boats.html')
  await page.reload()
  await expect(page.getByRole('radio', { name: 'Exhibition' })).toBeChecked()
  await page.getByRole('button', { name: 'Make this site' }).click()
  await page.waitForURL('**/plan')
  await openView(page, 'Template')
  await expect(page.getByRole('tab', { name: 'Room', exact: true })).toBeVisible()
  await page.getByRole('tab', { name: 'layout.css' }).click()
  await expect(page.frameLocator('iframe').getByRole('navigation', { name: 'All rooms' })).toBeVisible()
})
