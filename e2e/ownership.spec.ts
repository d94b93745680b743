import { expect, test } from '@playwright/test'
import pg from 'pg'
import { addPracticeHost, allSaved, makeSite, openView, practice, row, signUp } from './support'

test('another account reaches nothing of a site, by any route', async ({ page, browser }) => {
  const database = new pg.Client({ connectionString: process.env.DATABASE_URL })
  await database.connect()
  await signUp(page)
  const siteId = await makeSite(page, 'Saltpan Chapel', 'Home\n  Visit')
  await openView(page, 'Pages')
  const previewAddress = (await page.locator('iframe').getAttribute('src'))!
  expect((await page.request.get(previewAddress)).status()).toBe(200)

  // Real things of this site, each of which its owner reaches.
  await openView(page, 'Plan')
  await row(page, /Visit/).click()
  await openView(page, 'Pages')
  await page.getByRole('textbox', { name: 'Content of Visit' }).click()
  await page.keyboard.insertText('<p>of this site alone</p>')
  await allSaved(page)
  const { diffs } = (await (await page.request.get(`/sites/${siteId}/changes?seen=0`)).json()) as {
    diffs: { pages: Record<string, { after: { content: string } }> }[]
  }
  const [pageId, written] = Object.entries(diffs[0]!.pages)[0]!
  await openView(page, 'Upload')
  await addPracticeHost(page, `public/${siteId}`)
  await page.getByRole('button', { name: /^Send \d+ files$/ }).click()
  await expect(page.getByRole('button', { name: 'Nothing to send' })).toBeVisible()
  const { rows } = await database.query<{ deliveryId: string; destinationId: string }>(
    `SELECT v.id AS "deliveryId", d.id AS "destinationId" FROM deliveries v
     JOIN destinations d ON d.id = v.destination_id WHERE d.site_id = $1`,
    [siteId],
  )
  const files = await database.query<{ id: string }>('SELECT id FROM site_files WHERE site_id = $1', [siteId])
  const fileId = files.rows[0]!.id
  await database.end()
  const { deliveryId, destinationId } = rows[0]!

  const other = await browser.newContext()
  const stranger = await other.newPage()
  await signUp(stranger)
  const there = [
    `/difference?to=${destinationId}&path=index.html&side=there`,
    `/difference?to=${destinationId}&path=index.html&side=${deliveryId}`,
    `/there.zip?to=${destinationId}`,
    `/deliveries/${deliveryId}`,
  ]
  const views = ['', '/plan', '/names', '/template', '/pages', '/checks', '/upload', '/look']
  const checks = [
    '/checks/links',
    '/checks/weight',
    '/checks/finished',
    '/checks/outside',
    '/checks/words',
    '/checks/spelling',
  ]
  const parts = [
    '/changes?seen=0',
    '/site.zip',
    '/made',
    `/texts/${written.after.content}`,
    `/results/${pageId}`,
    `/results/${pageId}?line=1`,
    `/results/${pageId}?slot=content`,
    '/places?q=visit',
    '/words?words=visit',
    '/spelling/word?word=visit&language=en',
    '/preview-address',
    '/files',
    `/files/${fileId}`,
    `/versions?kind=content&id=${pageId}`,
    ...there,
  ]
  for (const part of [...views, ...checks, ...parts]) {
    expect([part, (await page.request.get(`/sites/${siteId}${part}`)).status()]).toEqual([part, 200])
    expect([part, (await stranger.request.get(`/sites/${siteId}${part}`)).status()]).toEqual([part, 404])
  }
  expect((await stranger.request.get(`/sites/${siteId}/events`)).status()).toBe(404)
  for (const part of [
    'outside',
    'words',
    'spelling',
    'spelling/word',
    'finished-pages',
    'take-there',
    'find-way',
    `as-seen?to=${destinationId}`,
    `compare?to=${destinationId}`,
  ])
    expect((await stranger.request.post(`/sites/${siteId}/${part}`)).status()).toBe(404)
  // A kit kept from it is its owner's too.
  const said = { name: 'Of salt', about: '' }
  const kept = await page.request.post(`/sites/${siteId}/kit`, { data: said })
  const { id: kitId } = (await kept.json()) as { id: string }
  expect((await stranger.request.post(`/sites/${siteId}/kit`, { data: said })).status()).toBe(404)
  await stranger.request.post('/kits', { form: { forget: kitId } })
  for (const part of ['look', 'kit.zip']) {
    expect((await page.request.get(`/kits/${kitId}/${part}`)).status()).toBe(200)
    expect((await stranger.request.get(`/kits/${kitId}/${part}`)).status()).toBe(404)
  }
  const change = { seen: 0, do: 'change', change: { kind: 'removePages', pageIds: [pageId] }, shown: true }
  expect((await stranger.request.post(`/sites/${siteId}/changes`, { data: change })).status()).toBe(404)
  expect((await stranger.request.post(`/sites/${siteId}/ripple`, { data: change.change })).status()).toBe(404)
  const ofDelivery = ['cancel', 'pause', 'go-on', 'put-back']
  const intents = ['test', 'save', 'compare', 'send', 'remove', 'by-itself', 'use-host', ...ofDelivery]
  const form = {
    name: 'Mine now',
    host: '127.0.0.1',
    port: practice.sftpPort,
    account: 'keeper',
    folder: 'public',
    publicAddress: practice.address,
    hostKey: `SHA256:${'A'.repeat(43)}`,
  }
  for (const intent of intents)
    for (const id of [destinationId, deliveryId])
      expect(
        (await stranger.request.post(`/sites/${siteId}/upload`, { form: { ...form, intent, id } })).status(),
      ).toBe(404)
  // The same through a site of the stranger's own: whose destination it is decides.
  const ownId = await makeSite(stranger, 'Skerry Trust', 'Home')
  for (const intent of intents) {
    const id = ofDelivery.includes(intent) ? deliveryId : destinationId
    const answer = await stranger.request.post(`/sites/${ownId}/upload`, { form: { ...form, intent, id } })
    expect([intent, answer.status()]).toEqual([intent, 404])
  }
  for (const [part, status] of [
    [`/texts/${written.after.content}`, 404],
    [`/results/${pageId}`, 404],
    ...there.map((one) => [one, 404] as const),
  ] as const)
    expect((await stranger.request.get(`/sites/${ownId}${part}`)).status()).toBe(status)
  for (const part of ['as-seen', 'compare'])
    expect((await stranger.request.post(`/sites/${ownId}/${part}?to=${destinationId}`)).status()).toBe(404)
  const take = { to: destinationId, paths: null }
  expect((await stranger.request.post(`/sites/${ownId}/take-there`, { data: take })).status()).toBe(404)
  const foreign = {
    ...change,
    change: { kind: 'setContent', pageId, text: 'x', was: written.after.content },
  }
  expect((await stranger.request.post(`/sites/${ownId}/changes`, { data: foreign })).status()).toBe(409)
  expect(
    (await stranger.request.post('/sites', { form: { siteId, typed: 'Saltpan Chapel' } })).status(),
  ).toBe(404)
  expect((await stranger.request.get(previewAddress)).status()).toBe(404)
  await other.close()
  // Nothing of it happened.
  await page.reload()
  await expect(page.getByRole('heading', { name: 'Practice host' })).toBeVisible()
  await expect(row(page, /Visit/)).toBeVisible()

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
  await page.waitForURL('**/sign-in')
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
  await makeSite(page, 'Saltpan Chapel', 'Home\n  Visit')
  const policy = (await page.request.get('/sites')).headers()['content-security-policy']!
  expect(policy).toMatch(/script-src 'self' 'nonce-[^']+'(;|$)/)
  expect(policy).not.toMatch(/script-src[^;]*unsafe/)
  await openView(page, 'Pages')
  await page.getByRole('textbox', { name: 'Content of Home' }).click()
  await page.keyboard.insertText(
    '<iframe title="Way" src="/visit.html"></iframe>\n<p id="out">waiting</p>\n<script>try { document.cookie; parent.document.title } catch (e) { document.getElementById("out").textContent = e.name }</script>',
  )
  const shown = page.frameLocator('iframe')
  await expect(shown.locator('#out')).toHaveText('SecurityError')
  // What its pages show within them is shown.
  await expect(shown.frameLocator('iframe').getByRole('heading', { level: 1 })).toHaveText('Visit')
  await expect(page.getByTestId('preview-address')).toHaveText('/')
})
