import { randomUUID } from 'node:crypto'
import { readFile } from 'node:fs/promises'
import { expect, test } from '@playwright/test'
import { allSaved, expectAccessible, makeSite, openView, row, signUp } from './support'

test('what is found is mended where it is found, one by one and all of a rule at once, and undone', async ({
  page,
}) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home\n  Birds\n    Terns\n    Gulls\n  Visit')
  await openView(page, 'Pages')
  await row(page, /Visit/).click()
  await page.getByRole('textbox', { name: 'Content of Visit' }).click()
  await page.keyboard.insertText(
    '<p><a href="/Birds/Terns.html">terns</a> <a href="gulls.html">gulls</a></p>\n<p><a href="/nowhere-at-all.pdf">x</a></p>',
  )
  await allSaved(page)

  await openView(page, 'Checks')
  const lost = /leads to no page|in capitals only/
  const broken = page.getByRole('heading', { name: 'Links and references that lead nowhere' })
  await expect(broken).toBeVisible()
  await expect(page.getByRole('listitem').filter({ hasText: lost })).toHaveCount(3)
  await expectAccessible(page)

  // Fewer by typing, by page, and as a file to hand on.
  const only = page.getByRole('searchbox', { name: 'Only those with these letters' })
  await only.fill('nowhere-at')
  await expect(page.getByRole('listitem').filter({ hasText: lost })).toHaveCount(1)
  await only.fill('zzz')
  await expect(page.getByText('No finding has these letters.')).toBeVisible()
  await only.fill('')
  await page.getByRole('button', { name: 'Order' }).click()
  await page.getByRole('menuitemradio', { name: 'by page' }).click()
  await expect(page.getByRole('heading', { name: 'Visit', exact: true })).toBeVisible()
  await expect(page.getByRole('listitem').filter({ hasText: lost })).toHaveCount(3)
  await expectAccessible(page)
  const [report] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'as JSON' }).click(),
  ])
  const told = JSON.parse(await readFile(await report.path(), 'utf8')) as {
    findings: { rule: string; page: string; path: string }[]
  }
  const nowhere = told.findings.filter(({ rule }) => rule === 'broken-reference')
  expect(nowhere).toHaveLength(3)
  expect(nowhere[0]).toMatchObject({
    grade: 'breaks',
    page: 'Visit',
    path: 'visit.html',
    line: 1,
  })
  await page.getByRole('button', { name: 'Order' }).click()
  await page.getByRole('menuitemradio', { name: 'by rule' }).click()
  await page.getByRole('button', { name: 'Lead it to birds/gulls.html' }).click()
  await expect(page.getByRole('listitem').filter({ hasText: lost })).toHaveCount(2)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByRole('listitem').filter({ hasText: lost })).toHaveCount(3)

  await page.getByRole('button', { name: /^Mend the 2 that are sure/ }).click()
  await expect(page.getByRole('listitem').filter({ hasText: lost })).toHaveCount(1)
  await allSaved(page)
  await openView(page, 'Pages')
  await expect(page.getByRole('textbox', { name: 'Content of Visit' })).toContainText(
    '<a href="/birds/terns.html">terns</a> <a href="birds/gulls.html">gulls</a>',
  )
})

test('links to a place that has no name give it to the heading that is meant, once for all of them', async ({
  page,
}) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home\n  Birds\n  Visit')
  await openView(page, 'Pages')
  await row(page, /Visit/).click()
  await page.getByRole('textbox', { name: 'Content of Visit' }).click()
  await page.keyboard.insertText('<h2>Opening times</h2>\n<p>From nine.</p>')
  await row(page, /Birds/).click()
  await page.getByRole('textbox', { name: 'Content of Birds' }).click()
  const link = '<a href="visit.html#opening-times">When we are open</a>'
  await page.keyboard.insertText(`<p>${link}</p>\n<p>${link}</p>`)
  await allSaved(page)

  await openView(page, 'Checks')
  const lost = page.getByRole('listitem').filter({ hasText: 'which “Visit” does not have' })
  await expect(page.getByRole('heading', { name: 'Links to places that are not there' })).toBeVisible()
  await expect(lost).toHaveCount(2)
  await page.getByRole('button', { name: 'Mend all 2 of: Links to places that are not there' }).click()
  await expect(lost).toHaveCount(0)
  await allSaved(page)
  await openView(page, 'Pages')
  await row(page, /Visit/).click()
  await expect(page.getByRole('textbox', { name: 'Content of Visit' })).toContainText(
    '<h2 id="opening-times">Opening times</h2>',
  )
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByRole('textbox', { name: 'Content of Visit' })).toContainText(
    '<h2>Opening times</h2>',
  )
})

test('a finding is put aside with a reason, stays so, and is taken up again', async ({ page }) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home\n  Visit')
  await openView(page, 'Pages')
  await row(page, /Visit/).click()
  await page.getByRole('textbox', { name: 'Content of Visit' }).click()
  await page.keyboard.insertText('<p><a href="/spring.html">In spring</a></p>')
  await allSaved(page)
  await openView(page, 'Checks')
  const lost = page.getByRole('listitem').filter({ hasText: '/spring.html leads to no page' })
  await lost.getByRole('button', { name: 'Put aside' }).click()
  await page.getByLabel('Why it is put aside').fill('It comes in spring.')
  await page.getByRole('button', { name: 'Put it aside' }).click()
  await expect(page.getByRole('heading', { name: 'Links and references that lead nowhere' })).toHaveCount(0)
  await allSaved(page)
  await page.reload()
  await page.getByRole('heading', { name: 'Put aside' }).click()
  await expect(page.getByText('It comes in spring.')).toBeVisible()
  await expectAccessible(page)
  await page.getByRole('button', { name: /^Take up again/ }).click()
  await expect(page.getByRole('heading', { name: 'Links and references that lead nowhere' })).toBeVisible()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByRole('heading', { name: 'Links and references that lead nowhere' })).toHaveCount(0)
})

