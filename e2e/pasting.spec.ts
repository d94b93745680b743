import { expect, test } from '@playwright/test'
import { mkdir, readFile, rm, writeFile } from 'node:fs/promises'
import path from 'node:path'
import { drawing, openDocument, p, wordDocument, workbook } from '../core/testing/documents'
import {
  allSaved,
  editor,
  expectAccessible,
  fileRow,
  makeSite,
  openFiles,
  openView,
  paste,
  pasteFile,
  practice,
  row,
  signUp,
  write,
} from './support'

const red =
  'iVBORw0KGgoAAAANSUhEUgAAAAIAAAABCAYAAAD0In+KAAAAEUlEQVR4nGP8z8Dwn4GBgQEADQAC/yqlZ3kAAAAASUVORK5CYII='

test('an address pasted over chosen words links them', async ({ page }) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home')
  await openView(page, 'Pages')
  await write(page, 'Home', 'tide tables')
  await page.keyboard.press('Control+a')
  await paste(editor(page, 'Home'), { 'text/plain': 'https://tides.example/?a=1&b=2' })
  await expect(editor(page, 'Home')).toHaveText(
    '<a href="https://tides.example/?a=1&amp;b=2">tide tables</a>',
  )
})
test('what is pasted from other programs is clean HTML with its pictures; Markdown by choice; source as it is', async ({
  page,
}) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home')
  await openView(page, 'Pages')
  await write(page, 'Home', '')
  await paste(editor(page, 'Home'), {
    'text/plain': 'High water at noon',
    'text/html': `<p class=MsoNormal style="margin:0"><b>High water</b>&nbsp;at noon<img src="data:image/png;base64,${red}"></p>`,
  })
  await expect(editor(page, 'Home')).toContainText(
    '<p><strong>High water</strong> at noon<img src="/images/picture-1.png" width="2" height="1"></p>',
  )
  await page.keyboard.press('Control+a')
  await page.keyboard.press('Delete')
  await paste(editor(page, 'Home'), { 'text/plain': '# Tides\n\n- high\n- low\n' })
  await expect(editor(page, 'Home')).toContainText('# Tides')
  await page.getByRole('button', { name: 'Make it HTML' }).click()
  await expect(editor(page, 'Home')).toContainText('<h1>Tides</h1>')
  await expect(editor(page, 'Home')).toContainText('<li>high</li>')
  await page.keyboard.press('Control+a')
  await page.keyboard.press('Delete')
  await paste(editor(page, 'Home'), {
    'text/plain': '<p>source</p>',
    'text/html': '<div><b>&lt;p&gt;source</b></div>',
  })
  await expect(editor(page, 'Home')).toHaveText('<p>source</p>')
  // A whole page is not what stands in a slot.
  await page.keyboard.press('Control+a')
  await page.keyboard.press('Delete')
  await paste(editor(page, 'Home'), {
    'text/plain':
      '<!doctype html>\n<html>\n<head>\n<title>Tides</title>\n</head>\n<body>\n<p>source</p>\n</body>\n</html>',
  })
  await expect(editor(page, 'Home')).toContainText('<body>')
  await page.getByRole('button', { name: 'Keep what stands in its body' }).click()
  await expect(editor(page, 'Home')).toHaveText('<p>source</p>')
  await allSaved(page)
})

