import { expect, type Page, test } from '@playwright/test'
import pg from 'pg'
import { allSaved, expectAccessible, makeSite, openView, row, signUp } from './support'

const editor = (page: Page) => page.getByRole('textbox', { name: 'Content of Visit' })

async function write(page: Page, html: string): Promise<void> {
  await editor(page).click()
  await page.keyboard.press('Control+a')
  await page.keyboard.insertText(html)
  await allSaved(page)
}

/** What was written until now was written so long ago. */
async function age(siteId: string, hours: number): Promise<void> {
  const database = new pg.Client({ connectionString: process.env.DATABASE_URL })
  await database.connect()
  await database.query(
    `UPDATE history SET made_at = made_at - make_interval(hours => $2) WHERE site_id = $1`,
    [siteId, hours],
  )
  await database.end()
}

test('an earlier version of a page is looked at beside that of now, and brought back in part and whole', async ({
  page,
}) => {
  await signUp(page)
  const siteId = await makeSite(page, 'Saltpan Chapel', 'Home\n  Visit')
  await openView(page, 'Pages')
  await row(page, /Visit/).click()
  await page.getByRole('button', { name: 'Earlier versions' }).click()
  await expect(page.getByText('There is none yet.')).toBeVisible()
  await page.getByRole('button', { name: 'Close' }).click()

  await write(page, '<p>one</p>\n<p>two</p>\n<p>three</p>')
  await age(siteId, 3)
  await write(page, '<p>1</p>\n<p>two</p>\n<p>3</p>')
  await page.getByRole('button', { name: 'Earlier versions' }).click()
  const dialog = page.getByRole('dialog')
  await expect(dialog.getByText('2 stretches differ from now.')).toBeVisible()
  await expectAccessible(page)
  await dialog.getByRole('button', { name: 'Bring this stretch back' }).last().click()
  await expect(editor(page)).toContainText('<p>1</p>')
  await expect(editor(page)).toContainText('<p>three</p>')
  await allSaved(page)

  await page.getByRole('button', { name: 'Earlier versions' }).click()
  await dialog.getByRole('button', { name: /until/ }).first().click()
  await dialog.getByRole('button', { name: 'Bring it back' }).click()
  await expect(editor(page)).toContainText('<p>one</p>')
  await allSaved(page)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(editor(page)).toContainText('<p>1</p>')
})

test('a page is looked at as wide as on a phone and as on a desktop, however much room there is', async ({
  page,
}) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home\n  Visit')
  await openView(page, 'Pages')
  const inside = () => page.frames().find((frame) => frame.url().includes('/preview/'))!
  await page.frameLocator('iframe').getByRole('heading', { name: 'Home' }).waitFor()
  await page.getByRole('button', { name: 'As on a phone' }).click()
  await expect.poll(() => inside().evaluate(() => innerWidth)).toBeLessThanOrEqual(390)
  await page.getByRole('button', { name: 'As on a desktop' }).click()
  await expect.poll(() => inside().evaluate(() => innerWidth)).toBeGreaterThan(1_270)
  // Made smaller, it is seen whole.
  const box = (await page.locator('iframe').boundingBox())!
  expect(box.x + box.width).toBeLessThanOrEqual(1_280)
  await page.getByRole('button', { name: 'As wide as there is room' }).click()
  await expect.poll(() => inside().evaluate(() => innerWidth)).toBeLessThan(1_000)
})

test('where the system forces its colours, what is chosen and where the keyboard is can be seen', async ({
  page,
}) => {
  await page.emulateMedia({ forcedColors: 'active' })
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home\n  Visit\n  Contact')
  await row(page, /Visit/).click()
  const background = (label: RegExp) =>
    row(page, label).evaluate((one) => getComputedStyle(one).backgroundColor)
  expect(await background(/Visit/)).not.toBe(await background(/Contact/))
  const words = row(page, /Visit/).getByText('Visit', { exact: true })
  expect(await words.evaluate((one) => getComputedStyle(one).color)).not.toBe(await background(/Visit/))
  await openView(page, 'Pages')
  const title = page.getByLabel('Title')
  await expect(title).toHaveCSS('outline-style', 'none')
  await title.focus()
  await expect(title).toHaveCSS('outline-style', 'solid')
})
