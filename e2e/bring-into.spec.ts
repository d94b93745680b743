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

test('web pages that are dropped among other files are brought in with what they share, or taken one by one', async ({
  page,
}) => {
  const html = (title: string) => `<html><head><title>${title}</title></head><body>\n<h1>${title}</h1>\n<p>Of ${title}.</p>\n</body></html>\n`
  const file = (name: string, text: string) => ({ name, mimeType: 'text/html', buffer: Buffer.from(text) })
  const files = [file('skuas.html', html('Skuas')), file('auks.html', html('Auks')), file('notes.txt', 'Fog.')]
  await signUp(page)
  await makeSite(page, 'Skerry', 'Home\n  Birds')
  await row(page, 'Birds').click()
  await page.getByLabel('Files to add').setInputFiles(files)
  const question = page.getByRole('group', { name: 'Web pages' })
  await expect(question).toContainText('2 web pages and 1 other file')
  await expectAccessible(page)
  await question.getByRole('button', { name: 'Take each by itself' }).click()
  await expect(page.getByRole('group', { name: 'Texts' })).toContainText('are texts. They can stand under “Birds”')
  await page.getByRole('group', { name: 'Texts' }).getByRole('button', { name: 'Leave' }).click()
  await page.getByLabel('Files to add').setInputFiles(files)
  await question.getByRole('button', { name: 'Bring them in' }).click()
  const plan = page.getByRole('list', { name: 'The plan that was found' })
  await expect(plan.getByRole('listitem')).toContainText(['Birds', 'Auks', 'Skuas'])
  await expect(page.getByRole('button', { name: 'Place: under Birds' })).toBeVisible()
  await page.getByRole('button', { name: 'Bring them in' }).click()
  await page.waitForURL('**/plan')
  await expectLabels(page, ['Home', 'Birds', 'Auks', 'Skuas'])
  // They were handed over once: the way there is empty next time.
  await page.getByRole('link', { name: /^Bring pages in/ }).click()
  await expect(page.getByRole('button', { name: 'Choose a folder' })).toBeVisible()
}) // prettier-ignore

test('a site of frames is shown in its frames, and a link that breaks out of them leads the whole preview', async ({
  page,
}) => {
  const frames = '<html><head><title>Slip</title></head>\n<frameset cols="30%,*">\n<frame src="menu.htm"><frame src="inner.htm">\n</frameset></html>\n'
  const files = {
    'index.html': frames,
    'menu.htm': '<html><head><title>Menu</title></head><body><a href="boats.htm" target="main">Boats</a> <a href="boats.htm" target="_top">Boats alone</a></body></html>\n',
    'inner.htm': '<html><head><title>Inner</title></head><frameset rows="40%,*"><frame src="words.htm"><frame src="tide.htm" name="main"></frameset></html>\n',
    'words.htm': '<html><head><title>Words</title><base target="main"></head><body><a href="boats.htm">Beside</a></body></html>\n',
    'tide.htm': '<html><head><title>Tide</title></head><body><h1>The tide</h1></body></html>\n',
    'boats.htm': '<html><head><title>The boats</title></head><body><h1>Boats</h1><p><a href="index.html" target="_parent">Back</a></p></body></html>\n',
  }
  await signUp(page)
  await page.goto('/sites/bring')
  await page.getByLabel('Choose a ZIP: the file').setInputFiles({ name: 'slip.zip', mimeType: 'application/zip', buffer: await zipped(files) })
  await page.getByRole('button', { name: 'Bring it in' }).click()
  await page.waitForURL('**/plan')
  await openView(page, 'Pages')
  const shown = page.frameLocator('iframe')
  await expect(page.getByTestId('preview-title')).toHaveText('Slip')
  const menu = shown.frameLocator('frame[src*=menu]')
  const inner = shown.frameLocator('frame[src*=inner]')
  const main = inner.frameLocator('frame[name=main]')
  await expect(main.getByRole('heading', { name: 'The tide' })).toBeVisible()
  await menu.getByRole('link', { name: 'Boats', exact: true }).click()
  await expect(main.getByRole('heading', { name: 'Boats' })).toBeVisible()
  await expect(page.getByTestId('preview-title')).toHaveText('Slip')
  await menu.getByRole('link', { name: 'Boats alone' }).click()
  await expect(page.getByTestId('preview-title')).toHaveText('The boats')
  // Where it is shown alone, what is above it is itself.
  await shown.getByRole('link', { name: 'Back' }).click()
  await expect(page.getByTestId('preview-title')).toHaveText('Slip')
  await inner.frameLocator('frame[src*=words]').getByRole('link', { name: 'Beside' }).click()
  await main.getByRole('link', { name: 'Back' }).click()
  // Its parent is the inner one, which shows the whole in it now.
  await expect(inner.frameLocator('frame[src*=menu]').getByRole('link', { name: 'Boats alone' })).toBeVisible()
  await inner.frameLocator('frame[src*=menu]').getByRole('link', { name: 'Boats alone' }).click()
  await expect(page.getByTestId('preview-title')).toHaveText('The boats')
}) // prettier-ignore