test('what is pasted or put within a paragraph stands where it can: its words in it, paragraphs beside it', async ({
  page,
}) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home')
  await openView(page, 'Pages')
  const office = (words: string) => `<p class=MsoNormal style="margin:0">${words}</p>`
  const pasted = async (words: string) => {
    await write(page, 'Home', '<p>High water today</p>')
    await page.keyboard.press('Control+Home')
    for (const _ of '<p>High') await page.keyboard.press('ArrowRight')
    await paste(editor(page, 'Home'), { 'text/plain': 'x', 'text/html': words })
    return editor(page, 'Home')
  }
  await expect(await pasted(office(', <b>at noon</b>'))).toHaveText(
    '<p>High, <strong>at noon</strong> water today</p>',
  )
  await expect(await pasted(office('It comes.') + office('It goes.'))).toHaveText(
    '<p>High</p><p>It comes.</p><p>It goes.</p><p>water today</p>',
  )
  // One step takes it back.
  await page.keyboard.press('Control+z')
  await expect(editor(page, 'Home')).toHaveText('<p>High water today</p>')
  // What is typed next stands behind it.
  await pasted(office('It comes.') + office('It goes.'))
  await expect(editor(page, 'Home')).toContainText('<p>It goes.</p>')
  await page.keyboard.type('Then')
  await expect(editor(page, 'Home')).toContainText('<p>It goes.</p>Then')
  // Out of a letter, there are no tags: what its blank lines part becomes paragraphs by choice.
  await write(page, 'Home', '<p>High water today</p>')
  await page.keyboard.press('Control+Home')
  for (const _ of '<p>High') await page.keyboard.press('ArrowRight')
  await paste(editor(page, 'Home'), { 'text/plain': 'Tom & I\n\nsay so.' })
  await expect(page.getByText('has paragraphs without tags, which browsers show as one')).toBeVisible()
  await expectAccessible(page)
  await page.getByRole('button', { name: 'Make paragraphs of it' }).click()
  await expect(editor(page, 'Home')).toHaveText(
    '<p>High</p><p>Tom &amp; I</p><p>say so.</p><p>water today</p>',
  )
})

test('pictures that stand on another site are taken into this one; what cannot be is told, and stays where it was', async ({
  page,
}) => {
  const folder = path.join(practice.folder, 'old-pages')
  await mkdir(folder, { recursive: true })
  await writeFile(path.join(folder, 'the pier.png'), Buffer.from(red, 'base64'))
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home')
  await openView(page, 'Pages')
  await write(page, 'Home', '<p id="_ftn1">mine</p>')
  await page.keyboard.press('Control+End')
  const old = `${practice.address}old-pages`
  await paste(editor(page, 'Home'), {
    'text/plain': 'Tides',
    'text/html': `<div><p>Tides<a href="#_ftn1">1</a> <img src="${old}/the%20pier.png" alt="The pier"> <img src="${old}/gone.png" alt=""> <img src="${old}/the%20pier.png"></p><div id="_ftn1">Note</div></div>`,
  })
  await expect(editor(page, 'Home')).toContainText('Tides<a href="#_ftn1-2">1</a>')
  await expect(editor(page, 'Home')).toContainText('<p id="_ftn1-2">Note</p>')
  const notice = page.getByRole('status').filter({ hasText: '2 pictures of this text stand on' })
  await expect(notice).toBeVisible()
  await expectAccessible(page)
  await page.getByRole('button', { name: 'Take them into this site' }).click()
  await expect(editor(page, 'Home')).toContainText('<img src="/images/the-pier.png" alt="The pier">')
  await expect(editor(page, 'Home')).toContainText('<img src="/images/the-pier.png"></p>')
  await expect(editor(page, 'Home')).toContainText('gone.png')
  await expect(page.getByText('it is not there any more')).toBeVisible()
  await expect(page.frameLocator('iframe').getByRole('img', { name: 'The pier' })).toHaveJSProperty(
    'naturalWidth',
    2,
  )
  await page.getByRole('button', { name: 'Leave it there' }).click()
  await expect(page.getByText('of this text stands on')).toHaveCount(0)
  await allSaved(page)
  await rm(folder, { recursive: true })
})

