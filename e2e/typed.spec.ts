import { expect, type Page, test } from '@playwright/test'
import {
  again,
  allSaved,
  editor,
  expectAccessible,
  fileRow,
  makeSite,
  openView,
  row,
  signInAgain,
  signUp,
} from './support'

const plan = 'Home\n  Visit\n  Contact'
const openPage = async (page: Page, label: string) => {
  await openView(page, 'Pages')
  await row(page, new RegExp(label)).click()
  await expect(editor(page, label)).toBeVisible()
}

test('what is typed is there again, however the window went away', async ({ page }) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', plan)
  await openPage(page, 'Visit')

  // Closed in the middle of a word, with no pause since the first letter.
  await editor(page, 'Visit').click()
  await page.keyboard.type('<p>The first sentence, without a pause</p>', { delay: 20 })
  const second = await again(page)
  await page.close({ runBeforeUnload: false })
  await expect(editor(second, 'Visit')).toContainText('without a pause')
  await allSaved(second)

  // Reloaded at once, a title in its line and a label in its row.
  await second.getByLabel('Title').fill('Come and see')
  await second.reload()
  await expect(second.getByLabel('Title')).toHaveValue('Come and see')
  await openView(second, 'Plan')
  await row(second, /Contact/).click()
  await second.keyboard.press('F2')
  await second.keyboard.type('Write to us')
  await second.reload()
  await expect(row(second, /Write to us/)).toBeVisible()

  // Typed offline and closed: there at the next visit.
  await openPage(second, 'Visit')
  await second.context().setOffline(true)
  await editor(second, 'Visit').click()
  await second.keyboard.press('Control+End')
  await second.keyboard.insertText('<p>on the boat</p>')
  await expect(second.getByText('Not saved: no connection')).toBeVisible()
  const address = second.url()
  const context = second.context()
  await second.close({ runBeforeUnload: false })
  await context.setOffline(false)
  const third = await context.newPage()
  await third.goto(address)
  await expect(editor(third, 'Visit')).toContainText('on the boat')
  await allSaved(third)
})

test('what is done in a window that is signed out waits until its own account is back', async ({
  page,
  browser,
}) => {
  const { email } = await signUp(page)
  const siteId = await makeSite(page, 'Saltpan Chapel', plan)
  await openPage(page, 'Visit')
  await page.request.post('/sign-out', { headers: { origin: process.env.E2E_ADDRESS! } })

  await editor(page, 'Visit').click()
  await page.keyboard.type('<p>typed over night</p>')
  const notice = page.getByRole('alert').filter({ hasText: 'You are signed out. What you do here is kept' })
  await expect(notice).toBeVisible()
  await expectAccessible(page)
  await page.getByLabel('Files to add').setInputFiles({
    name: 'Tide Table.csv', mimeType: 'text/csv', buffer: Buffer.from('a,b\n'),
  }) // prettier-ignore
  await expect(page.getByText('goes on when you are signed in')).toBeVisible()

  // Somebody else signs in beside it, who writes in the same site: nothing is done in their name.
  const other = await signUp(page)
  await expect(page.getByRole('alert').filter({ hasText: other.email })).toBeVisible()
  await openView(page, 'Plan')
  await row(page, /Contact/).click()
  await page.keyboard.press('F2')
  await page.keyboard.type('Write to us')
  await page.keyboard.press('Enter')
  await expect(page.getByText('You are signed out in this browser.')).toBeVisible()
  await openView(page, 'Names')
  await expect(page.getByText('What you kept cannot be shown now')).toBeVisible()
  const theirs = await page.request.get(`/sites/${siteId}/changes?seen=0`)
  expect(theirs.status()).toBe(404)

  await signInAgain(page, email)
  await allSaved(page)
  await expect(page.getByText('What you kept cannot be shown now')).toBeHidden()
  await expect(fileRow(page, 'documents/tide-table.csv')).toBeVisible()
  const elsewhere = await browser.newPage({ storageState: await page.context().storageState() })
  await elsewhere.goto(page.url())
  await expect(row(elsewhere, /Write to us/)).toBeVisible()
  await openPage(elsewhere, 'Visit')
  await expect(editor(elsewhere, 'Visit')).toContainText('typed over night')
  await elsewhere.close()
})

