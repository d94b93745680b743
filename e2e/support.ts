import { readFile } from 'node:fs/promises'
import path from 'node:path'
import { expect, type Locator, type Page } from '@playwright/test'
import axe from 'axe-core'

let accounts = 0

const password = 'three wet herons'
const newEmail = () => `author${++accounts}.${process.pid}.${Date.now()}@saltpan.example`

/**
 * Makes an account of its own for a test and signs in with it, as the two forms ask it of the server.
 * @param origin of the process that is asked, where it is another than the tests share
 */
export async function signUp(
  page: Page,
  origin = process.env.E2E_ADDRESS!,
): Promise<{ email: string; password: string }> {
  const email = newEmail()
  const form = { email, password, next: '' }
  for (const path of ['/sign-up', '/sign-in']) {
    const answer = await page.request.post(path, {
      form,
      headers: { origin },
      maxRedirects: 0,
    })
    expect(answer.status(), path).toBe(302)
  }
  return { email, password }
}

/** The same by hand; the sites are open afterwards. */
export async function signUpByHand(page: Page): Promise<{ email: string; password: string }> {
  const email = newEmail()
  await page.goto('/sign-up')
  await page.getByLabel('E-mail address').fill(email)
  await page.getByLabel('Password').fill(password)
  await page.getByRole('button', { name: 'Make the account' }).click()
  await expect(page.getByRole('status')).toContainText('Your address has an account now')
  await page.getByLabel('E-mail address').fill(email)
  await page.getByLabel('Password').fill(password)
  await page.getByRole('button', { name: 'Sign in' }).click()
  await page.waitForURL('**/sites')
  return { email, password }
}

/** Signs in again where a window says that it is signed out: in a tab of its own, which closes itself. */
export async function signInAgain(page: Page, email: string, word = password): Promise<void> {
  const [tab] = await Promise.all([
    page.waitForEvent('popup'),
    page.getByRole('link', { name: 'Sign in again' }).click(),
  ])
  const isClosed = tab.waitForEvent('close')
  await tab.getByLabel('E-mail address').fill(email)
  await tab.getByLabel('Password').fill(word)
  await tab.getByRole('button', { name: 'Sign in' }).click()
  await isClosed
  await expect(page.getByRole('link', { name: 'Sign in again' })).toBeHidden()
}

/** Waits until a page that was loaded hears what is pressed in it: React listens at its document then. */
const listens = (page: Page) =>
  page.waitForFunction(() => Object.keys(document).some((key) => key.startsWith('_reactListening')))

/** Makes a site from a typed plan, as the form asks it of the server; the Plan view is open afterwards. */
export async function makeSite(page: Page, name: string, plan: string): Promise<string> {
  const answer = await page.request.post('/sites/new', {
    form: { name, plan },
    headers: { origin: process.env.E2E_ADDRESS! },
    maxRedirects: 0,
  })
  expect(answer.status(), await answer.text()).toBe(302)
  const path = answer.headers().location!
  await page.goto(path)
  // What is pressed and typed next is for a window that listens.
  await listens(page)
  return /\/sites\/([^/]+)/.exec(path)![1]!
}

/** The same by hand. */
export async function makeSiteByHand(page: Page, name: string, plan: string): Promise<string> {
  await page.goto('/sites/new')
  await page.getByLabel('The site is called').fill(name)
  await page.getByLabel('Its pages, one a line, indented under each other').fill(plan)
  await page.getByRole('button', { name: 'Make this site' }).click()
  await page.waitForURL('**/plan')
  return /\/sites\/([^/]+)/.exec(page.url())![1]!
}

export const row = (page: Page, label: string | RegExp) => page.getByRole('row', { name: label }).first()

/** Where a page's own text is written. */
export const editor = (page: Page, label: string) =>
  page.getByRole('textbox', { name: `Content of ${label}` })

/** Writes a page's text anew, in the view where pages are written. */
export async function write(page: Page, label: string, html: string): Promise<void> {
  await row(page, new RegExp(label)).click()
  await editor(page, label).click()
  await page.keyboard.press('Control+a')
  await page.keyboard.insertText(html)
  await allSaved(page)
}

/** Pastes, as another program has put it on the clipboard: texts by their media types. */
export const paste = (into: Locator, data: Readonly<Record<string, string>>): Promise<void> =>
  into.evaluate((element, given) => {
    const clipboardData = new DataTransfer()
    for (const [type, value] of Object.entries(given)) clipboardData.setData(type, value)
    element.dispatchEvent(new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }))
  }, data)

/** Pastes a file, which is taken as a dropped one is. */
export const pasteFile = (into: Locator, name: string, bytes: Uint8Array, type = ''): Promise<void> =>
  into.evaluate(
    (element, given) => {
      const content = Uint8Array.from(atob(given.base64), (letter) => letter.charCodeAt(0))
      const clipboardData = new DataTransfer()
      clipboardData.items.add(new File([content], given.name, { type: given.type }))
      element.dispatchEvent(new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }))
    },
    { name, type, base64: Buffer.from(bytes).toString('base64') },
  )

/** Opens a view, and waits until it is there: what a key does depends on the view that is open. */
export async function openView(page: Page, view: string): Promise<void> {
  const link = page
    .getByRole('navigation', { name: 'Views' })
    .getByRole('link', { name: new RegExp(`^${view}`) })
  await link.click()
  await expect(link).toHaveAttribute('aria-current', 'page')
}

/** Waits until nothing is on its way to the server. */
export const allSaved = (page: Page) => expect(page.getByText(/^(Saved \d|All saved)/)).toBeVisible()

