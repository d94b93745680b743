import { randomBytes } from 'node:crypto'
import { mkdir, writeFile } from 'node:fs/promises'
import path from 'node:path'
import { expect, type Locator, type Page, test } from '@playwright/test'
import {
  allSaved,
  dropFromDisk,
  expectAccessible,
  fileRow,
  makeSite,
  openFiles,
  openView,
  pasteFile,
  row,
  signUp,
} from './support'

/** A picture of two pixels. */
const red = 'iVBORw0KGgoAAAANSUhEUgAAAAIAAAABCAIAAAB7QOjdAAAADUlEQVR42mM4IQcEJwAHIwIJOwaaKQAAAABJRU5ErkJggg=='
const picture = (name: string) => ({ name, mimeType: 'image/png', buffer: Buffer.from(red, 'base64') })
test('files are added, shown, renamed with what refers to them, replaced, removed, and all of it undone', async ({
  page,
}) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home\n  Visit')
  const add = page.getByLabel('Files to add')
  await add.setInputFiles([
    picture('Evening at the Pier.jpg'),
    { name: 'Tide Table.csv', mimeType: 'text/csv', buffer: Buffer.from('a,b\n') },
  ])
  // Rows move while others come in.
  await expect(fileRow(page, 'documents/tide-table.csv')).toBeVisible()
  await expect(page.getByRole('list', { name: 'Files on their way' })).toBeHidden()
  await fileRow(page, 'images/evening-at-the-pier.png').click()
  await expect(page.getByText('2 × 1 pixels')).toBeVisible()
  await expect(page.getByText('Nowhere: no page')).toBeVisible()
  await expect(fileRow(page, 'images/evening-at-the-pier.png')).toContainText('not used')
  await expect(fileRow(page, 'documents/tide-table.csv')).toBeVisible()
  await expectAccessible(page)

  // Added once more, it is the one that is there.
  await row(page, /Visit/).click()
  await expect(page.getByText('2 × 1 pixels')).toBeHidden()
  await add.setInputFiles(picture('Evening at the Pier.jpg'))
  await expect(page.getByText('2 × 1 pixels')).toBeVisible()
  await expect(page.getByRole('button', { name: '3 files' })).toBeVisible()

  // Written into a page, it shows where it is used; renamed, the page goes with it.
  await openView(page, 'Pages')
  await row(page, /Visit/).click()
  const editor = page.getByRole('textbox', { name: 'Content of Visit' })
  await editor.click()
  await page.keyboard.insertText('<img src="/images/evening-at-the-pier.png" alt="">')
  await allSaved(page)
  await fileRow(page, 'images/evening-at-the-pier.png').click()
  await expect(page.getByRole('link', { name: 'Visit', exact: true })).toBeVisible()
  await expect(fileRow(page, 'images/evening-at-the-pier.png')).not.toContainText('not used')
  const name = page.getByLabel('It is called')
  await name.fill('Dusk.png')
  await name.press('Enter')
  await page.getByRole('button', { name: 'Rename it' }).click()
  await expect(fileRow(page, 'images/dusk.png')).toBeVisible()
  await allSaved(page)
  await page.getByRole('link', { name: 'Visit', exact: true }).click()
  await expect(editor).toContainText('/images/dusk.png')

  // A path of its own: what shows it follows there.
  await fileRow(page, 'images/dusk.png').click()
  await name.fill('/old/Views/Dusk.PNG')
  await expect(
    page.getByText('A path from the top of the site: no scheme moves it from there.'),
  ).toBeVisible()
  await name.press('Enter')
  await page.getByRole('button', { name: 'Rename it' }).click()
  await expect(fileRow(page, 'old/Views/Dusk.PNG')).toBeVisible()
  await allSaved(page)
  await page.getByRole('link', { name: 'Visit', exact: true }).click()
  await expect(editor).toContainText('/old/Views/Dusk.PNG')

  await fileRow(page, 'old/Views/Dusk.PNG').click()
  await page.getByRole('button', { name: 'Remove it' }).click()
  await expect(page.getByText('1 link in other pages will lead nowhere')).toBeVisible()
  await page.getByRole('group', { name: 'Remove' }).getByRole('button', { name: 'Remove it' }).click()
  await expect(fileRow(page, 'old/Views/Dusk.PNG')).toHaveCount(0)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(fileRow(page, 'old/Views/Dusk.PNG')).toBeVisible()
})