test('a text typed without tags is told how visitors see it, and becomes HTML; Checks finds one that was left', async ({
  page,
}) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Visit\nContact')
  await openView(page, 'Pages')
  await row(page, 'Visit').click()
  const visit = page.getByRole('textbox', { name: 'Content of Visit' })
  await expect(visit).toContainText('Type or paste what the page says')
  await visit.click()
  await page.keyboard.insertText('The chapel is open.\n\nMost days.')
  const notice = page.getByRole('status').filter({ hasText: 'these paragraphs run together' })
  await expect(notice).toBeVisible()
  await expectAccessible(page)
  await page.getByRole('button', { name: 'Make paragraphs of them' }).click()
  await expect(visit).toContainText('<p>The chapel is open.</p>')
  await expect(notice).toHaveCount(0)
  await expect(page.frameLocator('iframe').locator('p', { hasText: /^Most days\.$/ })).toBeVisible()

  await row(page, 'Contact').click()
  const contact = page.getByRole('textbox', { name: 'Content of Contact' })
  await contact.click()
  await page.keyboard.insertText('## By post\n\nTo the *warden*.')
  await page.getByRole('button', { name: 'Make it HTML' }).click()
  await expect(contact).toContainText('<h2>By post</h2>')
  await page.keyboard.press('ControlOrMeta+a')
  await page.keyboard.insertText('By hand.\n\nBy post.')
  await page.getByRole('button', { name: 'Leave it as it is' }).click()
  await expect(notice).toHaveCount(0)
  await allSaved(page)
  await openView(page, 'Checks')
  await expect(page.getByRole('heading', { name: 'Paragraphs that run together' })).toBeVisible()
  await page.getByRole('button', { name: 'Make paragraphs of it' }).click()
  await expect(page.getByRole('heading', { name: 'Paragraphs that run together' })).toHaveCount(0)
  await openView(page, 'Pages')
  await expect(contact).toContainText('<p>By post.</p>')
})

test('text files that are brought become pages, with their first heading for a label', async ({ page }) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home\n  Visit')
  await row(page, /Visit/).click()
  const file = (name: string, text: string) => ({ name, mimeType: 'text/plain', buffer: Buffer.from(text) })
  await page.getByLabel('Files to add').setInputFiles([
    file('tides.md', '# High & low water\n\nAt **noon**.'),
    file('old.html', '<!DOCTYPE html><title>The pier</title><body><p>Red.</p></body>'),
    file('Notes.txt', 'One.\n\nTwo.'),
    // Asked for by their names: no pages.
    file('robots.txt', 'User-agent: *\n'),
    file('finder0badc0de99.html', 'finder-proof: finder0badc0de99.html'),
  ])
  const question = page.getByRole('group', { name: 'Texts' })
  await expect(question).toContainText('“tides.md”, “old.html” and “Notes.txt” are texts')
  await expectAccessible(page)
  const files = page.getByRole('region', { name: 'Files', exact: true })
  for (const path of [/^finder0badc0de99\.html/, /^robots\.txt/])
    await expect(files.getByRole('button', { name: path })).not.toContainText('not used')
  await question.getByRole('button', { name: 'Make 3 pages' }).click()
  await expect(row(page, /High & low water/)).toContainText('visit/high-and-low-water.html')
  await allSaved(page)
  await openView(page, 'Pages')
  await row(page, /High & low water/).click()
  await expect(editor(page, 'High & low water')).toHaveText('<p>At <strong>noon</strong>.</p>')
  await row(page, /Notes/).click()
  await expect(editor(page, 'Notes')).toHaveText('<p>One.</p><p>Two.</p>')
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(row(page, /Notes/)).toHaveCount(0)
})