test('who leads to whom, as a picture, as a table and as a file; what pages weigh, down to the file', async ({
  page,
}) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home\n  Birds\n    Terns\n  Visit')
  await openView(page, 'Pages')
  await row(page, /Terns/).click()
  await page.getByRole('textbox', { name: 'Content of Terns' }).click()
  await page.keyboard.insertText('<p><a href="/visit.html">Come and see them</a></p>')
  await allSaved(page)
  await openView(page, 'Checks')
  await page.getByRole('link', { name: 'Who leads to whom' }).click()
  await expect(page.getByText('4 pages and 1 link in their texts.')).toBeVisible()
  await expect(page.getByText(/^Terns leads to Visit\. Led to by no text; listed in menus\.$/)).toBeVisible()
  await expectAccessible(page)
  const [saved] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save as SVG' }).click(),
  ])
  expect(await readFile(await saved.path(), 'utf8')).toContain('>Terns</text>')
  await page.getByRole('button', { name: /^Shown as/ }).click()
  await page.getByRole('menuitemradio', { name: 'a table' }).click()
  await expect(page.getByRole('row', { name: 'Terns 2 clicks listed 1 0' })).toBeVisible()
  await expectAccessible(page)

  await page.getByRole('link', { name: 'What pages weigh' }).click()
  await expect(page.getByText(/None weighs more/)).toBeVisible()
  await page.getByRole('button', { name: /^Visit, style sheets/ }).click()
  await expectAccessible(page)
  await page.getByRole('button', { name: /^A page may weigh/ }).click()
  await page.getByRole('menuitemradio', { name: '100 KB' }).click()
  await allSaved(page)
  // From a stretch to its file.
  await page.getByRole('button', { name: 'styles/site.css' }).click()
  await expect(page.getByRole('heading', { name: 'site.css' })).toBeVisible()
})

test('finished pages are looked at as a whole, and addresses outside are followed, only when asked', async ({
  page,
}) => {
  await signUp(page)
  // A site that nobody had before: what was found on a page is kept by what it is made of.
  await makeSite(page, `Saltpan ${randomUUID()}`, 'Home\n  Visit')
  await openView(page, 'Pages')
  await row(page, /Visit/).click()
  await page.getByRole('textbox', { name: 'Content of Visit' }).click()
  await page.keyboard.insertText(
    '<p>First</p>\n<ul><p>Not in a list</p></ul>\n<p><a href="https://gulls.invalid/nest">Gulls</a></p>',
  )
  await allSaved(page)
  await openView(page, 'Checks')
  await page.getByRole('link', { name: 'Finished pages' }).click()
  await expect(page.getByText('2 pages as they come out, not looked at yet.')).toBeVisible()
  await expectAccessible(page)
  await page.getByRole('button', { name: 'Look at all of them' }).click()
  await expect(page.getByText('All 2 pages were looked at as they come out.')).toBeVisible({
    timeout: 60_000,
  })
  await expect(page.getByText('<p> element is not permitted as content under <ul>.')).toBeVisible()
  await expectAccessible(page)
  // From what a finished page has to where that was written.
  await page.getByRole('listitem').filter({ hasText: 'not permitted as content under <ul>' }).getByRole('link', { name: 'Go there' }).click() // prettier-ignore
  const text = page.getByRole('textbox', { name: 'Content of Visit' })
  await expect(text.locator('.cm-activeLine')).toContainText('Not in a list')
  // A colour that cannot be read is made one that can, and what that does is looked at without being asked.
  await page.getByRole('textbox', { name: 'Content of Visit' }).click()
  await page.keyboard.press('Control+End')
  await page.keyboard.insertText('\n<p class="faint">Ebb and flow</p>')
  await openView(page, 'Template')
  await page.getByRole('tab', { name: 'site.css' }).click()
  await page.getByRole('textbox', { name: /site\.css/ }).click()
  await page.keyboard.press('Control+End')
  await page.keyboard.insertText('\n.faint { color: #bbb }')
  await allSaved(page)
  await openView(page, 'Checks')
  await page.getByRole('link', { name: 'Finished pages' }).click()
  await page.getByRole('button', { name: /^Look at/ }).click()
  const faint = page.getByRole('listitem').filter({ hasText: '“Ebb and flow” is #bbbbbb on' })
  await expect(faint).toBeVisible({ timeout: 60_000 })
  await expectAccessible(page)
  await faint.getByRole('button', { name: /^Make it #/ }).click()
  await expect(faint).toHaveCount(0, { timeout: 30_000 })
  await expect(page.getByText('All 2 pages were looked at as they come out.')).toBeVisible()

  await page.getByRole('link', { name: 'Addresses outside' }).click()
  await expect(page.getByText('The site leads to 1 address outside. It was not followed yet.')).toBeVisible() // prettier-ignore
  await page.getByRole('button', { name: 'Follow it' }).click()
  await expect(page.getByText('https://gulls.invalid/nest does not answer.')).toBeVisible({ timeout: 30_000 })
  await expectAccessible(page)
})