test('a picture dropped into a text is added to the site and stands there, its description asked for', async ({
  page,
}) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home\n  Visit')
  await openView(page, 'Pages')
  const editor = page.getByRole('textbox', { name: 'Content of Home' })
  await editor.click()
  await pasteFile(editor, 'Old Map.png', Buffer.from(red, 'base64'), 'image/png')
  const dialog = page.getByRole('dialog', { name: 'Picture' })
  await expect(dialog.getByText('2 × 1 pixels')).toBeVisible()
  // Called off, it is no part of the site; dropped again it comes again.
  await expect(page.getByRole('button', { name: '2 files', includeHidden: true })).toHaveCount(1)
  // So also before the server has heard of it.
  let letGo = () => {}
  const free = new Promise<void>((go) => (letGo = go))
  await page.route('**/changes', (route) => free.then(() => route.continue()))
  await page.keyboard.press('Escape')
  await expect(page.getByRole('button', { name: '1 file' })).toBeVisible()
  const added = page.waitForResponse('**/files?**')
  await pasteFile(editor, 'Old Map.png', Buffer.from(red, 'base64'), 'image/png')
  await added
  letGo()
  await expect(dialog.getByText('2 × 1 pixels')).toBeVisible()
  await expect(dialog.getByRole('button', { name: 'Put it in' })).toBeDisabled()
  await expectAccessible(page)
  await dialog.getByLabel('What it says to somebody who cannot see it').fill('The bay in 1850')
  await page.keyboard.press('Enter')
  await expect(editor).toContainText(
    '<img src="/images/old-map.png" alt="The bay in 1850" width="2" height="1">',
  )
  await allSaved(page)
  const shown = page.frameLocator('iframe').getByRole('img', { name: 'The bay in 1850' })
  await expect(shown).toHaveJSProperty('naturalWidth', 2)
})

test('a folder that is dropped anywhere is taken with all that is in it, and the window stays where it is', async ({
  page,
}, { outputDir }) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home\n  Visit')
  await openView(page, 'Pages')
  await page.getByRole('textbox', { name: 'Content of Home' }).click()
  const folder = path.join(outputDir, 'From the camera')
  await mkdir(path.join(folder, 'May'), { recursive: true })
  await writeFile(path.join(folder, 'Old Map.png'), Buffer.from(red, 'base64'))
  await writeFile(path.join(folder, 'May', 'notes.txt'), 'Fog.')
  await writeFile(path.join(folder, 'May', 'Thumbs.db'), 'x')
  const dropOn = (where: Locator) =>
    dropFromDisk(page, where, [folder], () =>
      expect(page.locator('main iframe')).toHaveCSS('pointer-events', 'none'),
    )
  await dropOn(page.locator('main iframe'))
  const question = page.getByRole('group', { name: 'Texts' })
  await expect(question).toContainText('“notes.txt” is a text')
  await question.getByRole('button', { name: 'Leave' }).click()
  await expect(page.getByText('2 files')).toBeVisible()
  // Into a text: what is in the folder is asked about one kind after the other.
  await dropOn(page.getByRole('textbox', { name: 'Content of Home' }))
  await page
    .getByRole('dialog', { name: 'Picture' })
    .getByLabel(/says nothing/)
    .check()
  await page.getByRole('button', { name: 'Put it in' }).click()
  await page.getByRole('button', { name: 'Put its words here' }).click()
  await expect(page.getByRole('textbox', { name: 'Content of Home' })).toContainText('alt=""')
  await expect(page.getByRole('textbox', { name: 'Content of Home' })).toContainText('<p>Fog.</p>')
})

test('a file that cannot be sent now goes by itself when the line is back, and another can be called off', async ({
  page,
}) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home')
  await page.route('**/files?**', (route) => route.abort())
  await page.getByLabel('Files to add').setInputFiles([picture('One.png'), picture('Two.png')])
  const onTheirWay = page.getByRole('list', { name: 'Files on their way' })
  await expect(onTheirWay.getByRole('status').first()).toHaveText('goes on when the line is back')
  await page.getByRole('button', { name: 'Do not add Two.png' }).click()
  await page.unroute('**/files?**')
  await expect(onTheirWay).toBeHidden()
  await expect(fileRow(page, 'images/one.png')).toBeVisible()
  await expect(fileRow(page, 'images/two.png')).toHaveCount(0)
  await openFiles(page)
  await expect(fileRow(page, 'images/one.png')).toHaveCount(0)
})