test('documents of word processors become pages with their pictures; what cannot be read is told, and stays offered', async ({
  page,
}) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home\n  Visit')
  await row(page, /Visit/).click()
  const file = (name: string, bytes: Uint8Array | string) => ({
    name,
    mimeType: 'application/octet-stream',
    buffer: Buffer.from(bytes),
  })
  const report = p('Titel', 'Annual report') + p('b1', 'Boats') + p('', 'Red.', drawing('p1', 'A red pier')) + p('', drawing('p2', 'x')) // prettier-ignore
  await page.getByLabel('Files to add').setInputFiles([
    file('report.docx', wordDocument(report)),
    file('notes.odt', openDocument('<text:p>Bring <text:span>boots</text:span>.</text:p>')),
    file('broken.docx', 'no document'),
    // As an older editor kept it (windows-1252).
    file('caf\u00e9.txt', Buffer.from('Caf\u00e9 opens at nine.', 'latin1')),
  ])
  const question = page.getByRole('group', { name: 'Texts' })
  await question.getByRole('button', { name: 'Make 4 pages' }).click()
  await expect(question).toContainText('“broken.docx”: This is no document that can be read')
  await expect(question).toContainText('“report.docx”: A drawing in it is of a form that no browser shows')
  await expect(question).toContainText('“broken.docx” is a text')
  await expectAccessible(page)
  await question.getByRole('button', { name: 'Leave' }).click()
  await allSaved(page)
  await openView(page, 'Pages')
  await row(page, /Annual report/).click()
  await expect(editor(page, 'Annual report')).toHaveText(
    '<h2>Boats</h2><p>Red.<img src="/images/annual-report.png" alt="A red pier" width="1" height="1"></p>',
  )
  await row(page, /Notes/).click()
  await expect(editor(page, 'Notes')).toHaveText('<p>Bring boots.</p>')
  await row(page, /Café/).click()
  await expect(editor(page, 'Café')).toHaveText('<p>Café opens at nine.</p>')

  // Called off while a picture is on its way that does not arrive.
  await page.route('**/files?**', () => {})
  await page.getByLabel('Files to add').setInputFiles([file('again.docx', wordDocument(report))])
  await question.getByRole('button', { name: 'Make it a page' }).click()
  await expect(question).toContainText('Adding Annual report.png')
  // What comes meanwhile is asked about, too.
  await page.getByLabel('Files to add').setInputFiles([file('later.txt', 'Fog.')])
  await question.getByRole('button', { name: 'Cancel' }).click()
  await expect(question).toContainText('“again.docx” and “later.txt” are texts')
  await question.getByRole('button', { name: 'Leave' }).click()
  await page.unroute('**/files?**')
  // What is said of one that became a page is read before the next is asked about.
  const drawn = wordDocument(p('Titel', 'Drawn') + p('', drawing('p2', 'x'), 'Words'))
  await page.getByLabel('Files to add').setInputFiles([file('drawn.docx', drawn)])
  await question.getByRole('button', { name: 'Make it a page' }).click()
  await expect(question).toContainText('It is a page now.')
  await page.getByLabel('Files to add').setInputFiles([file('later.txt', 'Fog.')])
  await question.getByRole('button', { name: 'Good' }).click()
  await expect(question).toContainText('“later.txt” is a text')
  await expect(question).not.toContainText('drawing')
})

test('rows of a spreadsheet become a table: copied, pasted as text, or out of its file', async ({ page }) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home')
  await openView(page, 'Pages')
  await write(page, 'Home', '')
  const text = editor(page, 'Home')
  const table = '<th scope="col">Opens</th>'
  const clear = async () => {
    await text.press('Control+a')
    await text.press('Delete')
  }
  await paste(text, {
    'text/plain': 'Day\tOpens\nMonday\t9:00\n',
    'text/html':
      '<html><style>.h{font-weight:700}</style><body><table><!--StartFragment--><tr><td class=h>Day<td class=h>Opens<tr><td>Monday<td>9:00<!--EndFragment--></table></body></html>',
  })
  await expect(text).toContainText(table)
  await clear()
  await paste(text, { 'text/plain': 'Day\tOpens\nMonday\t10:00\n' })
  await expectAccessible(page)
  await page.getByRole('button', { name: 'Make it a table' }).click()
  await expect(text).toContainText(table)
  await expect(text).toContainText('<td>10:00</td>')
  await clear()
  await pasteFile(text, 'hours.xlsx', workbook([['Day', 'Opens'], ['Monday', 11]])) // prettier-ignore
  const dialog = page.getByRole('dialog', { name: 'Text' })
  await expect(dialog).toContainText('its rows can stand here as a table')
  await dialog.getByRole('button', { name: 'Put its rows here' }).click()
  await expect(text).toContainText(table)
  await expect(text).toContainText('<td>11</td>')
  await clear()
  await pasteFile(text, 'hire.xls', await readFile('core/testing/files/hire.xls'))
  await dialog.getByRole('button', { name: 'Put its rows here' }).click()
  // The editor shows where it ends.
  await expect(text).toContainText('8</td>      <td>8</td>')
  await clear()
  await pasteFile(text, 'hours.csv', Buffer.from('Day;Opens\r\nMonday;12\r\n'))
  await dialog.getByRole('button', { name: 'Link to it' }).click()
  await expect(text).toContainText('.csv">hours</a>')
  await allSaved(page)
})