test('typing without a pause is sent at least every two seconds', async ({ page }) => {
  await signUp(page)
  const siteId = await makeSite(page, 'Saltpan Chapel', plan)
  await openPage(page, 'Visit')
  let sent = 0
  page.on('request', (request) => {
    if (request.method() === 'POST' && request.url().includes(`${siteId}/changes`)) sent += 1
  })
  await editor(page, 'Visit').click()
  await page.keyboard.type('x'.repeat(60), { delay: 110 })
  expect(sent).toBeGreaterThanOrEqual(2)
})

test('a text that two windows wrote stays until its author decides, over another page and a reload', async ({
  page,
}) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', plan)
  await openPage(page, 'Visit')
  const other = await again(page)
  await row(other, /Visit/).click()
  // The second window hears nothing of the first while it types.
  await other.route('**/changes**', (route) => route.abort())
  await editor(other, 'Visit').click()
  await other.keyboard.insertText('<p>second</p>')
  await editor(page, 'Visit').click()
  await page.keyboard.insertText('<p>first</p>')
  await allSaved(page)
  await other.unroute('**/changes**')
  const notice = other.getByText('This text was changed in another window.')
  await expect(notice).toBeVisible({ timeout: 15_000 })
  await expect(other.getByText('A text here is not saved')).toBeVisible()

  await row(other, /Contact/).click()
  await expect(notice).toBeHidden()
  await row(other, /Visit/).click()
  await expect(notice).toBeVisible()
  await expect(editor(other, 'Visit')).toContainText('second')
  // The address follows what is chosen a moment later.
  const visit = await row(other, /Visit/).getAttribute('data-page')
  await other.waitForURL(`**page=${visit}`)
  await other.reload()
  await expect(notice).toBeVisible()
  await expect(editor(other, 'Visit')).toContainText('second')
  await other.getByRole('button', { name: 'Save mine over it' }).click()
  await allSaved(other)
  await expect(editor(page, 'Visit')).toContainText('second')
})

test('a new site keeps its plan when the server cannot make it, and is made once', async ({ page }) => {
  await signUp(page)
  await page.goto('/sites/new')
  await page.getByLabel('The site is called').fill('Saltpan Chapel')
  await page.getByLabel('Its pages, one a line, indented under each other').fill(plan)
  await page.context().setOffline(true)
  await page.getByRole('button', { name: 'Make this site' }).click()
  await expect(page.getByRole('alert')).toContainText('Nothing that you typed is lost')
  await page.context().setOffline(false)
  await page.reload()
  await expect(page.getByLabel('The site is called')).toHaveValue('Saltpan Chapel')
  // The answer to the first try is lost on the way: the second finds the site made.
  await page.route('**/sites/new.data', async (route) => {
    await route.fetch()
    await route.abort()
    await page.unroute('**/sites/new.data')
  })
  await page.getByRole('button', { name: 'Make this site' }).click()
  await expect(page.getByRole('alert')).toContainText('Nothing that you typed is lost')
  await page.getByRole('button', { name: 'Make this site' }).click()
  await page.waitForURL('**/plan')
  await page.goto('/sites')
  await expect(page.getByRole('link', { name: 'Saltpan Chapel' })).toHaveCount(1)
})

