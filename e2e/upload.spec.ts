import { mkdir, readdir, stat, writeFile } from 'node:fs/promises'
import path from 'node:path'
import { expect, test } from '@playwright/test'
import pg from 'pg'
import {
  addPracticeHost,
  allSaved,
  expectAccessible,
  makeSite,
  openView,
  practice,
  row,
  signUp,
  write,
} from './support'

test('a destination that cannot be reached is told in words, and nothing typed is lost', async ({ page }) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home\n  Visit')
  await openView(page, 'Upload')
  const fill = async (values: Record<string, string>) => {
    for (const [label, value] of Object.entries(values))
      await page.getByLabel(label, { exact: true }).fill(value)
    await page.getByRole('button', { name: 'Test the connection' }).click()
  }
  await fill({ 'Call it': 'Web space', Host: '127.0.0.1', Port: '9', Account: 'keeper', Password: 'wrong' })
  // The browser itself asks for the address first.
  await page.getByLabel(/^Public address/).fill('example.org')
  await page.getByRole('button', { name: 'Test the connection' }).click()
  await expect(page.getByRole('alert')).toContainText('with http:// or https:// in front')
  await page.getByLabel(/^Public address/).fill('http://127.0.0.1/')
  await fill({})
  await expect(page.getByRole('alert')).toContainText('No SFTP host answered at 127.0.0.1, port 9')
  await fill({ Host: 'no-such-host.invalid' })
  await expect(page.getByRole('alert')).toContainText('No SFTP host answered at no-such-host.invalid')
  await fill({ Host: '127.0.0.1', Port: practice.sftpPort })
  // The key alone is asked for: the password goes nowhere before it was accepted.
  await expect(page.getByText('The password has not been sent yet')).toBeVisible()
  await page.getByRole('button', { name: 'Accept the key and save' }).click()
  await expect(page.getByRole('alert')).toContainText('does not accept this account and password')
  await expect(page.getByLabel('Call it')).toHaveValue('Web space')
  await expectAccessible(page)
  await fill({ Password: practice.password })
  await expect(page.getByText('The host answers')).toBeVisible()
  // A change makes the test void: it has to be made again before anything is saved.
  await page.getByLabel(/^Folder/).fill('public/other')
  await expect(page.getByRole('button', { name: 'Test the connection' })).toBeVisible()
})

test('what is there beside the site is shown, and what the site no longer has removed when asked', async ({
  page,
}) => {
  await signUp(page)
  const siteId = await makeSite(page, 'Saltpan Chapel', 'Home\n  Visit\n  Contact')
  const folder = path.join(practice.folder, siteId)
  await mkdir(folder, { recursive: true })
  await writeFile(path.join(folder, 'default.htm'), 'somebody else’s')
  await openView(page, 'Upload')
  await addPracticeHost(page, `public/${siteId}`)
  await expect(page.getByRole('region', { name: 'Also there' })).toContainText('default.htm')
  await page.getByRole('button', { name: 'Send 4 files' }).click()
  await expect(page.getByRole('button', { name: 'Nothing to send' })).toBeVisible()

  await openView(page, 'Plan')
  await row(page, /Contact/).click()
  await page.keyboard.press('Delete')
  await page.keyboard.press('Enter')
  await allSaved(page)
  await openView(page, 'Upload')
  await expect(page.getByRole('region', { name: 'Also there' })).toContainText('contact.html')
  await page.getByLabel('Remove the one file there that the site no longer has').check()
  await page.getByRole('button', { name: /^Send \d files/ }).click()
  await expect(page.getByRole('region', { name: 'Earlier deliveries' })).toContainText('1 removed')
  expect((await readdir(folder)).sort()).toEqual(['default.htm', 'index.html', 'styles', 'visit.html'])

  // Somebody changes a file there; a new look tells.
  await writeFile(path.join(folder, 'visit.html'), 'changed by hand')
  // While that takes a while it can be stopped, and begun again.
  await page.route('**/compare?*', () => {}, { times: 1 })
  await page.getByRole('button', { name: 'Compare again' }).click()
  await expect(page.getByRole('progressbar', { name: 'Compared so far' })).toBeVisible()
  await expectAccessible(page)
  await page.getByRole('button', { name: 'Stop comparing' }).click()
  await expect(row(page, /Visit/)).not.toContainText('changed there')
  await page.getByRole('button', { name: 'Compare again' }).click()
  await expect(row(page, /Visit/)).toContainText('changed there')
})

