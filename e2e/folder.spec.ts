import { expect, type Page, test } from '@playwright/test'
import { allSaved, expectAccessible, makeSite, openView, row, signUp, write } from './support'

/** A folder that only this page's origin sees (File System Standard) stands for one of the computer: no dialog of the system can be driven. */
const withFolder = (page: Page) =>
  page.addInitScript(() => {
    Object.assign(window, {
      showDirectoryPicker: async () =>
        (await navigator.storage.getDirectory()).getDirectoryHandle('out', { create: true }),
    })
  })
async function openFolder(page: Page) {
  await page.getByRole('button', { name: 'take the site as a ZIP, or into a folder' }).click()
  await page.getByRole('button', { name: 'Into a folder of this computer…' }).click()
}
const filesIn = (page: Page) =>
  page.evaluate(async () => {
    const found: Record<string, string> = {}
    const walk = async (folder: FileSystemDirectoryHandle, path: string) => {
      for await (const handle of folder.values())
        if (handle.kind === 'directory') await walk(handle, `${path}${handle.name}/`)
        else found[path + handle.name] = await (await handle.getFile()).text()
    }
    await walk(await (await navigator.storage.getDirectory()).getDirectoryHandle('out', { create: true }), '')
    return found
  })
const writeThere = (page: Page, name: string, text: string) =>
  page.evaluate(
    async ([name, text]) => {
      const out = await (await navigator.storage.getDirectory()).getDirectoryHandle('out', { create: true })
      const file = await (await out.getFileHandle(name!, { create: true })).createWritable()
      await file.write(text!)
      await file.close()
    },
    [name, text],
  )

test('the site is put into a folder: what differs alone, nothing of somebody else’s without being asked, and what is gone where that is wanted', async ({
  page,
}) => {
  await withFolder(page)
  await signUp(page)
  const siteId = await makeSite(page, 'Saltpan Chapel', 'Home\n  Tides\n  Visit')
  await writeThere(page, 'tides.html', 'mine')
  await writeThere(page, 'notes.txt', 'mine, too')
  await openView(page, 'Upload')
  await openFolder(page)
  const dialog = page.getByRole('dialog', { name: 'The site in a folder' })
  await dialog.getByRole('button', { name: 'Choose a folder…' }).click()
  await expect(dialog).toContainText('4 files of 4 are not in “out” as here.')
  await expect(dialog).toContainText('One of them was not written there from here')
  await expect(dialog).toContainText('One other file there stays as it is.')
  await expectAccessible(page)
  await expect(dialog.getByRole('checkbox', { name: 'write tides.html' })).not.toBeChecked()
  await dialog.getByRole('button', { name: /^Write 3 files/ }).click()
  await expect(dialog.getByRole('status')).toHaveText('3 files were written into “out”.')
  const first = await filesIn(page)
  expect(Object.keys(first).sort()).toEqual(['index.html', 'notes.txt', 'styles/site.css', 'tides.html', 'visit.html']) // prettier-ignore
  expect([first['tides.html'], first['notes.txt']]).toEqual(['mine', 'mine, too'])
  await dialog.getByRole('button', { name: 'Close' }).click()

  // All the same, once that is asked for.
  await openFolder(page)
  await dialog.getByRole('button', { name: 'Use “out” again' }).click()
  await expect(dialog).toContainText('1 file of 4 is not in “out” as here.')
  await dialog.getByRole('button', { name: 'write it all the same' }).click()
  await dialog.getByRole('button', { name: /^Write 1 file/ }).click()
  await expect(dialog.getByRole('status')).toHaveText('1 file was written into “out”.')
  await dialog.getByRole('button', { name: 'Close' }).click()
  const visit = await page.request.get(`/sites/${siteId}/made`)
  const made = (await visit.json()) as { path: string; hash: string }[]
  const tides = made.find(({ path }) => path === 'tides.html')!
  const hash = await page.evaluate(
    async (text) => {
      const digest = await crypto.subtle.digest('SHA-256', new TextEncoder().encode(text))
      return [...new Uint8Array(digest)].map((byte) => byte.toString(16).padStart(2, '0')).join('')
    },
    (await filesIn(page))['tides.html']!,
  )
  expect(hash).toBe(tides.hash)

  // A page that changes its text and one that goes; a file that somebody changed since is theirs.
  await openView(page, 'Pages')
  await write(page, 'Visit', '<p>Come</p>')
  await openView(page, 'Plan')
  await row(page, /Tides/).click()
  await page.keyboard.press('Delete')
  await page.getByRole('button', { name: 'Remove it' }).click()
  await expect(row(page, /Tides/)).toHaveCount(0)
  await allSaved(page)
  await openView(page, 'Upload')
  await openFolder(page)
  await dialog.getByRole('button', { name: 'Use “out” again' }).click()
  await expect(dialog).toContainText('2 files of 3 are not in “out” as here.')
  await dialog.getByRole('checkbox', { name: 'Remove the one file that the site no longer has' }).check()
  await dialog.getByRole('button', { name: /^Write 2 files/ }).click()
  await expect(dialog.getByRole('status')).toHaveText('2 files were written into “out”, and 1 removed.')
  const last = await filesIn(page)
  expect(Object.keys(last).sort()).toEqual(['index.html', 'notes.txt', 'styles/site.css', 'visit.html'])
  expect(last['visit.html']).toContain('<p>Come</p>')
  await dialog.getByRole('button', { name: 'Close' }).click()
  await openFolder(page)
  await dialog.getByRole('button', { name: 'Use “out” again' }).click()
  await expect(dialog.getByRole('status')).toHaveText('Everything in “out” is as it is here.')
})

