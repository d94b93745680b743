import { expect, test } from '@playwright/test'
import { allSaved, editor, expectAccessible, makeSite, openView, signUp, write } from './support'

test('words are found wherever they stand, and others put in their place where that is wanted, as one step', async ({
  page,
}) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home\n  Tides\n  Visit')
  await openView(page, 'Pages')
  await write(page, 'Visit', '<p>The tides <a href="/tides.html">of tides</a></p>')
  await write(page, 'Home', '<p>No tides</p>')
  await openView(page, 'Checks')
  await page.getByRole('link', { name: 'Words', exact: true }).click()
  const words = page.getByRole('searchbox', { name: 'Words, wherever they stand' })
  const status = page.getByRole('main').getByRole('status')
  await words.fill('tides')
  await words.press('Enter')
  await expect(status).toContainText('“tides” stands 4 times, in 3 places of the site.')
  const list = page.getByRole('region', { name: 'Where the words stand' })
  await expect(list).toContainText('<p>The tides <a href="/tides.html">of tides</a></p>')
  await expect(list).toContainText('line 1, and 1 more')
  await expectAccessible(page)

  await page.getByRole('checkbox', { name: 'Replace in Home, text' }).uncheck()
  const by = page.getByLabel('In the place of “tides”')
  await by.fill('floods')
  await page.getByRole('button', { name: 'Replace them in 1 text' }).click()
  await expect(status).toContainText('Replaced in 1 text. Undo takes it back. “tides” stands 2 times')
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(status).toContainText('“tides” stands 4 times')
  await page.getByRole('button', { name: 'Redo' }).click()
  await expect(status).toContainText('“tides” stands 2 times')

  // Addresses are changed only where they are looked at.
  await words.fill('Tides')
  await page.getByLabel('In tags, addresses, styles and scripts, too').check()
  await page.getByLabel('Capital letters count').check()
  await words.press('Enter')
  await expect(status).toContainText('“Tides” stands once, in 1 place of the site.')
  await words.fill('nowhere to be found')
  await words.press('Enter')
  await expect(status).toContainText('“nowhere to be found” stands nowhere in this site.')
  await words.fill('floods')
  await words.press('Enter')
  await page.getByRole('link', { name: /^Go there.*Visit, text/ }).click()
  await expect(editor(page, 'Visit')).toHaveText('<p>The floods <a href="/tides.html">of floods</a></p>')
  await allSaved(page)
})