test('a template that is changed is changed on every page', async ({ page }) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home\n  Visit\n    Tides')
  await row(page, /Tides/).click()
  await openView(page, 'Template')
  const source = page.getByRole('textbox', { name: 'Source of Shared template' })
  const result = page.getByRole('textbox', { name: 'HTML of the page that results' })
  await expect(result).toContainText('<title>Tides – Saltpan Chapel</title>')
  await source.click()
  // In front of the first line of the body: the editor shows only what fits.
  await page.keyboard.press('Control+Home')
  for (let line = 0; line < 10; line++) await page.keyboard.press('ArrowDown')
  await page.keyboard.insertText('    <p>Set in {language} by {site}.</p>\n')
  await expect(result).toContainText('Set in en by Saltpan Chapel.')
  await page.getByLabel('Title pattern', { exact: true }).fill('{site}: {page}')
  await page.keyboard.press('Enter')
  await expect(result).toContainText('<title>Saltpan Chapel: Tides</title>')
  await row(page, /Visit/).click()
  await expect(result).toContainText('Set in en by Saltpan Chapel.')
  await allSaved(page)
})

test('what a host does otherwise is said, and what it cannot take before it is sent', async ({ page }) => {
  await signUp(page)
  const siteId = await makeSite(page, 'Tern Watch', 'Home\n  Terns\n  Where the young terns are ringed')
  await openView(page, 'Upload')
  await page.getByRole('button', { name: 'Use the practice host on this computer' }).click()
  await expect(page.getByRole('heading', { name: 'Practice host' })).toBeVisible()
  await expect(page.getByText('This host')).toHaveCount(0)
  // As though it had shown itself so when it was tried.
  const database = new pg.Client({ connectionString: process.env.DATABASE_URL })
  await database.connect()
  await database.query(
    `UPDATE web_hosts w SET traits = $2 FROM destinations d WHERE d.web_host_id = w.id AND d.site_id = $1`,
    [siteId, { tellsCase: false, longestName: 20 }],
  )
  await database.end()
  await openView(page, 'Plan')
  await openView(page, 'Upload')
  await expect(
    page.getByText('This host takes About.html and about.html for one file, and takes names'),
  ).toBeVisible()
  await expect(page.getByText(/where-the-young-terns.*has a name of more than 20 letters/)).toBeVisible()
  await expectAccessible(page)
  await page.getByRole('main').getByRole('link', { name: 'Names' }).click()
  await page.waitForURL('**/names')
})

test('who has no way to a host but by hand takes a ZIP, and then what has changed since', async ({ page }) => {
  await signUp(page)
  await makeSite(page, 'Tern Watch', 'Home\n  Terns\n  Skuas')
  await openView(page, 'Upload')
  const open = async () => {
    await page.getByRole('button', { name: 'take the site as a ZIP' }).click()
    return page.getByRole('dialog', { name: 'The site as files' })
  }
  const take = async (name: string | RegExp) => {
    const [taken] = await Promise.all([
      page.waitForEvent('download'),
      (await open()).getByRole('link', { name }).click(),
    ])
    return { name: taken.suggestedFilename(), size: (await stat(await taken.path())).size }
  }
  const first = await open()
  await expect(first.getByText('4 files')).toBeVisible()
  await expect(first.getByText(/what changes from then on/)).toBeVisible()
  await expectAccessible(page)
  await page.keyboard.press('Escape')
  const whole = await take('The whole site')
  expect(whole.name).toBe('tern-watch.zip')
  await expect(async () => {
    await expect((await open()).getByText(/No file has changed since you took it, today/)).toBeVisible({ timeout: 2_000 })
  }).toPass()
  await page.keyboard.press('Escape')
  await openView(page, 'Pages')
  await write(page, 'Skuas', '<p>Mind your head.</p>')
  await openView(page, 'Upload')
  const dialog = await open()
  await expect(dialog.getByText('1 file,')).toBeVisible()
  await page.keyboard.press('Escape')
  const changed = await take(/^What changed since today/)
  expect(changed.name).toBe('tern-watch-changed.zip')
  expect(changed.size).toBeLessThan(whole.size / 2)
}) // prettier-ignore