test('many files are cancelled together, those that have arrived are one step of undo, and a window that is closed meanwhile asks', async ({
  page,
}) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home')
  let asked = 0
  // Two of them arrive; the others stay on their way.
  await page.route('**/files?**', (route) => (++asked <= 2 ? route.continue() : undefined))
  const names = Array.from({ length: 40 }, (_, nth) => picture(`Tern ${nth + 1}.png`))
  await page.getByLabel('Files to add').setInputFiles(names)
  await expect(page.getByText('2 of 40 files')).toBeVisible()
  const onTheirWay = page.getByRole('list', { name: 'Files on their way' })
  await expect(onTheirWay.getByRole('listitem').last()).toHaveText('and 8 more files')
  await expectAccessible(page)
  const asks = () => page.evaluate(() => !dispatchEvent(new Event('beforeunload', { cancelable: true })))
  expect(await asks()).toBe(true)
  await page.getByRole('button', { name: 'Cancel all' }).click()
  await expect(onTheirWay).toBeHidden()
  expect(await asks()).toBe(false)
  await expect(page.getByRole('button', { name: '3 files' })).toBeVisible()
  const undo = page.getByRole('button', { name: 'Undo' })
  await expect(undo).toHaveAttribute('title', /^Undo adding Tern \d\.png and 1 more /)
  await undo.click()
  await expect(page.getByRole('button', { name: '1 file' })).toBeVisible()
})

test('a large file goes on where it was cut, also after its window was closed', async ({
  page,
}, testInfo) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home')
  const file = testInfo.outputPath('Bell.bin')
  await writeFile(file, randomBytes(11_000_000))
  const sent: string[] = []
  let isDown = false
  await page.route('**/uploads/*?from=*', (route) => {
    sent.push(new URL(route.request().url()).searchParams.get('from')!)
    isDown ||= sent.length === 2
    return isDown ? route.abort() : route.continue()
  })
  const choose = () => page.getByLabel('Files to add').setInputFiles(file)
  await choose()
  await expect(page.getByText('goes on when the line is back')).toBeVisible()
  await page.reload()
  // Brought again, it is known by its name, size and time.
  isDown = false
  const had = sent.length
  sent.push('reloaded')
  await choose()
  await expect(fileRow(page, 'files/bell.bin')).toBeVisible()
  expect(sent.slice(0, 1)).toEqual(['0'])
  expect(sent.slice(had + 1)).toEqual(['4000000', '8000000'])
  await fileRow(page, 'files/bell.bin').click()
  await expect(page.getByText(/11(\.0)? MB/).first()).toBeVisible()
})

test('a link is written by choosing: a part of a label is enough, and pictures are offered for pictures', async ({
  page,
}) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home\n  Visit\n    Crossings & tides')
  await page.getByLabel('Files to add').setInputFiles([picture('Old Map.png')])
  await expect(fileRow(page, 'images/old-map.png')).toBeVisible()
  await openView(page, 'Pages')
  const editor = page.getByRole('textbox', { name: 'Content of Home' })
  await editor.click()
  await page.keyboard.insertText('<a href=""></a>')
  for (let back = 0; back < 6; back++) await page.keyboard.press('ArrowLeft')
  await page.keyboard.type('cross')
  await page.getByRole('option', { name: /Crossings & tides/ }).click()
  await expect(editor).toContainText('<a href="/visit/crossings-and-tides.html"></a>')
  await page.keyboard.press('Control+End')
  await page.keyboard.insertText('<img src="">')
  for (let back = 0; back < 2; back++) await page.keyboard.press('ArrowLeft')
  await page.keyboard.type('m')
  await expect(page.getByRole('option')).toHaveCount(1)
  await page.getByRole('option').click()
  await expect(editor).toContainText('<img src="/images/old-map.png">')
})

test('among many files one is found by its name, and those that nothing uses are removed together and come back', async ({
  page,
}) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home\n  Visit')
  await page
    .getByLabel('Files to add')
    .setInputFiles(Array.from({ length: 12 }, (_, nth) => picture(`Evening ${nth + 1}.png`)))
  await expect(page.getByRole('list', { name: 'Files on their way' })).toBeHidden()
  await openView(page, 'Pages')
  await page.getByRole('textbox', { name: /^Content of/ }).click()
  await page.keyboard.insertText('<img src="/images/evening-3.png" alt="">')
  await allSaved(page)
  const files = page.getByRole('region', { name: 'The site’s files' })
  await page.getByRole('searchbox', { name: 'Only files with these letters' }).fill('EVENING-1')
  await expect(files.getByRole('listitem')).toHaveCount(4)
  await page.getByRole('searchbox', { name: 'Only files with these letters' }).fill('morning')
  await expect(page.getByText('No file has these letters in its path.')).toBeVisible()
  await page.getByRole('searchbox', { name: 'Only files with these letters' }).fill('evening')
  await page.getByLabel('only the 11 files that nothing uses').check()
  await expect(fileRow(page, 'images/evening-3.png')).toBeHidden()
  await expectAccessible(page)
  await page.getByRole('button', { name: 'Remove all 11' }).click()
  await page.getByRole('button', { name: 'Remove them' }).click()
  await expect(fileRow(page, 'images/evening-3.png')).toBeVisible()
  // Few are left, and all of them shown.
  await expect(fileRow(page, 'styles/site.css')).toBeVisible()
  await allSaved(page)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByRole('button', { name: '13 files' })).toBeVisible()
})

