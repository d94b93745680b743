import { expect, test } from '@playwright/test'
import {
  addPracticeHost,
  allSaved,
  expectLabels,
  makeSiteByHand,
  openView,
  practice,
  row,
  signUpByHand,
} from './support'

const plan =
  'Saltpan Chapel\n  Visit\n    Getting here\n    Opening days\n  The bell\n  Contact\n  A sketch (trial page)'

test('from a typed plan to a live site, and later only what changed', async ({ page, request }) => {
  await signUpByHand(page)
  const siteId = await makeSiteByHand(page, 'Saltpan Chapel', plan)
  await expectLabels(page, [
    'Saltpan Chapel',
    'Visit',
    'Getting here',
    'Opening days',
    'The bell',
    'Contact',
    'A sketch',
  ])
  await expect(row(page, /Getting here/)).toContainText('visit/getting-here.html')
  await expect(row(page, /A sketch/)).toContainText('trial page')

  // A page is written, and the preview follows without a click.
  await row(page, /The bell/).click()
  await openView(page, 'Pages')
  const editor = page.getByRole('textbox', { name: 'Content of The bell' })
  await editor.click()
  await page.keyboard.type('<p>See <a href="/visit/getting-here.html">the way</a>.')
  const preview = page.frameLocator('iframe')
  await expect(preview.getByRole('link', { name: 'the way' })).toBeVisible()
  await expect(page.getByTestId('preview-title')).toHaveText('The bell – Saltpan Chapel')
  await expect(page.getByTestId('preview-address')).toHaveText('/the-bell.html')
  await preview.getByRole('link', { name: 'the way' }).click()
  await expect(page.getByTestId('preview-title')).toHaveText('Getting here – Saltpan Chapel')
  await expect(page.getByTestId('preview-address')).toHaveText('/visit/getting-here.html')
  await allSaved(page)

  // Uploaded to a folder of the practice host of its own.
  await openView(page, 'Upload')
  const folder = `public/${siteId}`
  await addPracticeHost(page, folder)
  await expect(page.getByRole('button', { name: 'Send 7 files' })).toBeEnabled()
  await page.getByRole('button', { name: 'Send 7 files' }).click()
  await expect(page.getByRole('button', { name: 'Nothing to send' })).toBeVisible()
  await expect(page.getByRole('link', { name: 'Open the live site' }).first()).toHaveAttribute(
    'href',
    `${practice.address}${siteId}/`,
  )

  // Every address answers over HTTP with the bytes that the ZIP holds.
  const live = `${practice.address}${siteId}/`
  const files = await unzip(Buffer.from(await (await page.request.get(`/sites/${siteId}/site.zip`)).body()))
  expect([...files.keys()].sort()).toEqual([
    'contact.html',
    'index.html',
    'styles/site.css',
    'the-bell.html',
    'visit/getting-here.html',
    'visit/index.html',
    'visit/opening-days.html',
  ])
  for (const [name, bytes] of files)
    expect(Buffer.from(await (await request.get(live + name)).body()).equals(bytes)).toBe(true)
  expect(await (await request.get(live)).text()).toBe(files.get('index.html')!.toString())

  // A page added later stands in every menu; only what changed is sent.
  await openView(page, 'Plan')
  await row(page, /The bell/).click()
  await page.keyboard.press('Enter')
  await page.keyboard.type('Concerts')
  await page.keyboard.press('Enter')
  await page.keyboard.press('Escape')
  await allSaved(page)
  await openView(page, 'Upload')
  await expect(row(page, /Concerts/)).toContainText('new')
  await expect(row(page, /Contact/)).toContainText('changed')
  await page.getByRole('button', { name: 'Send 7 files' }).click()
  await expect(page.getByRole('button', { name: 'Nothing to send' })).toBeVisible()
  for (const name of [
    'index.html',
    'contact.html',
    'visit/index.html',
    'visit/opening-days.html',
    'concerts.html',
  ])
    expect(await (await request.get(live + name)).text()).toContain('Concerts')

  // A change that touches one page sends one file.
  await openView(page, 'Pages')
  await row(page, /Contact/).click()
  await page.getByRole('textbox', { name: 'Content of Contact' }).click()
  await page.keyboard.type('<p>Ring the bell.')
  await expect(preview.getByText('Ring the bell.')).toBeVisible()
  await allSaved(page)
  await openView(page, 'Upload')
  await page.getByRole('button', { name: 'Send 1 file' }).click()
  await expect(page.getByRole('button', { name: 'Nothing to send' })).toBeVisible()
  expect(await (await request.get(`${live}contact.html`)).text()).toContain('Ring the bell.')
})

test('the demo goes live with all its pages, each with its own title and menu', async ({ page, request }) => {
  await page.goto('/')
  await page.getByRole('button', { name: 'Open the demo account' }).click()
  await page.getByRole('link', { name: 'Marrow Skerry Light' }).click()
  await openView(page, 'Upload')
  await expect(row(page, /^Marrow Skerry Light/)).toContainText('a different file')
  await page.getByRole('button', { name: 'Send 30 files' }).click()
  await expect(page.getByRole('button', { name: 'Nothing to send' })).toBeVisible()
  await openView(page, 'Plan')
  const paths = await page.locator('[role=row][data-page] [role=gridcell]:nth-of-type(3)').allTextContents()
  const pages = paths
    .map((text) => text.replace(/[\u2068\u2069]/g, '').trim())
    .filter((text) => text.endsWith('.html'))
  expect(pages).toHaveLength(21)
  const titles = new Set<string>()
  for (const path of pages) {
    const html = await (await request.get(practice.address + path)).text()
    titles.add(/<title>(.*)<\/title>/.exec(html)![1]!)
    for (const entry of [
      'Visit',
      'The light',
      'Birds',
      'Stay',
      'Café &amp; shop',
      'Support the light',
      'Contact',
    ])
      expect(html).toContain(`>${entry}</a></li>`)
  }
  expect(titles.size).toBe(21)
  expect(await (await request.get(practice.address)).text()).toContain('<h1>Marrow Skerry Light</h1>')
})

async function unzip(zip: Buffer): Promise<Map<string, Buffer>> {
  const { fromBuffer } = await import('yauzl')
  return new Promise((resolve, reject) => {
    fromBuffer(zip, { lazyEntries: true }, (error, archive) => {
      if (error) return reject(error)
      const files = new Map<string, Buffer>()
      archive.on('entry', (entry: { fileName: string }) => {
        archive.openReadStream(entry as never, (failed, stream) => {
          if (failed) return reject(failed)
          const parts: Buffer[] = []
          stream.on('data', (part: Buffer) => parts.push(part))
          stream.on('end', () => {
            files.set(entry.fileName, Buffer.concat(parts))
            archive.readEntry()
          })
        })
      })
      archive.on('end', () => resolve(files))
      archive.on('error', reject)
      archive.readEntry()
    })
  })
}