test('a document that is dropped into a text stands there under its title, or is led to as a file', async ({
  page,
}) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home')
  await openView(page, 'Pages')
  await write(page, 'Home', '')
  const drop = (name: string, bytes: Uint8Array) => pasteFile(editor(page, 'Home'), name, bytes)
  const dialog = page.getByRole('dialog', { name: 'Text' })
  await drop('broken.odt', Buffer.from('no document'))
  await dialog.getByRole('button', { name: 'Put its words here' }).click()
  await expect(dialog.getByRole('alert')).toContainText('“broken.odt”: This is no document that can be read')
  await page.keyboard.press('Escape')
  await expect(editor(page, 'Home')).not.toContainText('broken')

  await drop('report.docx', wordDocument(p('Titel', 'Annual report') + p('b1', 'Boats') + p('', drawing('p2', 'x')))) // prettier-ignore
  await expectAccessible(page)
  await dialog.getByRole('button', { name: 'Put its words here' }).click()
  await expect(dialog.getByRole('alert')).toContainText('A drawing in it is of a form that no browser shows')
  await dialog.getByRole('button', { name: 'Put its words here' }).click()
  await expect(editor(page, 'Home')).toHaveText('<h2>Annual report</h2><h3>Boats</h3>')
  await drop('rules.docx', wordDocument(p('', 'Rules')))
  await dialog.getByRole('button', { name: 'Link to it' }).click()
  await expect(editor(page, 'Home')).toContainText('<a href="/documents/rules.docx">rules</a>')
  await allSaved(page)

  // Left once it was read: the picture that came with it goes, too.
  const came = page.waitForResponse('**/files?**')
  await drop('boats.docx', wordDocument(p('', drawing('p1', 'A boat')) + p('', drawing('p2', 'x'))))
  await dialog.getByRole('button', { name: 'Put its words here' }).click()
  await expect(dialog.getByRole('alert')).toContainText('A drawing in it')
  expect((await came).ok()).toBe(true)
  await page.keyboard.press('Escape')
  await openFiles(page)
  await expect(fileRow(page, 'documents/rules.docx')).toBeVisible()
  await expect(fileRow(page, 'images/boats.png')).toHaveCount(0)
  await openFiles(page)
  await expect(fileRow(page, 'documents/rules.docx')).toHaveCount(0)

  // Called off while a picture of it is on its way: what has arrived all the same is taken out again.
  await page.route('**/files?**', async (route) => {
    await route.fetch()
    // Its answer never comes.
  })
  await drop('pier.docx', wordDocument(p('', drawing('p1', 'The pier'))))
  await dialog.getByRole('button', { name: 'Put its words here' }).click()
  await expect(dialog.getByRole('status')).toHaveText(/Adding Pier\.png/)
  await expectAccessible(page)
  // What is on its way is called off with it.
  const calledOff = page.waitForEvent('requestfailed', (request) => /\/files\?/.test(request.url()))
  await dialog.getByRole('button', { name: 'Cancel' }).click()
  await calledOff
  await openFiles(page)
  await expect(fileRow(page, 'documents/rules.docx')).toBeVisible()
  await expect(fileRow(page, 'images/pier.png')).toHaveCount(0)
  await page.getByRole('button', { name: 'Undo', exact: true }).click()
  await expect(fileRow(page, 'images/pier.png')).toBeVisible()
})