/** A film of a moment, as this browser records one. */
const record = (page: Page): Promise<string> =>
  page.evaluate(async () => {
    const canvas = Object.assign(document.createElement('canvas'), { width: 320, height: 180 })
    const draw = canvas.getContext('2d')!
    const recorder = new MediaRecorder(canvas.captureStream(25), { mimeType: 'video/webm' })
    const pieces: Blob[] = []
    recorder.ondataavailable = ({ data }) => pieces.push(data)
    const ended = new Promise((resolve) => (recorder.onstop = resolve))
    recorder.start()
    for (let frame = 0; frame < 20; frame++) {
      draw.fillRect(frame * 10, 0, 8, 180)
      await new Promise((resolve) => setTimeout(resolve, 40))
    }
    recorder.stop()
    await ended
    const bytes = new Uint8Array(await new Blob(pieces).arrayBuffer())
    return btoa(Array.from(bytes, (byte) => String.fromCharCode(byte)).join(''))
  })

/** A sound of a second (WAVE, 8 bits, 8 kHz). */
function sound(): Buffer {
  const bytes = Buffer.alloc(44 + 8_000, 128)
  bytes.write('RIFF\0\0\0\0WAVEfmt \x10\0\0\0\x01\0\x01\0', 'latin1')
  bytes.writeUInt32LE(bytes.length - 8, 4)
  for (const at of [24, 28]) bytes.writeUInt32LE(8_000, at)
  bytes.writeUInt32LE(0x00080001, 32)
  bytes.write('data', 36)
  bytes.writeUInt32LE(8_000, 40)
  return bytes
}

test('a film and a sound that are put into a text are played there; what browsers do not play is led to', async ({
  page,
}) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home\n  Visit')
  await openView(page, 'Pages')
  await row(page, /Visit/).click()
  const editor = page.getByRole('textbox', { name: 'Content of Visit' })
  await editor.click()
  const film = Buffer.from(await record(page), 'base64')
  await pasteFile(editor, 'Fog over the sound.webm', film, 'video/webm')
  await expect(editor).toContainText(
    '<video src="/files/fog-over-the-sound.webm" controls preload="metadata" width="320" height="180"></video>',
  )
  await pasteFile(editor, 'The bell.wav', sound(), 'audio/wav')
  await expect(editor).toContainText('<audio src="/files/the-bell.wav" controls preload="metadata"></audio>')
  await expect(editor).toContainText('<figcaption>The bell</figcaption>')
  const unplayed = Buffer.from('\0\0\0\x14ftypqt  \0\0\0\0qt  ', 'latin1')
  await pasteFile(editor, 'IMG_0042.MOV', unplayed, 'video/quicktime')
  await expect(editor).toContainText('<a href="/files/img-0042.mov">IMG_0042</a>')
  // What is among the files already is put in from there.
  await page.keyboard.press('Control+End')
  await page.getByRole('button', { name: 'Picture', exact: true }).click()
  await expectAccessible(page)
  await page
    .getByRole('dialog', { name: 'Picture, film or sound' })
    .getByRole('button', { name: /the-bell\.wav/ })
    .click()
  await expect(editor).toContainText(/(?:<audio src="\/files\/the-bell\.wav".*){2}/)
  await allSaved(page)

  // In the preview, too, whose pages have no origin.
  const shown = page.frameLocator('iframe[title^="Preview"]').locator('video')
  await expect
    .poll(() =>
      shown.evaluate(async (video: HTMLVideoElement) => {
        video.muted = true
        await video.play()
        return video.videoWidth
      }),
    )
    .toBe(320)
  await expectAccessible(page)
  await openView(page, 'Checks')
  await expect(page.getByText('Films without captions')).toBeVisible()
  await openFiles(page)
  await fileRow(page, 'files/fog-over-the-sound.webm').click()
  await expect(page.getByLabel('The recording Fog over the sound')).toHaveJSProperty('videoWidth', 320)
  await fileRow(page, 'files/img-0042.mov').click()
  await expect(page.getByText('This browser cannot play it')).toBeVisible()
})
