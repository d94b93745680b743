import { mkdir, readFile, writeFile } from 'node:fs/promises'
import path from 'node:path'
import { expect, test } from '@playwright/test'
import { pictureForm, readPixels } from '../core/pictures'
import { allSaved, dropFromDisk, editor, makeSite, signUp, write } from './support'

/** Pages of print as a scanner writes them (TIFF 6.0), lying on their side: 120 by 80 dots, a quarter turn to the right. */
function scan(pages = 1): Buffer {
  const [width, height] = [120, 80]
  const dots = Buffer.alloc(width * height, 255)
  for (let at = 0; at < dots.length; at += 3) dots[at] = 0
  const directoryBytes = 2 + 9 * 12 + 4
  const dotsAt = 8 + pages * directoryBytes
  const fields = [[256, width], [257, height], [258, 8], [259, 1], [262, 1], [273, dotsAt], [274, 6], [278, height], [279, dots.length]] // prettier-ignore
  const directories = Array.from({ length: pages }, (_, nth) => {
    const directory = Buffer.alloc(directoryBytes)
    directory.writeUInt16LE(fields.length, 0)
    for (const [index, [tag, value]] of fields.entries()) {
      const at = 2 + index * 12
      directory.writeUInt16LE(tag!, at)
      directory.writeUInt16LE(4, at + 2)
      directory.writeUInt32LE(1, at + 4)
      directory.writeUInt32LE(value!, at + 8)
    }
    directory.writeUInt32LE(nth + 1 < pages ? 8 + (nth + 1) * directoryBytes : 0, directoryBytes - 4)
    return directory
  })
  return Buffer.concat([Buffer.from([0x49, 0x49, 42, 0, 8, 0, 0, 0]), ...directories, dots])
}

/** A picture of many colours in the form that old programs write: 64 by 48 dots. */
function bitmap(): Buffer {
  const head = Buffer.alloc(54)
  head.write('BM')
  for (const [at, value] of [[2, 54 + 64 * 48 * 3], [10, 54], [14, 40], [18, 64], [22, 48]]) head.writeUInt32LE(value!, at) // prettier-ignore
  head.writeUInt16LE(1, 26)
  head.writeUInt16LE(24, 28)
  return Buffer.concat([
    head,
    Buffer.from(Array.from({ length: 64 * 48 * 3 }, (_, at) => (at * 7919 + (at >> 3) * 31) % 256)),
  ])
}

test('photographs of telephones, scans and old bitmaps become pictures that every browser shows', async ({
  page,
}, testInfo) => {
  const folder = testInfo.outputPath('From the camera')
  await mkdir(folder, { recursive: true })
  const photograph = await readFile('core/testing/files/pier.heic')
  for (const [name, bytes] of [['Pier.HEIC', photograph], ['Chart.tif', scan()], ['Shed.bmp', bitmap()], ['Broken.heic', photograph.subarray(0, 4_000)], ['Called.jpg', photograph], ['Minutes.tif', scan(2)]] as const)
    await writeFile(path.join(folder, name), bytes) // prettier-ignore
  await signUp(page)
  const siteId = await makeSite(page, 'Saltpan Chapel', 'Home')
  await dropFromDisk(page, page.getByRole('main'), [folder])
  await page.getByRole('button', { name: '7 files' }).click()
  const files = page.getByRole('region', { name: 'Files', exact: true })
  // What cannot be read stays as it is, as does a document of several pages.
  for (const name of [
    'images/pier.jpg',
    'images/chart.png',
    'images/shed.jpg',
    'images/called.jpg',
    'images/broken.heic',
    'images/minutes.tif',
  ])
    await expect(files.getByRole('button', { name })).toBeVisible()
  const told = async (name: string) => {
    await files.getByRole('button', { name }).click()
    const shown = page.getByRole('main').getByRole('img').first()
    const bytes = await (await page.request.get((await shown.getAttribute('src'))!)).body()
    return [pictureForm(bytes), readPixels(bytes)]
  }
  expect(await told('images/pier.jpg')).toEqual(['jpg', { width: 160, height: 120 }])
  expect((await told('images/called.jpg'))[0]).toBe('jpg')
  // It is shown as its scanner says it lies.
  expect(await told('images/chart.png')).toEqual(['png', { width: 80, height: 120 }])
  expect(await told('images/shed.jpg')).toEqual(['jpg', { width: 64, height: 48 }])

  // Into a text it comes with its size.
  await page.goto(`/sites/${siteId}/pages`)
  await write(page, 'Home', '')
  await dropFromDisk(page, editor(page, 'Home'), [path.join(folder, 'Pier.HEIC')])
  const dialog = page.getByRole('dialog', { name: 'Picture' })
  await dialog.getByLabel(/says nothing/).check()
  await dialog.getByRole('button', { name: 'Put it in' }).click()
  await expect(editor(page, 'Home')).toContainText(
    /<img src="\/?images\/pier.*\.jpg"[^>]* width="160" height="120"/,
  )
  await allSaved(page)
})
