import CFB from 'cfb'
import { readFile } from 'node:fs/promises'
import { expect, test } from '@playwright/test'
import { p, wordDocument, workbook } from '../core/testing/documents'
import { allSaved, expectAccessible, expectLabels, makeSite, paste, row, signUp } from './support'

const plan = 'Saltpan Chapel\n  Visit\n    Getting here\n  The bell\n  Contact'

test.beforeEach(async ({ page }) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', plan)
})

test('what somebody has of a site is its plan: addresses typed for a new one, a tree of files pasted over one', async ({
  page,
}) => {
  await page.getByRole('tab', { name: 'Text' }).click()
  const text = page.getByLabel('The whole plan as text')
  await text.fill(
    '.\n├── index.html\n├── visit\n│   ├── getting-here.html\n│   └── by_boat.html\n└── contact.html',
  )
  await expect(page.getByText('Labels were read from the names of files and folders.')).toBeVisible()
  await page.getByRole('button', { name: 'Use this plan' }).click()
  await expectLabels(page, ['Saltpan Chapel', 'Visit', 'Getting here', 'By boat', 'Contact'])
  await allSaved(page)
  await expect(row(page, /By boat/)).toContainText('by_boat.html')

  // A way down to a page, copied from elsewhere onto the register.
  await row(page, /Contact/).click()
  await paste(page.getByRole('treegrid', { name: 'Pages' }), {
    'text/plain': 'Rooms > Single\nRooms > Double',
  })
  await expectLabels(page, [
    'Saltpan Chapel',
    'Visit',
    'Getting here',
    'By boat',
    'Contact',
    'Rooms',
    'Single',
    'Double',
  ])
  await page.getByRole('button', { name: 'Undo' }).click()
  await expectLabels(page, ['Saltpan Chapel', 'Visit', 'Getting here', 'By boat', 'Contact'])

  await page.goto('/sites/new')
  await page.getByLabel('The site is called').fill('Saltpan Chapel')
  const typed = page.getByLabel('Its pages, one a line, indented under each other')
  await typed.fill(
    'https://saltpan.example/\nhttps://saltpan.example/bell.html\nhttps://saltpan.example/bell.jpg',
  )
  await expect(page.getByRole('region', { name: 'What it becomes' })).toContainText('bell.html')
  await expect(page.getByRole('button', { name: /^Format/ })).toContainText('a list of addresses')
  await expect(page.getByText('One file that is no page was left out.')).toBeVisible()
  await page.getByRole('button', { name: 'Make this site' }).click()
  await page.waitForURL('**/plan')
  await expectLabels(page, ['Saltpan Chapel', 'Bell'])
})

test('the plan is typed over as text; what that means is shown, can be corrected, and is undone', async ({
  page,
}) => {
  await page.getByRole('tab', { name: 'Text' }).click()
  const text = page.getByLabel('The whole plan as text')
  await expect(text).toHaveText(`${plan}\n`, { useInnerText: true })
  await text.fill('Saltpan Chapel\n  The bell\n  Come and see\n    Getting here\n    Parking\n  Concerts')
  const ripple = page.getByRole('region', { name: 'How the plan was understood' })
  await expect(ripple).toContainText('“Come and see” was “Visit”')
  await expect(ripple).toContainText('“Parking”')
  // The page called Contact is not the one called Concerts now: its author says so.
  await page.getByRole('button', { name: 'What Concerts is: was “Contact”' }).click()
  await page.getByRole('menuitemradio', { name: 'is a new page' }).click()
  await expect(ripple).toContainText('“Contact”, with its text')
  // Nor is it the other way round: it was the page called Contact after all.
  await page.getByRole('button', { name: 'What Parking is: is a new page' }).click()
  await page.getByRole('menuitemradio', { name: 'was “Contact”' }).click()
  await expect(ripple).toContainText('“Parking” was “Contact”')
  await page.getByRole('button', { name: 'What Parking is: was “Contact”' }).click()
  await page.getByRole('menuitemradio', { name: 'is a new page' }).click()
  await expect(ripple).toContainText('“Contact”, with its text')
  // Finding in it, with the panel left open while more is typed.
  await text.press('Control+f')
  await page.getByRole('textbox', { name: 'Find' }).fill('Parking')
  await page.getByRole('textbox', { name: 'Replace with' }).fill('Parking')
  await page.getByRole('button', { name: 'Replace all' }).click()
  await expectAccessible(page)
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: 'Use this plan' }).click()
  await expectLabels(page, [
    'Saltpan Chapel',
    'The bell',
    'Come and see',
    'Getting here',
    'Parking',
    'Concerts',
  ])
  await allSaved(page)
  await page.reload()
  await expectLabels(page, [
    'Saltpan Chapel',
    'The bell',
    'Come and see',
    'Getting here',
    'Parking',
    'Concerts',
  ])
  await page.getByRole('button', { name: 'Undo' }).click()
  await expectLabels(page, ['Saltpan Chapel', 'Visit', 'Getting here', 'The bell', 'Contact'])
})

