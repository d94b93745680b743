import { readFile } from 'node:fs/promises'
import { expect, type Page, test } from '@playwright/test'
import {
  addPracticeHost,
  allSaved,
  expectAccessible,
  makeSite,
  openView,
  practice,
  row,
  signUp,
} from './support'

const plan = 'Saltpan Chapel\n  The visit\n    Getting here\n  The bell\n  Contact'

async function choose(page: Page, what: RegExp, words: string | RegExp) {
  await page.getByRole('button', { name: what }).click()
  await page.getByRole('menuitemradio', { name: words }).click()
}

test('a scheme is tried beside the one in use, shows its ripple, is applied, undone and kept', async ({
  page,
}) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', plan)
  await row(page, /Contact/).click()
  await openView(page, 'Pages')
  await page.getByRole('textbox', { name: 'Content of Contact' }).click()
  await page.keyboard.insertText('<p>\n<a href="/the-visit/getting-here.html">way</a></p>')
  await expect(page.frameLocator('iframe').getByRole('link', { name: 'way' })).toBeVisible()
  await allSaved(page)

  await openView(page, 'Names')
  await choose(page, /^Arrangement/, /all pages together/)
  await page.getByRole('button', { name: /^Words left out/ }).click()
  await page.getByRole('textbox', { name: 'Words left out' }).fill('the, a')
  await expectAccessible(page)
  await page.keyboard.press('Enter')
  await page.getByRole('button', { name: /^Longest name/ }).click()
  const longest = page.getByRole('textbox', { name: 'Longest name' })
  await longest.fill('2')
  await expect(page.getByRole('alert')).toHaveText('A number from 3 to 100.')
  await longest.fill('30')
  await longest.press('Enter')
  await expect(page.getByRole('button', { name: 'Longest name: 30 letters' })).toBeVisible()
  await expect(row(page, /The visit/)).toContainText('visit.html')
  await expect(row(page, /Getting here/)).toContainText('the-visit/getting-here.html')
  await expect(page.getByText('With this scheme 3 files change name, 1 link is rewritten.')).toBeVisible()
  await page.getByText('Show every file and line').click()
  await expect(page.getByRole('region', { name: 'Files and lines that change' })).toContainText(
    'contact.html:2',
  )
  await expectAccessible(page)
  await page.getByRole('button', { name: 'Use this scheme' }).click()
  await allSaved(page)
  await expect(row(page, /Getting here/)).toContainText('getting-here.html')
  await page.reload()
  await page.getByLabel('Keep this scheme as').fill('For the class')
  await page.getByRole('button', { name: 'Keep it' }).click()
  await expect(page.getByRole('button', { name: 'Forget For the class' })).toBeVisible()
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save as a file' }).click(),
  ])
  const file = await readFile(await download.path(), 'utf8')
  expect(JSON.parse(file)).toMatchObject({
    format: 'naming scheme',
    version: 1,
    name: 'For the class',
    scheme: { leaveOut: ['the', 'a'] },
  })
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(row(page, /Getting here/)).toContainText('the-visit/getting-here.html')

  // The next site begins with it.
  await page.goto('/sites/new')
  await page.getByLabel('The site is called').fill('Lime Kiln')
  await page.getByRole('button', { name: /^Naming scheme/ }).click()
  await page.getByRole('menuitemradio', { name: 'For the class' }).click()
  await page
    .getByLabel('Its pages, one a line, indented under each other')
    .fill('Home\n  The works\n    A kiln')
  await page.getByRole('button', { name: 'Make this site' }).click()
  await expect(row(page, /A kiln/)).toContainText('kiln.html')
  await expect(row(page, /The works/)).toContainText('works.html')

  // The file is taken in by another account, and a wrong one refused with the reason.
  await page.goto('/sites')
  await page.getByRole('button', { name: 'Sign out' }).click()
  await signUp(page)
  await makeSite(page, 'Lime Kiln', 'Home\n  The kiln')
  await openView(page, 'Names')
  await page.getByLabel('Read one from a file: the file').setInputFiles({
    name: 'scheme.json',
    mimeType: 'application/json',
    buffer: Buffer.from(file),
  })
  await page.getByRole('button', { name: 'Try it here' }).click()
  await expect(row(page, /The kiln/)).toContainText('kiln.html')
  await page.getByLabel('Read one from a file: the file').setInputFiles({
    name: 'bad.json',
    mimeType: 'application/json',
    buffer: Buffer.from(file.replace('".html"', '".exe"')),
  })
  await expect(page.getByRole('alert')).toContainText('This is no naming scheme')
})