/** Holds the folder as a disk does that Chromium was tried on: links and long names are refused, and what is put in place waits. */
const asOnDisk = (page: Page) =>
  page.addInitScript(() => {
    const open = FileSystemDirectoryHandle.prototype.getFileHandle
    FileSystemDirectoryHandle.prototype.getFileHandle = function (name, how) {
      if (name === 'visit.html') return Promise.reject(new DOMException('', 'SecurityError'))
      return open.call(this, name, how)
    }
    const write = FileSystemFileHandle.prototype.createWritable
    const seen = Object.assign(window, { atOnce: 0, mostAtOnce: 0, written: [] as string[] })
    FileSystemFileHandle.prototype.createWritable = async function () {
      if (this.name === 'fog.html') throw new DOMException('', 'InvalidStateError')
      const out = await write.call(this)
      seen.mostAtOnce = Math.max(seen.mostAtOnce, ++seen.atOnce)
      const close = out.close
      out.close = async () => {
        await new Promise((done) => setTimeout(done, 50))
        await close.call(out)
        seen.atOnce -= 1
        seen.written.push(this.name)
      }
      return out
    }
  })

test('a disk that is slow and refuses some is written to several files at once, the home page last, and nothing empty is left', async ({
  page,
}) => {
  await withFolder(page)
  await asOnDisk(page)
  await signUp(page)
  const rest = Array.from({ length: 20 }, (_, nth) => `\n  Page ${nth}`).join('')
  await makeSite(page, 'Saltpan Chapel', `Home\n  Fog\n  Visit${rest}`)
  await openView(page, 'Upload')
  await openFolder(page)
  const dialog = page.getByRole('dialog', { name: 'The site in a folder' })
  await dialog.getByRole('button', { name: 'Choose a folder…' }).click()
  await dialog.getByRole('button', { name: /^Write 24 files/ }).click()
  await expect(dialog.getByRole('status')).toHaveText('22 files were written into “out”.')
  await expect(dialog.getByRole('alert')).toHaveText(
    /^2 files could not be: .*fog\.html \(this computer does not write it there: its name may be too long\).*\.$/,
  )
  await expect(dialog.getByRole('alert')).toContainText('visit.html (a link to another place stands where')
  expect(Object.keys(await filesIn(page))).toHaveLength(22)
  const { mostAtOnce, written } = await page.evaluate(() => {
    const { mostAtOnce, written } = window as unknown as { mostAtOnce: number; written: string[] }
    return { mostAtOnce, written }
  })
  expect(mostAtOnce).toBeGreaterThan(4)
  expect(mostAtOnce).toBeLessThanOrEqual(16)
  expect([written[0], written.at(-1)]).toEqual(['site.css', 'index.html'])
})

test('a file that cannot be written is told of, and the rest is written; a line that is cut leaves what was written', async ({
  page,
}) => {
  await withFolder(page)
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home\n  Tides\n  Visit')
  // A folder stands where a page should be.
  await page.evaluate(async () => {
    const out = await (await navigator.storage.getDirectory()).getDirectoryHandle('out', { create: true })
    await out.getDirectoryHandle('tides.html', { create: true })
  })
  await openView(page, 'Upload')
  await openFolder(page)
  const dialog = page.getByRole('dialog', { name: 'The site in a folder' })
  await dialog.getByRole('button', { name: 'Choose a folder…' }).click()
  await page.route('**/made', (route) => (route.request().method() === 'POST' ? route.abort() : route.continue())) // prettier-ignore
  await dialog.getByRole('button', { name: /^Write 4 files/ }).click()
  await expect(dialog.getByRole('alert')).toHaveText('The server does not answer. Try again in a moment.')
  expect(await filesIn(page)).toEqual({})
  await page.unroute('**/made')
  await dialog.getByRole('button', { name: 'Use “out” again' }).click()
  await dialog.getByRole('button', { name: /^Write 4 files/ }).click()
  await expect(dialog.getByRole('status')).toHaveText('3 files were written into “out”.')
  await expect(dialog.getByRole('alert')).toHaveText(
    '1 file could not be: tides.html (a folder stands where it should be, or a file where its folder should be).',
  )
  expect(Object.keys(await filesIn(page)).sort()).toEqual(['index.html', 'styles/site.css', 'visit.html'])
})