test('a plan comes in and goes out as a file, with what was assumed said', async ({ page }) => {
  await page.getByRole('tab', { name: 'Text' }).click()
  await page.getByLabel('Read a file: the file').setInputFiles({
    name: 'plan.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(
      'Plan\r\nlevel;label;who;trial;in menus\r\n1;Saltpan Chapel\r\n2;Visit;A;later;later\r\n2;Caf\u00e9\r\n',
      'latin1',
    ),
  })
  await expect(page.getByText('plan.csv was read as CSV.')).toBeVisible()
  await expect(page.getByText(/Windows-1252/)).toBeVisible()
  // However much is told of it, what was read can still be read, and answered.
  const text = (await page.getByRole('textbox', { name: 'The whole plan as text' }).boundingBox())!
  const told = (await page.getByText('plan.csv was read as CSV.').boundingBox())!
  expect(told.y - text.y).toBeGreaterThan(150)
  await expect(page.getByRole('button', { name: 'Use this plan' })).toBeInViewport({ ratio: 1 })
  await page.getByRole('button', { name: 'Use this plan' }).click()
  await expectLabels(page, ['Saltpan Chapel', 'Visit', 'Café'])
  // The text is the plan's own again once that is saved.
  await allSaved(page)
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save as a file' }).click(),
  ])
  expect(await readFile(await download.path(), 'utf8')).toBe(
    'level,label,trial,in menus,own name,title,description\r\n1,Saltpan Chapel,,yes,,,\r\n2,Visit,,yes,,,\r\n2,Café,,yes,,,\r\n',
  )
  // Copied where the browser lets nobody write to its clipboard, too.
  await page.evaluate(() => {
    navigator.clipboard.writeText = () => Promise.reject(new DOMException('', 'NotAllowedError'))
  })
  await page.getByRole('button', { name: 'Copy', exact: true }).click()
  await expect(page.getByRole('button', { name: 'Copied' })).toBeVisible()
  await page.evaluate(() => {
    document.execCommand = () => false
  })
  await page.getByRole('button', { name: 'Copied' }).click()
  await expect(page.getByRole('status').filter({ hasText: 'press Ctrl+C' })).toBeVisible()
  await row(page, 'Visit').press('F2')
  await page.getByLabel('New label for Visit').press('Control+v')
  await expect(page.getByLabel('New label for Visit')).toHaveValue(/^level,label/)
  await page.keyboard.press('Escape')
  await page.getByLabel('Read a file: the file').setInputFiles({
    name: 'broken.opml',
    mimeType: 'text/xml',
    buffer: Buffer.from('<opml>\n<body>'),
  })
  await expect(page.getByRole('alert')).toContainText('broken.opml, line 2')
})