test('a name explains itself; an own name is checked as it is typed, marked, and given back', async ({
  page,
}) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', plan)
  await row(page, /The bell/).click()
  await openView(page, 'Names')
  const ladder = page.getByRole('region', { name: 'How this name came about' })
  await expect(ladder).toContainText('the-bell.html')
  await ladder.getByRole('button', { name: 'joined with a hyphen' }).click()
  await page.getByRole('menuitemradio', { name: 'an underscore' }).click()
  await expect(ladder).toContainText('the_bell.html')
  await page.getByRole('button', { name: 'Keep the old one' }).click()
  await choose(page, /^Name: follows/, 'is its own…')
  await page.getByLabel('is its own,').fill('bell tower')
  await expect(ladder.getByRole('alert')).toContainText('%20')
  await ladder.getByRole('button', { name: 'Use bell-tower' }).click()
  await ladder.getByRole('button', { name: 'Use it' }).click()
  await expect(row(page, /The bell/)).toContainText('bell-tower.html')
  await expect(row(page, /The bell/)).toContainText('own')
  await choose(page, /^Name: is its own/, 'follows the scheme')
  await expect(row(page, /The bell/)).toContainText('the-bell.html')
})

test('an address that was delivered stays with a new label, and forwards once it is changed', async ({
  page,
  request,
}) => {
  await signUp(page)
  const siteId = await makeSite(page, 'Saltpan Chapel', plan)
  await openView(page, 'Upload')
  await addPracticeHost(page, `public/${siteId}`)
  await page.getByRole('button', { name: /^Send \d+ files/ }).click()
  await expect(page.getByRole('button', { name: 'Nothing to send' })).toBeVisible()
  await openView(page, 'Plan')
  await row(page, /The bell/).click()
  await page.keyboard.press('F2')
  await page.keyboard.type('Ringing')
  await page.keyboard.press('Enter')
  await expect(page.getByText('keeps its address')).toBeVisible()
  await expect(row(page, /Ringing/)).toContainText('the-bell.html')
  // Pressed before it is told what comes of it, it would be asked about again.
  await expect(page.getByText(/If it changes: /)).toBeVisible()
  await page.getByRole('button', { name: 'Change the address too' }).click()
  await expect(row(page, /Ringing/)).toContainText('ringing.html')
  await allSaved(page)
  await openView(page, 'Names')
  await expect(page.getByRole('region', { name: 'Forwarding pages' })).toContainText('the-bell.html')
  await openView(page, 'Upload')
  await page.getByRole('button', { name: /^Send \d+ files/ }).click()
  await expect(page.getByRole('button', { name: 'Nothing to send' })).toBeVisible()
  // Moving it under another page would change the address again: that is asked first.
  await openView(page, 'Plan')
  await row(page, /Contact/).click()
  await page.keyboard.press('Tab')
  await expect(page.getByRole('group', { name: 'Move' })).toContainText(
    '2 published addresses change, and the old ones forward',
  )
  await page.getByRole('button', { name: 'Leave it' }).click()
  await expect(row(page, /Contact/)).toHaveAttribute('aria-level', '1')
  const live = `${practice.address}${siteId}/`
  expect(await (await request.get(`${live}the-bell.html`)).text()).toContain('url=ringing.html')
  await page.goto(`${live}the-bell.html`)
  await expect(page).toHaveURL(`${live}ringing.html`)
})

test('a section is dated, files are numbered, and each kind of host is told about', async ({ page }) => {
  await signUp(page)
  await makeSite(
    page,
    'Tern Watch',
    'Tern Watch\n  Counts\n    14 June 2025, second count\n    First count\n  Contact',
  )
  await row(page, /^1 Counts/).click()
  await choose(page, /^Names of its pages/, /with a date in front/)
  await expect(row(page, /second count/)).toContainText('counts/2025-06-14-second-count.html')
  await row(page, /First count/).click()
  await page.getByRole('button', { name: 'Date of this page: not known' }).click()
  const date = page.getByRole('textbox', { name: 'Date of this page' })
  await date.fill('June')
  await expect(page.getByRole('alert')).toContainText('2025-06-14')
  await date.fill('2024-05')
  await date.press('Enter')
  await expect(row(page, /First count/)).toContainText('counts/2024-05-first-count.html')
  await allSaved(page)

  await openView(page, 'Names')
  const hosts = page.getByRole('region', { name: 'What hosts make of it' })
  for (const kind of [/^case kept/, /^case not told apart/, /^the strictest rules/]) {
    await choose(page, /^Kind of host/, kind)
    await expect(hosts).toContainText('all names are safe')
  }
  await choose(page, /^Numbers/, /a number in plan order/)
  await expect(row(page, /Contact/)).toContainText('02-contact.html')
  await choose(page, /^Letters outside ASCII/, /as they are/)
  await page.getByRole('button', { name: /^Longest name/ }).click()
  await page.getByRole('textbox', { name: 'Longest name' }).fill('100')
  await page.keyboard.press('Enter')
  await page.getByRole('button', { name: 'Fit the scheme to such hosts' }).click()
  await expect(page.getByRole('button', { name: 'Longest name: 26 letters' })).toBeVisible()
  await expect(page.getByRole('button', { name: 'Letters outside ASCII: in plain ASCII' })).toBeVisible()
  await page.getByRole('button', { name: 'Use this scheme' }).click()
  await expect(row(page, /Contact/)).toContainText('02-contact.html')
  await allSaved(page)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(row(page, /Contact/)).not.toContainText('02-')
})