test('a new site goes to the practice host with two clicks, and over FTP with TLS to what a letter says', async ({ page }) => {
  await signUp(page)
  await makeSite(page, 'Tern Watch', 'Home\n  Terns')
  await openView(page, 'Upload')
  await expectAccessible(page)
  await page.getByRole('button', { name: 'Use the practice host on this computer' }).click()
  await expect(page.getByRole('heading', { name: 'Practice host' })).toBeVisible()
  await page.getByRole('button', { name: /^Send \d+ files/ }).click()
  await expect(page.getByRole('button', { name: 'Nothing to send' })).toBeVisible({ timeout: 20_000 })
  const address = await page.getByRole('link', { name: /127\.0\.0\.1:\d+\/~author-/ }).first().getAttribute('href')
  expect(await (await fetch(new URL('terns.html', address!))).text()).toContain('<h1>Terns</h1>')

  // What was sent is asked for at once; all of it, when its author wants to know.
  await expect(page.getByText(/visitors get all \d+ files as they were sent/)).toBeVisible({ timeout: 20_000 })
  // It is kept with the delivery.
  await page.reload()
  await expect(page.getByText(/visitors get all \d+ files as they were sent/)).toBeVisible()
  await writeFile(practice.placeOf(new URL('terns.html', address!).href), 'changed by somebody')
  await page.getByRole('button', { name: 'Look again' }).click()
  await expect(page.getByText(/Visitors get another file than was sent/)).toBeVisible({ timeout: 20_000 })
  await expectAccessible(page)

  // Another one, from what its host wrote.
  const folder = `letter-${Date.now()}`
  await page.getByRole('button', { name: 'Add another' }).click()
  await page
    .getByLabel(/^What your host wrote/)
    .fill(`Dear author,\nFTP server: 127.0.0.1:${practice.ftpPort}\nEncryption: explicit TLS\nUser name: keeper\nPassword: ${practice.password}\nWeb directory: public/${folder}\nWebsite: ${practice.address}${folder}/`)
  await expect(page.getByText('Found: protocol, host, port, account, password, folder, public address.')).toBeVisible()
  await expect(page.getByLabel('Protocol')).toHaveValue('ftps')
  await page.getByLabel('Call it').fill('By letter')
  await page.getByRole('button', { name: 'Test the connection' }).click()
  await expect(page.getByText(/Nobody vouches for the host’s certificate for this name\. Its fingerprint is SHA256:/)).toBeVisible()
  await expectAccessible(page)
  await page.getByRole('button', { name: 'Accept the key and save' }).click()
  await expect(page.getByText(/^FTP with TLS to/)).toBeVisible()
  await page.getByRole('button', { name: /^Send \d+ files/ }).click()
  await expect(page.getByRole('button', { name: 'Nothing to send' })).toBeVisible({ timeout: 20_000 })
  expect(String(await practice.file(`${folder}/terns.html`))).toContain('<h1>Terns</h1>')

  // A second site is offered both, each with one click.
  await makeSite(page, 'Skua Watch', 'Home')
  await openView(page, 'Upload')
  await expect(page.getByText(`public/${folder}/skua-watch`)).toBeVisible()
  await expectAccessible(page)
  await page.getByRole('button', { name: 'Use By letter' }).click()
  await expect(page.getByRole('button', { name: /^Send \d+ files/ })).toBeVisible({ timeout: 20_000 })
  await page.getByRole('button', { name: /^Send \d+ files/ }).click()
  await expect(page.getByRole('button', { name: 'Nothing to send' })).toBeVisible({ timeout: 20_000 })
  expect(String(await practice.file(`${folder}/skua-watch/index.html`))).toContain('Skua Watch')
}) // prettier-ignore

test('the way to a host is found: what it speaks, the folder visitors see, and a key instead of a password', async ({ page }) => {
  await signUp(page)
  await makeSite(page, 'Dunlin Watch', 'Home')
  await openView(page, 'Upload')
  await page.getByLabel('Call it').fill('By key')
  await page.getByLabel('Host', { exact: true }).fill('127.0.0.1')
  await page.getByLabel('Port').fill(practice.sftpPort)
  await page.getByLabel('Protocol').selectOption('ftp')
  await page.getByLabel('Port').fill(practice.sftpPort)
  await page.getByLabel('Account', { exact: true }).fill('keeper')
  await page.getByLabel(/^Public address/).fill(`${practice.address}dunlins/`)
  await page.getByRole('button', { name: 'Find out what the host speaks' }).click()
  await expect(page.getByLabel('Protocol')).toHaveValue('sftp', { timeout: 20_000 })
  await expect(page.getByText(/SHA256:/)).toBeVisible({ timeout: 20_000 })
  await page.getByLabel('Sign in with').selectOption('made-key')
  const key = page.getByLabel('Public key')
  await expect(key).toContainText(/^ssh-ed25519 /)
  await expectAccessible(page)
  const list = path.join(practice.folder, '..', '.ssh')
  await mkdir(list, { recursive: true })
  await writeFile(path.join(list, 'authorized_keys'), `${await key.textContent()}\n`)
  await page.getByRole('button', { name: 'Test the connection' }).click()
  await expect(page.getByText('Nothing has been signed yet')).toBeVisible()
  await page.getByRole('button', { name: 'Find the folder visitors see' }).click()
  await expect(page.getByLabel(/^Folder/)).toHaveValue('public/dunlins', { timeout: 20_000 })
  await page.getByRole('button', { name: 'Accept the key and save' }).click()
  await page.getByRole('button', { name: /^Send \d+ files/ }).click()
  await expect(page.getByRole('button', { name: 'Nothing to send' })).toBeVisible({ timeout: 20_000 })
  expect(String(await practice.file('dunlins/index.html'))).toContain('Dunlin Watch')
}) // prettier-ignore