test('a form that is not answered, or whose answer is cut, stays with what was typed', async ({ page }) => {
  await signUp(page)
  await page.goto('/account')
  const name = page.locator('section[aria-labelledby=name]')
  await name.getByRole('textbox').fill('Ines of the skerry')
  await page.context().setOffline(true)
  await name.getByRole('button').click()
  await expect(name.getByRole('alert')).toContainText('The server does not answer')
  await page.context().setOffline(false)
  await cutAnswers(page, '**/account.data')
  await name.getByRole('button').click()
  await expect(name.getByRole('alert')).toContainText('The server does not answer')
  await expect(name.getByRole('textbox')).toHaveValue('Ines of the skerry')
  await page.unroute('**/account.data')
  await name.getByRole('button').click()
  await expect(name.getByRole('status')).toContainText('Others see this name')
})

test('a view whose data is cut says that the server does not answer, and is there when it does', async ({
  page,
}) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', plan)
  // Within a site what stands there stays, and what is typed with it.
  await cutAnswers(page, '**/checks.data**')
  await page.getByRole('link', { name: 'Checks' }).click()
  await expect(page.getByRole('alert')).toContainText('this cannot be shown now')
  await page.unroute('**/checks.data**')
  await page.getByRole('button', { name: 'Try again' }).click()
  await expect(page.getByRole('alert')).toBeHidden()

  await page.goto('/sites')
  await cutAnswers(page, '**/kits.data**')
  await page.getByRole('link', { name: 'Kits' }).click()
  await expect(page.getByRole('heading', { name: 'The server does not answer' })).toBeVisible()
  await page.unroute('**/kits.data**')
  await page.getByRole('button', { name: 'Try again' }).click()
  await expect(page.getByRole('heading', { name: 'Kits' })).toBeVisible()
})

/** The connection ends in the midst of each answer from this address. */
const cutAnswers = (page: Page, address: string) =>
  page.route(address, (route) =>
    route.fulfill({ status: 200, contentType: 'text/x-script', body: '[{"_1":' }),
  )

test('a part of the program that cannot be fetched leaves the view as it is, and is there when it can', async ({
  page,
}) => {
  await signUp(page)
  // The editor, and what works out beside the interface what a plan becomes: its own program, then a part of that.
  const parts = ['**/assets/code-editor*', '**/assets/answer.worker*', '**/assets/new-site.answer*']
  for (const part of parts) await page.route(part, (route) => route.abort())
  const isRefused = page.waitForEvent('requestfailed', (request) => request.url().includes('answer.worker'))
  await page.goto('/sites/new')
  await page.getByLabel('The site is called').fill('Saltpan Chapel')
  await isRefused
  await page.unroute(parts[1]!)
  await page.waitForEvent('requestfailed', (request) => request.url().includes('new-site.answer'))
  await expect(page.getByLabel('The site is called')).toHaveValue('Saltpan Chapel')
  for (const part of parts) await page.unroute(part)
  await page.getByLabel('Its pages, one a line, indented under each other').fill(plan)
  await expect(page.getByText('contact.html')).toBeVisible({ timeout: 20_000 })
})

test('where one gets from a site is at hand without a line, says that there is none, and is there when there is', async ({
  page,
}) => {
  const programs = ['people-main', 'people-client-action', 'weight-main', 'weight-client-loader'].map(
    (name) => page.waitForResponse((response) => response.url().includes(`/${name}-`)),
  )
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', plan)
  await openView(page, 'Upload')
  await openView(page, 'Checks')
  // They are asked for by themselves, and then all that they take as well.
  await Promise.all(programs)
  await page.evaluate(async () => {
    const { routes } = (
      window as unknown as { __reactRouterManifest: { routes: Record<string, Record<string, string>> } }
    ).__reactRouterManifest
    const all = ['people', 'names', 'upload', 'checks/weight'].flatMap((name) => {
      const { module, clientLoaderModule = module, clientActionModule = module } = routes[`routes/${name}`]!
      return [module, clientLoaderModule, clientActionModule]
    })
    await Promise.all(all.map((address) => import(address!)))
  })
  await page.context().setOffline(true)
  await page.getByRole('link', { name: 'What pages weigh' }).click()
  await expect(page.getByRole('alert').filter({ hasText: 'so this cannot be shown now' })).toBeVisible()
  // What a view fetches by itself leaves it as it is.
  await openView(page, 'Names')
  await page.getByLabel('Keep this scheme as').fill('Ours')
  await page.getByRole('button', { name: 'Keep it' }).click()
  await expect(page.getByRole('alert')).toHaveText('The server does not answer. Try again in a moment.')
  await openView(page, 'Upload')
  await page.getByRole('button', { name: /^take the site as a ZIP/ }).click()
  await expect(page.getByRole('dialog').getByRole('alert')).toContainText('The server does not answer')
  await page.keyboard.press('Escape')
  await page.getByRole('link', { name: 'People' }).click()
  await expect(page.getByRole('heading', { name: 'The server does not answer' })).toBeVisible()
  await page.context().setOffline(false)
  await expect(page.getByRole('heading', { name: 'People' })).toBeVisible()
})

