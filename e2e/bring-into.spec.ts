import { expect, test } from '@playwright/test'
import { ZipFile } from 'yazl'
import { expectAccessible, expectLabels, makeSite, openView, row, signUp } from './support'

async function zipped(files: Record<string, string>): Promise<Buffer> {
  const zip = new ZipFile()
  for (const [name, content] of Object.entries(files)) zip.addBuffer(Buffer.from(content), name)
  zip.end()
  const pieces: Buffer[] = []
  for await (const piece of zip.outputStream) pieces.push(piece as Buffer)
  return Buffer.concat(pieces)
}

test('pages from elsewhere come under a page of a site, seen first and undone in one step', async ({ page }) => {
  const html = (title: string, body: string) => `<html><head><title>${title}</title></head><body bgcolor=white>\n<h1>${title}</h1>\n${body}\n</body></html>\n`
  const files = {
    'birds/terns.html': html('Terns', '<p>Brought: <a href="skuas.html">skuas</a>.</p>'),
    'birds/skuas.html': html('Skuas', '<p>See <a href="terns.html">terns</a> and the <a href="../visit.html">visit</a>.</p>'),
  }
  await signUp(page)
  await makeSite(page, 'Skerry', 'Home\n  Visit\n  Birds\n    Terns')
  await row(page, 'Birds').click()
  await page.getByRole('link', { name: 'Bring pages in, under Birds' }).click()
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Bring pages into Skerry')
  await page.getByLabel('Choose a ZIP: the file').setInputFiles({ name: 'birds.zip', mimeType: 'application/zip', buffer: await zipped(files) })
  const plan = page.getByRole('list', { name: 'The plan that was found' })
  await expect(plan.getByRole('listitem')).toHaveCount(2)
  await expect(plan.getByRole('listitem').last()).toContainText('birds/skuas.html')
  await expect(page.getByText('One page is here already; it')).toBeVisible()
  await expectAccessible(page)

  // Under any other page, found by its name, and back.
  for (const [was, typed, now] of [['under Birds', 'vis', 'under Visit'], ['under Visit', 'the top', 'at the top level'], ['at the top level', 'bir', 'under Birds']] as const) {
    await page.getByRole('button', { name: `Place: ${was}` }).press('Enter')
    const field = page.getByRole('combobox', { name: 'They come under' })
    await field.fill(typed)
    if (typed === 'vis') await expectAccessible(page)
    await field.press('Enter')
    await expect(page.getByRole('button', { name: `Place: ${now}` })).toBeFocused()
  }
  await page.getByRole('button', { name: /^Pages that are here already/ }).click()
  await page.getByRole('menuitemradio', { name: /is replaced/ }).click()
  await expect(plan.getByText('replaced')).toBeVisible()
  await page.getByRole('button', { name: /^What pages share/ }).click()
  await page.getByRole('menuitemradio', { name: /gives way to the template there/ }).click()
  await expect(plan.getByText('in this template')).toBeVisible()
  await page.getByRole('button', { name: 'Bring them in' }).click()
  await page.waitForURL('**/plan')
  await expectLabels(page, ['Home', 'Visit', 'Birds', 'Terns', 'Skuas'])
  await row(page, 'Terns').click()
  await openView(page, 'Pages')
  const shown = page.frameLocator('iframe')
  await expect(shown.getByText('Brought: skuas.')).toBeVisible()
  await expect(shown.getByRole('heading', { level: 1 })).toHaveCount(1)
  await page.getByRole('button', { name: /^Undo/ }).click()
  await expectLabels(page, ['Home', 'Visit', 'Birds', 'Terns'])
  await expect(shown.getByText('Brought: skuas.')).toHaveCount(0)
}) // prettier-ignore
