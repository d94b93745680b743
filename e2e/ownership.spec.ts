import { expect, test } from '@playwright/test'
import { makeSite, openView, signUp } from './support'

test('another account reaches nothing of a site, by any route', async ({ page, browser }) => {
  await signUp(page)
  const siteId = await makeSite(page, 'Saltpan Chapel', 'Home\n  Visit')
  await openView(page, 'Pages')
  const previewAddress = (await page.locator('iframe').getAttribute('src'))!
  expect((await page.request.get(previewAddress)).status()).toBe(200)

  const other = await browser.newContext()
  const stranger = await other.newPage()
  await signUp(stranger)
  const views = ['', '/plan', '/names', '/template', '/pages', '/checks', '/upload']
  const parts = ['/changes?seen=0', '/events', '/site.zip', `/texts/${'0'.repeat(64)}`, `/results/${siteId}`]
  for (const part of [...views, ...parts])
    expect([part, (await stranger.request.get(`/sites/${siteId}${part}`)).status()]).toEqual([part, 404])
  for (const part of ['/changes', '/ripple'])
    expect(
      (await stranger.request.post(`/sites/${siteId}${part}`, { data: { seen: 0, do: 'undo' } })).status(),
    ).toBe(404)
  for (const intent of ['test', 'save', 'compare', 'send', 'cancel', 'remove'])
    expect((await stranger.request.post(`/sites/${siteId}/upload`, { form: { intent } })).status()).toBe(404)
  expect(
    (await stranger.request.post('/sites', { form: { siteId, typed: 'Saltpan Chapel' } })).status(),
  ).toBe(404)
  expect((await stranger.request.get(previewAddress)).status()).toBe(404)
  await other.close()

  // Without an account one is sent to sign in; the preview's address ends with the session.
  const nobody = await browser.newContext()
  const visitor = await nobody.newPage()
  await visitor.goto(`/sites/${siteId}/plan`)
  await expect(visitor).toHaveURL(/sign-in/)
  await visitor.goto(previewAddress)
  await expect(visitor.getByText('There is nothing')).toBeVisible()
  await nobody.close()
  await page.goto('/sites')
  await page.getByRole('button', { name: 'Sign out' }).click()
  expect((await page.request.get(previewAddress)).status()).toBe(404)
})

test('changes asked for by another site are refused', async ({ page }) => {
  await signUp(page)
  const siteId = await makeSite(page, 'Saltpan Chapel', 'Home')
  const foreign: Record<string, string>[] = [
    { origin: 'https://elsewhere.example' },
    { 'sec-fetch-site': 'cross-site' },
  ]
  for (const headers of foreign) {
    const answer = await page.request.post(`/sites/${siteId}/changes`, {
      headers,
      data: { seen: 0, do: 'undo' },
    })
    expect(answer.status()).toBe(403)
  }
})

test('a wrong password is refused, and after too many the right one too; the owner’s browser goes on', async ({
  page,
  playwright,
  baseURL,
}) => {
  const { email, password } = await signUp(page)
  await page.goto('/sites')
  await page.getByRole('button', { name: 'Sign out' }).click()
  const signIn = async (word: string) => {
    const visitor = await playwright.request.newContext({ baseURL })
    return visitor.post('/sign-in', { form: { email, password: word }, maxRedirects: 0 })
  }
  expect((await signIn('wrong')).status()).toBe(400)
  expect((await signIn(password)).status()).toBe(302)
  for (let attempt = 0; attempt < 6; attempt++) expect((await signIn('wrong')).status()).toBe(400)
  expect((await signIn(password)).status()).toBe(429)
  await page.goto('/sign-in')
  await page.getByLabel('E-mail address').fill(email)
  await page.getByLabel('Password').fill(password)
  await page.getByRole('button', { name: 'Sign in' }).click()
  await page.waitForURL('**/sites')
})

test('a page of the application takes no script but its own; a page of the author no cookie', async ({
  page,
}) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home')
  const policy = (await page.request.get('/sites')).headers()['content-security-policy']!
  expect(policy).toMatch(/script-src 'self' 'nonce-[^']+'(;|$)/)
  expect(policy).not.toMatch(/script-src[^;]*unsafe/)
  await openView(page, 'Pages')
  await page.getByRole('textbox', { name: 'Content of Home' }).click()
  await page.keyboard.insertText(
    '<p id="out">waiting</p>\n<script>try { document.cookie; parent.document.title } catch (e) { document.getElementById("out").textContent = e.name }</script>',
  )
  await expect(page.frameLocator('iframe').locator('#out')).toHaveText('SecurityError')
})