test('a view whose program cannot be had without a line leaves the window as it is, and opens when there is one', async ({
  page,
}) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', plan)
  // Nothing comes ahead.
  await page.route(/assets\/(people|checks)-/, (route) => route.abort())
  await page.reload()
  await row(page, /Contact/).click()
  await page.context().setOffline(true)
  await page.getByRole('link', { name: 'Checks' }).click()
  await row(page, /Visit/).click()
  await page.keyboard.press('F2')
  await page.keyboard.type('Come and see')
  await page.keyboard.press('Enter')
  await expect(page.getByText('Not saved: no connection')).toBeVisible()
  await page.unroute(/assets\/(people|checks)-/)
  await page.context().setOffline(false)
  await expect(row(page, /Come and see/)).toBeVisible()
  await allSaved(page)
  await openView(page, 'Checks')
})

test('a window that is left open while Rubricant is renewed says so, and the next view is of the new one', async ({
  page,
}) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', plan)
  const renewed = page.getByText('Rubricant was renewed')
  await row(page, /Contact/).click()
  await expect(renewed).toHaveCount(0)
  await page.route('**/presence', async (route) => {
    const answer = await route.fetch()
    await route.fulfill({ response: answer, json: { ...(await answer.json()), program: 'a later one' } })
  })
  await row(page, /Visit/).click()
  await expect(renewed).toBeVisible()
  await expectAccessible(page)
  await page.unroute('**/presence')
  await page.evaluate(() => document.body.setAttribute('data-program', 'before'))
  await openView(page, 'Names')
  await expect(page.locator('body[data-program]')).toHaveCount(0)
  await expect(renewed).toHaveCount(0)
})

test('a view that is long on its way says so, and what is saved meanwhile is in it', async ({ page }) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', plan)
  await openPage(page, 'Visit')
  await editor(page, 'Visit').fill('<p>The pier.</p><p>Lorem ipsum</p>')
  await allSaved(page)
  let answer = () => {}
  const isMended = new Promise<void>((resolve) => (answer = resolve))
  const isAsked = page.waitForRequest('**/checks.data*')
  await page.route('**/checks.data*', async (route) => {
    const found = await route.fetch()
    await isMended
    await route.fulfill({ response: found })
  }, { times: 1 }) // prettier-ignore
  const answered = page.waitForResponse('**/checks.data*')
  await page
    .getByRole('navigation', { name: 'Views' })
    .getByRole('link', { name: /^Checks/ })
    .click()
  await isAsked
  const onItsWay = page.getByRole('progressbar', { name: 'On its way' })
  await expect(onItsWay).toBeVisible()
  await expectAccessible(page)
  // Looked at before it is mended, and told after.
  await page.waitForTimeout(1_000)
  await editor(page, 'Visit').fill('<p>The pier.</p><p>It is open.</p>')
  await allSaved(page)
  answer()
  await answered
  await expect(
    page.getByRole('heading', { name: 'Details' }).or(page.getByText('Nothing was found')).first(),
  ).toBeVisible()
  await expect(page.getByText('Lorem ipsum')).toHaveCount(0)
  await expect(onItsWay).toHaveCount(0)
})