/** Waits until the register shows these labels, in this order. */
export const expectLabels = (page: Page, expected: string[]) =>
  expect.poll(() => labels(page)).toEqual(expected)

/** Labels of the register, in order. */
const labels = async (page: Page): Promise<string[]> =>
  (await page.locator('[role=row][data-page] [role=gridcell]:nth-of-type(2)').allTextContents()).map((text) =>
    text.trim(),
  )

/** Another window of the same browser on the same page. */
export const again = async (page: Page) => {
  const other = await page.context().newPage()
  await other.goto(page.url())
  await expect(other.getByRole('treegrid', { name: 'Pages' })).toBeVisible()
  return other
}

/** What the practice host of this run is called from outside. */
export const practice = {
  sftpPort: process.env.PRACTICE_SFTP_PORT!,
  ftpPort: process.env.PRACTICE_FTP_PORT!,
  address: `http://127.0.0.1:${process.env.PRACTICE_WEB_PORT}/`,
  password: process.env.PRACTICE_PASSWORD!,
  folder: path.join(process.env.E2E_PRACTICE_FOLDER ?? '', 'space', 'public'),
  file: (name: string) => readFile(path.join(practice.folder, name)),
  /** Where the file stands that an address of the practice host shows, `/~author-…/…` among them. */
  placeOf: (address: string) => {
    const [, account, rest] = /^\/(?:~([^/]+)\/)?(.*)$/.exec(new URL(address).pathname)!
    const space = account === undefined ? 'space' : path.join('accounts', account)
    return path.join(process.env.E2E_PRACTICE_FOLDER ?? '', space, 'public', rest!)
  },
}

/** Fills the form of a destination at the practice host, tests it and saves it. */
export async function addPracticeHost(page: Page, folder: string): Promise<void> {
  await page.getByLabel('Call it').fill('Practice host')
  await page.getByLabel('Host', { exact: true }).fill('127.0.0.1')
  await page.getByLabel('Port').fill(practice.sftpPort)
  await page.getByLabel('Account', { exact: true }).fill('keeper')
  await page.getByLabel('Password', { exact: true }).fill(practice.password)
  await page.getByLabel(/^Folder/).fill(folder)
  await page.getByLabel(/^Public address/).fill(`${practice.address}${folder.replace(/^public\/?/, '')}`)
  await page.getByRole('button', { name: 'Test the connection' }).click()
  await expect(page.getByText(/SHA256:/)).toBeVisible()
  await page.getByRole('button', { name: 'Accept the key and save' }).click()
  await expect(page.getByRole('heading', { name: 'Practice host' })).toBeVisible()
}

/** No violation of what axe can find, on the page as it stands. */
export async function expectAccessible(page: Page): Promise<void> {
  await page.evaluate(axe.source)
  const look = () =>
    page.evaluate(async () => {
      const { axe: loaded } = window as unknown as { axe: typeof axe }
      const found = await loaded.run(document, { iframes: false })
      return found.violations.map(
        (one) => `${one.id}: ${one.nodes.map((node) => node.html.slice(0, 160)).join(' | ')}`,
      )
    })
  const violations = await look().catch((error: Error) => {
    // It fails itself where something goes from the page while it names it: what is there then is looked at.
    if (!error.message.includes("reading 'nthChild'")) throw error
    return look()
  })
  expect(violations).toEqual([])
}

/** Chooses a word of a sentence. A page that was only just loaded may not listen yet. */
export async function pick(page: Page, label: string, words: RegExp): Promise<void> {
  const item = page.getByRole('menuitemradio', { name: words })
  await expect(async () => {
    await page.getByRole('button', { name: new RegExp(`^${label}`) }).click()
    await expect(item).toBeVisible({ timeout: 1_000 })
  }).toPass()
  await item.click()
}

/**
 * Drops files and folders of the disk onto an element, as a hand does that carries them in from outside of the window.
 * @param held what has to come about while they are over the window
 */
export async function dropFromDisk(
  page: Page,
  onto: Locator,
  paths: readonly string[],
  held: () => Promise<void> = async () => {},
): Promise<void> {
  const session = await page.context().newCDPSession(page)
  const data = { items: [], files: [...paths], dragOperationsMask: 1 }
  const send = (type: 'dragEnter' | 'dragOver' | 'drop', x: number, y: number) =>
    session.send('Input.dispatchDragEvent', { type, x, y, data })
  await page.evaluate(() =>
    addEventListener('dragover', ({ clientX, clientY }) => {
      document.documentElement.dataset.over = `${clientX} ${clientY}`
    }, true),
  ) // prettier-ignore
  const box = (await onto.boundingBox())!
  const [x, y] = [Math.round(box.x + box.width / 2), Math.round(box.y + box.height / 2)]
  await send('dragEnter', 700, 5)
  await send('dragOver', 700, 10)
  await held()
  // The browser learns a moment later than the page what takes what is over it: whoever drags is slower than that.
  const over = page.locator('html')
  for (const _ of ['there', 'and seen to be'])
    await expect(async () => {
      await over.evaluate((html) => html.removeAttribute('data-over'))
      await send('dragOver', x, y)
      await expect(over).toHaveAttribute('data-over', `${x} ${y}`, { timeout: 200 })
    }).toPass()
  await send('drop', x, y)
  await session.detach()
}

/** Unfolds the files below the register. */
export const openFiles = (page: Page) => page.getByRole('button', { name: /^\d+ files?$/ }).click()

export const fileRow = (page: Page, path: string) =>
  page.getByRole('region', { name: 'Files', exact: true }).getByRole('button', { name: path })
