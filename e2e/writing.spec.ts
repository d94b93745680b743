import { expect, type Page, test } from '@playwright/test'
import { allSaved, expectAccessible, makeSite, openView, row, signUp } from './support'

const editor = (page: Page, label: string) => page.getByRole('textbox', { name: `Content of ${label}` })
const write = async (page: Page, label: string, html: string) => {
  await row(page, new RegExp(label)).click()
  await editor(page, label).click()
  await page.keyboard.press('Control+a')
  await page.keyboard.insertText(html)
  await allSaved(page)
}

test('a link is chosen by a few letters: a page, a place that gets its id, another site, mail', async ({
  page,
}) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home\n  Visit\n    Tides\n  Contact')
  await openView(page, 'Pages')
  await write(page, 'Tides', '<h2>High water</h2>\n<p>At noon.</p>')
  await write(page, 'Contact', '<p>See the tides</p>')
  // The words that are chosen become the link.
  await page.keyboard.press('Control+Home')
  for (let letter = 0; letter < 3; letter++) await page.keyboard.press('ArrowRight')
  await page.keyboard.down('Shift')
  for (let letter = 0; letter < 'See the tides'.length; letter++) await page.keyboard.press('ArrowRight')
  await page.keyboard.up('Shift')
  await page.keyboard.press('Control+k')
  const dialog = page.getByRole('dialog', { name: 'Link' })
  const field = dialog.getByRole('combobox')
  await field.fill('tid')
  await expect(dialog.getByRole('option', { name: /Tides.*\/visit\/tides\.html.*page/ })).toBeVisible()
  await expectAccessible(page)
  await page.keyboard.press('Enter')
  await expect(editor(page, 'Contact')).toContainText('<p><a href="/visit/tides.html">See the tides</a></p>')

  // A heading of another page, which gets an id.
  await page.keyboard.press('Control+End')
  await page.getByRole('button', { name: 'Link', exact: true }).click()
  await field.fill('high w')
  await dialog.getByRole('option', { name: /High water.*place/ }).click()
  await expect(editor(page, 'Contact')).toContainText('<a href="/visit/tides.html#high-water">High water</a>')
  await allSaved(page)
  await page.getByRole('button', { name: 'Link', exact: true }).click()
  await field.fill('https://tide.example/today')
  await dialog.getByRole('checkbox', { name: 'In a new tab' }).check()
  await dialog.getByRole('option', { name: /another site/ }).click()
  await expect(editor(page, 'Contact')).toContainText(
    '<a href="https://tide.example/today" target="_blank" rel="noopener">https://tide.example/today</a>',
  )
  await page.getByRole('button', { name: 'Link', exact: true }).click()
  await field.fill('warden@chapel.example')
  await page.keyboard.press('Enter')
  await expect(editor(page, 'Contact')).toContainText(
    '<a href="mailto:warden@chapel.example">warden@chapel.example</a>',
  )
  await allSaved(page)
  await row(page, /Tides/).click()
  await expect(editor(page, 'Tides')).toContainText('<h2 id="high-water">High water</h2>')
  await openView(page, 'Checks')
  await expect(page.getByText('nothing found')).toBeVisible()
})