test('a plan is read from a spreadsheet and from a document, chosen or dropped', async ({ page }) => {
  await page.goto('/sites/new')
  await page.getByLabel('The site is called').fill('Lime Kiln')
  const rows = [['The new site'], [], ['Section', 'Page'], ['Visit', 'Getting here'], ['', 'Prices'], ['The works', 'Lime']] // prettier-ignore
  await page.getByLabel('Read a file: the file').setInputFiles({
    name: 'plan.xlsx',
    mimeType: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
    buffer: Buffer.from(workbook(rows)),
  })
  const becomes = page.getByRole('region', { name: 'What it becomes' })
  for (const path of ['visit/getting-here.html', 'visit/prices.html', 'the-works/lime.html'])
    await expect(becomes).toContainText(path)
  await expect(page.getByText('What stands above the names of the columns was left out.')).toBeVisible()
  // What cannot be read is said, and what was read stays.
  const older = CFB.utils.cfb_new()
  // A workbook of 1992.
  CFB.utils.cfb_add(older, '/Workbook', Uint8Array.of(9, 8, 4, 0, 0, 4, 5, 0))
  await page.getByLabel('Read a file: the file').setInputFiles({
    name: 'plan.xls',
    mimeType: 'application/vnd.ms-excel',
    buffer: Buffer.from(CFB.write(older, { type: 'array' }) as number[]),
  })
  await expect(page.getByRole('alert')).toContainText('plan.xls: This document is locked')
  await expect(becomes).toContainText('the-works/lime.html')
  const bytes = [...wordDocument(p('b1', 'Visit') + p('b2', 'Fares') + p('b1', 'Stay'))]
  const dropped = await page.evaluateHandle((all) => {
    const data = new DataTransfer()
    data.items.add(new File([Uint8Array.from(all)], 'plan.docx'))
    return data
  }, bytes)
  const text = page.getByLabel('Its pages, one a line, indented under each other')
  await text.dispatchEvent('drop', { dataTransfer: dropped })
  await expect(text).toContainText('Fares')
  await expect(becomes).toContainText('visit/fares.html')
  await page.getByRole('button', { name: 'Make this site' }).click()
  await expectLabels(page, ['Lime Kiln', 'Visit', 'Fares', 'Stay'])
})

test('a new site is made from the file of a plan, with its file names shown before', async ({ page }) => {
  await page.goto('/sites/new')
  await page.getByLabel('The site is called').fill('Lime Kiln')
  await page.getByLabel('Read a file: the file').setInputFiles({
    name: 'kiln.opml',
    mimeType: 'text/xml',
    buffer: Buffer.from(
      '<opml version="2.0" xmlns:plan="urn:rubricant:plan:1"><body><outline text="Kiln"><outline text="The works" plan:ownName="at-work"/></outline></body></opml>',
    ),
  })
  const becomes = page.getByRole('region', { name: 'What it becomes' })
  await expect(becomes).toContainText('at-work.html')
  await expect(page.getByRole('button', { name: 'Format: OPML' })).toBeVisible()
  const text = page.getByLabel('Its pages, one a line, indented under each other')
  await text.fill('<opml>')
  await expect(page.getByRole('alert')).toContainText('Line 1')
  // Another text in its place is in another format, and can be said to be.
  await text.fill('Kiln')
  await page.getByRole('button', { name: 'Format: OPML' }).click()
  await page.getByRole('menuitemradio', { name: 'indented text' }).click()
  await expect(page.getByRole('alert')).toBeHidden()
  await text.fill('')
  await text.pressSequentially('Kiln')
  await text.press('Enter')
  await text.press('Tab')
  await text.pressSequentially('The works')
  await expect(becomes).toContainText('the-works.html')
  await page.getByRole('button', { name: 'Make this site' }).click()
  await expectLabels(page, ['Kiln', 'The works'])
})

test('several pages are chosen, moved, copied and removed together', async ({ page }) => {
  await row(page, /The bell/).click()
  await page.keyboard.press('Shift+ArrowDown')
  await expect(page.getByRole('heading', { name: '2 pages chosen' })).toBeVisible()
  await page.keyboard.press('Alt+ArrowUp')
  await expectLabels(page, ['Saltpan Chapel', 'The bell', 'Contact', 'Visit', 'Getting here'])
  await page.keyboard.press('Control+d')
  await expectLabels(page, [
    'Saltpan Chapel',
    'The bell',
    'The bell (copy)',
    'Contact',
    'Contact (copy)',
    'Visit',
    'Getting here',
  ])
  await row(page, /The bell \(copy\)/).click()
  await row(page, /Contact \(copy\)/).click({ modifiers: ['Control'] })
  await page.getByRole('button', { name: 'Remove', exact: true }).click()
  await page.getByRole('button', { name: 'Remove 2 pages' }).click()
  await expectLabels(page, ['Saltpan Chapel', 'The bell', 'Contact', 'Visit', 'Getting here'])
})

