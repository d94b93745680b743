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
    findings: { page: string; path: string }[]
  }
  expect(told.findings).toHaveLength(3)
  expect(told.findings[0]).toMatchObject({
    rule: 'broken-reference',
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
