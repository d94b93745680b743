import { type Browser, expect, type Page, test } from '@playwright/test'
import { allSaved, expectAccessible, makeSite, openView, pick, row, signUp, editor } from './support'

/** Another person, in a browser of their own, known by a name. */
async function person(browser: Browser, name: string): Promise<Page> {
  const page = await (await browser.newContext()).newPage()
  await signUp(page)
  await page.goto('/account')
  await page.getByLabel('What those see whom you work with').fill(name)
  await page.getByRole('button', { name: 'Use it' }).click()
  await expect(page.getByText('Others see this name from now on.')).toBeVisible()
  return page
}

async function invite(owner: Page, siteId: string, as: 'writer' | 'partner'): Promise<string> {
  await owner.goto(`/sites/${siteId}/people`)
  await pick(owner, 'As what', new RegExp(`a ${as}`))
  await owner.getByRole('button', { name: 'Make the address' }).click()
  return owner.getByLabel('The address to hand out').inputValue()
}

test('somebody is invited, is seen where they are, and what both write in one text is merged; each takes back their own', async ({
  page,
  browser,
}) => {
  test.setTimeout(120_000)
  await signUp(page)
  const siteId = await makeSite(page, 'Saltpan Chapel', 'Home\n  Visit\n  Contact')
  const ada = await person(browser, 'Ada')
  const address = await invite(page, siteId, 'writer')
  await expectAccessible(page)
  // Nobody without an account: they are led back to it after they made one.
  const nobody = await (await browser.newContext()).newPage()
  await nobody.goto(address)
  await expect(nobody).toHaveURL(/sign-in\?next=%2Finvitations/)
  await nobody.getByRole('link', { name: 'Make an account' }).click()
  await nobody.waitForURL('**/sign-up?**')
  await expect(nobody.locator('input[name=next]')).toHaveValue(/^\/invitations\//)
  await nobody.context().close()
  await ada.goto(address)
  await expect(ada.getByText(/invites you to take part as a writer/)).toBeVisible()
  await expectAccessible(ada)
  await ada.getByRole('button', { name: 'Take part' }).click()
  await ada.waitForURL('**/plan')

  await page.goto(`/sites/${siteId}/plan`)
  await row(ada, /Visit/).click()
  await expect(row(page, /Visit/)).toContainText('Ada')
  await expect(page.getByRole('link', { name: 'With Ada' })).toBeVisible()
  await expectAccessible(page)

  // Both in one text, at its two ends.
  await row(page, /Visit/).click()
  await openView(page, 'Pages')
  await editor(page, 'Visit').click()
  await page.keyboard.insertText('<p>first</p>\n<p>middle</p>\n<p>last</p>\n')
  await allSaved(page)
  await openView(ada, 'Pages')
  await expect(editor(ada, 'Visit')).toContainText('<p>middle</p>')
  await editor(ada, 'Visit').getByText('last').click()
  await ada.keyboard.press('Home')
  await editor(page, 'Visit').getByText('first').click()
  await page.keyboard.press('Home')
  for (const words of ['one ', 'two ', 'three ']) {
    await Promise.all([page.keyboard.type(`mine-${words}`), ada.keyboard.type(`hers-${words}`)])
  }
  await allSaved(page)
  await allSaved(ada)
  for (const window of [page, ada]) {
    await expect(editor(window, 'Visit')).toContainText('mine-one mine-two mine-three <p>first</p>')
    await expect(editor(window, 'Visit')).toContainText('hers-one hers-two hers-three <p>last</p>')
  }

  // Undo is one's own: a label of the other's stays.
  await openView(page, 'Plan')
  await row(page, /Contact/).click()
  await page.keyboard.press('F2')
  await page.keyboard.insertText('Write to us')
  await page.keyboard.press('Enter')
  await allSaved(page)
  await expect(row(ada, /Write to us/)).toBeVisible()
  await ada.getByRole('button', { name: 'Undo' }).click()
  await expect(editor(ada, 'Visit')).not.toContainText('hers-three')
  await expect(row(ada, /Write to us/)).toBeVisible()
  await expect(editor(ada, 'Visit')).toContainText('mine-one mine-two mine-three')

  // Less is allowed: her window says so, and takes nothing.
  await page.goto(`/sites/${siteId}/people`)
  await page.getByLabel('What Ada may do').selectOption('reader')
  await expect(ada.getByText('You may look at this site, but not change it.')).toBeVisible()
  await expect(editor(ada, 'Visit')).toHaveAttribute('aria-readonly', 'true')
  await expect(ada.getByRole('link', { name: 'Upload', exact: true })).toHaveCount(0)
  await expectAccessible(ada)
  await page.getByRole('button', { name: 'Remove Ada' }).click()
  await ada.waitForURL('**/sites')
  await expect(ada.getByText('Nothing here yet.')).toBeVisible()
})

test('what cannot be merged is shown to both, and nothing typed is lost', async ({ page, browser }) => {
  await signUp(page)
  const siteId = await makeSite(page, 'Saltpan Chapel', 'Home\n  Visit')
  const ben = await person(browser, 'Ben')
  await ben.goto(await invite(page, siteId, 'partner'))
  await ben.getByRole('button', { name: 'Take part' }).click()
  await ben.waitForURL('**/plan')
  for (const window of [page, ben]) {
    await window.goto(`/sites/${siteId}/pages`)
    await row(window, /Visit/).click()
    await expect(editor(window, 'Visit')).toBeVisible()
  }
  // While nothing gets through, both write at one place.
  await ben.context().setOffline(true)
  await editor(ben, 'Visit').click()
  await ben.keyboard.insertText('<p>By Ben</p>')
  await editor(page, 'Visit').click()
  await page.keyboard.insertText('<p>By the owner</p>')
  await allSaved(page)
  await ben.context().setOffline(false)
  await expect(ben.getByText('This text was changed in another window. Yours is kept here.')).toBeVisible()
  await expect(editor(ben, 'Visit')).toContainText('By Ben')
  await ben.getByRole('button', { name: 'Take the other' }).click()
  await expect(editor(ben, 'Visit')).toContainText('By the owner')
})

test('a site is handed out: each gets a copy, and whoever teaches looks at all of them', async ({
  page,
  browser,
}) => {
  await signUp(page)
  const siteId = await makeSite(page, 'First steps', 'Home\n  Visit')
  await page.goto(`/sites/${siteId}/people`)
  await page.getByLabel('For which group').fill('Class 4')
  await page.getByRole('button', { name: 'Hand it out' }).click()
  const address = await page.getByLabel('The address to hand out').inputValue()
  const cleo = await person(browser, 'Cleo')
  await cleo.goto(address)
  await cleo.getByRole('button', { name: 'Take a copy' }).click()
  await cleo.waitForURL('**/plan')
  await row(cleo, /Visit/).click()
  await cleo.keyboard.press('F2')
  await cleo.keyboard.insertText('Coming here')
  await cleo.keyboard.press('Enter')
  await allSaved(cleo)
  await page.reload()
  const line = page.getByRole('row', { name: /Cleo/ })
  await expect(line.getByRole('cell').nth(1)).toHaveText('1')
  await expectAccessible(page)
  await line.getByRole('link', { name: 'Cleo' }).click()
  await expect(row(page, /Coming here/)).toBeVisible()
  await expect(
    page.getByText('This is what Cleo makes of “First steps”. You may look at this site, but not change it.'),
  ).toBeVisible()
  await expectAccessible(page)
  await page.getByRole('link', { name: 'All who took a copy' }).click()
  await expect(page.getByRole('row', { name: /Cleo/ })).toBeVisible()
  // What is handed out is as it was; the address can be withdrawn.
  await page.goto(`/sites/${siteId}/people`)
  await page.getByRole('button', { name: /^Withdraw/ }).click()
  const late = await person(browser, 'Dan')
  await late.goto(address)
  await expect(late.getByRole('heading', { name: 'This invitation gives nothing' })).toBeVisible()
})