test('pages are put under another one that is found by its name', async ({ page }) => {
  await row(page, /The bell/).click()
  await page.getByRole('button', { name: 'Place: at the top level' }).click()
  const field = page.getByRole('combobox', { name: 'Put it under' })
  await field.fill('bell')
  // Nothing stands under itself.
  await expect(page.getByText('No label has that in it.')).toBeVisible()
  await field.fill('here')
  await expect(page.getByRole('option', { name: /Getting here/ })).toContainText('Visit')
  await expectAccessible(page)
  await field.press('Enter')
  await expectLabels(page, ['Saltpan Chapel', 'Visit', 'Getting here', 'The bell', 'Contact'])
  await expect(page.getByRole('button', { name: 'Place: under Getting here' })).toBeVisible()
  // Several at once, from wherever they stand, in their order.
  await row(page, /Contact/).click({ modifiers: ['Control'] })
  await page.getByRole('button', { name: 'Put under another page…' }).click()
  await page.getByRole('combobox', { name: 'Put 2 pages under' }).press('ArrowDown')
  await page.keyboard.press('Enter')
  await expectLabels(page, ['Saltpan Chapel', 'Visit', 'Getting here', 'The bell', 'Contact'])
  await expect(row(page, /The bell/)).toContainText('visit/the-bell.html')
  await expect(row(page, /Contact/)).toContainText('visit/contact.html')
})

test('another home page is chosen; advice is given and dismissed for good', async ({ page }) => {
  await page.getByRole('tab', { name: /^Advice/ }).click()
  await expect(page.getByText('“Visit” is a section of one page')).toBeVisible()
  await page.getByRole('button', { name: /^Dismiss/ }).click()
  await expect(page.getByText('Nothing to remark on in this plan.')).toBeVisible()
  await page.reload()
  await page.getByRole('tab', { name: /^Advice/ }).click()
  await expect(page.getByText('Nothing to remark on in this plan.')).toBeVisible()
  await row(page, /The bell/).click()
  await page.getByRole('button', { name: 'Make it the home page' }).click()
  await expectLabels(page, ['The bell', 'Saltpan Chapel', 'Visit', 'Getting here', 'Contact'])
  await expect(row(page, /The bell/)).toContainText('index.html')
})

test('a plan of 50,000 lines is pasted, understood and used; one line more is refused for a new site', async ({
  page,
}) => {
  test.setTimeout(180_000)
  const lines = Array.from({ length: 50_000 }, (_, at) => `${at % 25 ? '    ' : '  '}Line ${at}`)
  await page.getByRole('tab', { name: 'Text' }).click()
  const text = page.getByLabel('The whole plan as text')
  await text.click()
  await page.keyboard.press('Control+a')
  await paste(text, { 'text/plain': ['Saltpan Chapel', ...lines].join('\n') })
  await expect(page.getByText(/^Ripple.*50,000 added, 4 removed/)).toBeVisible({ timeout: 60_000 })
  await page.getByRole('button', { name: 'Use this plan' }).click({ timeout: 60_000 })
  await expect(page.getByText('50,001 pages')).toBeVisible({ timeout: 60_000 })
  await expect(page.getByText(/^(Saved \d|All saved)/)).toBeVisible({ timeout: 90_000 })

  await page.goto('/sites/new')
  const plan = page.getByLabel('Its pages, one a line, indented under each other')
  await plan.click()
  await paste(plan, { 'text/plain': ['Home', ...lines].join('\n') })
  await expect(page.getByRole('alert')).toHaveText(
    'Line 50001: The plan has 50,001 pages; a site is made with at most 50,000 at once.',
    { timeout: 60_000 },
  )
})
