import { randomUUID } from 'node:crypto'
import { expect, type Page, test } from '@playwright/test'
import { Secret, TOTP } from 'otpauth'
import { freePort } from '../bin/lib/run.mjs'
import { startChild } from '../bin/lib/services.mjs'
import { expectAccessible, makeSite, practice, signInAgain, signUp, signUpByHand } from './support'

test('a password is changed, another browser is signed out, and the account is left with its sites offered first', async ({ page, browser }) => {
  const { email, password } = await signUpByHand(page)
  await makeSite(page, 'Saltpan Chapel', 'Home')
  const elsewhere = await (await browser.newContext()).newPage()
  const signIn = async (typed: string) => {
    await elsewhere.goto('/sign-in')
    await elsewhere.getByLabel('E-mail address').fill(email)
    await elsewhere.getByLabel('Password').fill(typed)
    await elsewhere.getByRole('button', { name: 'Sign in' }).click()
  }
  await signIn(password)
  await elsewhere.waitForURL('**/sites')
  await elsewhere.getByRole('link', { name: 'Saltpan Chapel' }).first().click()
  await elsewhere.waitForURL('**/plan')

  await page.goto('/sites')
  await page.getByRole('link', { name: email }).click()
  await expect(page.getByRole('listitem').filter({ hasText: 'this one' })).toBeVisible()
  await expectAccessible(page)
  const signedIn = page.getByRole('region', { name: 'Where you are signed in' })
  await signedIn.getByLabel(/^Your password/).fill('not it at all')
  await signedIn.getByRole('button', { name: /^Sign it out/ }).click()
  await expect(signedIn.getByRole('alert')).toContainText('This is not your password.')
  await signedIn.getByLabel(/^Your password/).fill(password)
  await signedIn.getByRole('button', { name: /^Sign it out/ }).click()
  await expect(page.getByText('That browser is signed out.')).toBeVisible()
  // Its next step says so, and goes on where it was going as soon as the password is typed.
  await elsewhere.getByRole('link', { name: 'Names' }).click()
  await signInAgain(elsewhere, email, password)
  await expect(elsewhere.getByRole('heading', { name: 'Scheme' }).first()).toBeVisible()
  expect(new URL(elsewhere.url()).pathname).toMatch(/\/names$/)
  await elsewhere.goto('/sites')

  await page.getByLabel('The one you have').fill('not it at all')
  await page.getByLabel(/^The new one/).fill('four dry herons')
  await page.getByRole('button', { name: 'Change the password' }).click()
  await expect(page.getByRole('alert')).toContainText('This is not your password.')
  await page.getByLabel('The one you have').fill(password)
  await page.getByLabel(/^The new one/).fill('four dry herons')
  await page.getByRole('button', { name: 'Change the password' }).click()
  await expect(page.getByText('Your password is changed.')).toBeVisible()
  await signIn('four dry herons')
  await elsewhere.waitForURL('**/sites')

  await expect(page.getByRole('link', { name: 'Saltpan Chapel as a ZIP' })).toBeVisible()
  await page.getByText('Leave Rubricant…').click()
  await page.getByLabel(/^Your e-mail address/).fill(email)
  await page.getByRole('region', { name: 'Leave' }).getByLabel('Your password').fill('four dry herons')
  await expectAccessible(page)
  await page.getByRole('button', { name: 'Remove my account and all that is in it' }).click()
  await page.waitForURL('**/sign-in')
  await signIn('four dry herons')
  await expect(elsewhere.getByRole('alert')).toBeVisible()
  // Somebody else goes on in the same window.
  await page.getByRole('link', { name: 'Make an account' }).click()
  await page.waitForURL('**/sign-up?**')
  await page.getByLabel('E-mail address').fill(`next.${email}`)
  await page.getByLabel('Password').fill(password)
  await page.getByRole('button', { name: 'Make the account' }).click()
  await expect(page.getByRole('status')).toContainText('Your address has an account now')
  await page.getByLabel('E-mail address').fill(`next.${email}`)
  await page.getByLabel('Password').fill(password)
  await page.getByRole('button', { name: 'Sign in' }).click()
  await expect(page.getByRole('heading', { name: 'Your sites' })).toBeVisible()
}) // prettier-ignore

/** The latest letter to an address, as the practice host's letterbox shows it. */
async function linkIn(page: Page, to: string): Promise<string> {
  let link: string | undefined
  await expect(async () => {
    const shown = await (await page.request.get(`${practice.address}~`)).text()
    const letter = shown.split('<article>').find((one) => one.includes(`To ${to}`))
    link = letter?.match(/http:\/\/[^\s<]+\/new-(account|password|address)\/[\w-]+/)?.[0]
    expect(link).toBeDefined()
  }).toPass()
  return link!
}

test('whoever signs out leaves every window of the browser, and comes back to each', async ({
  page,
  context,
}) => {
  const { email, password } = await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home')
  const other = await context.newPage()
  await other.goto('/sites')
  await other.getByRole('button', { name: 'Sign out' }).click()
  await page.waitForURL('**/sign-in?next=**')
  await page.getByLabel('E-mail address').fill(email)
  await page.getByLabel('Password').fill(password)
  await page.getByRole('button', { name: 'Sign in' }).click()
  await page.waitForURL('**/plan**')
})

test('a forgotten password is chosen anew by a letter, and another address is taken by one', async ({ page, browser }) => {
  const { email } = await signUp(page)
  const other = await (await browser.newContext()).newPage()
  await other.goto('/sign-in')
  await other.getByRole('link', { name: 'Forgotten your password?' }).click()
  await other.waitForURL('**/forgotten')
  await expectAccessible(other)
  // Of an address without an account the same is said, and nothing is sent.
  for (const address of [`nobody.${email}`, email]) {
    await other.goto('/forgotten')
    await other.getByLabel('E-mail address').fill(address)
    await other.getByRole('button', { name: 'Send me a link' }).click()
    await expect(other.getByRole('status')).toContainText('If this address has an account here')
  }
  const link = await linkIn(other, email)
  expect(await (await other.request.get(`${practice.address}~`)).text()).not.toContain(`To nobody.${email}`)
  await other.goto(link)
  await expectAccessible(other)
  await other.getByLabel('Password').fill('five tall herons')
  await other.getByRole('button', { name: 'Use this password' }).click()
  await expect(other.getByText('Your new password is set.')).toBeVisible()
  // Who was signed in is out; the link is good once.
  await page.goto('/sites')
  await expect(page).toHaveURL(/sign-in/)
  await page.goto(link)
  await expect(page.getByText('This link has been used or has run out.')).toBeVisible()
  const signIn = async (address: string) => {
    await other.goto('/sign-in')
    await other.getByLabel('E-mail address').fill(address)
    await other.getByLabel('Password').fill('five tall herons')
    await other.getByRole('button', { name: 'Sign in' }).click()
    await other.waitForURL('**/sites')
  }
  await signIn(email)

  await other.goto('/account')
  await other.getByLabel(/^The one to use from now on/).fill(`new.${email}`)
  await other.getByRole('region', { name: 'E-mail address' }).getByLabel('Your password').fill('five tall herons')
  await other.getByRole('button', { name: 'Send a letter there' }).click()
  await expect(other.getByText(`A letter is on its way to new.${email}.`)).toBeVisible()
  await other.goto(await linkIn(other, `new.${email}`))
  await expectAccessible(other)
  await other.getByRole('button', { name: 'Take the new address' }).click()
  await expect(other.getByText(`Sign in with new.${email} from now on.`)).toBeVisible()
  await other.goto('/sites')
  await other.getByRole('button', { name: 'Sign out' }).click()
  await other.waitForURL('**/sign-in')
  await signIn(`new.${email}`)
}) // prettier-ignore

test('where addresses are confirmed, an account is made by a letter', async ({ browser }) => {
  // A process of the application as it is set for the public.
  const port = await freePort()
  const app = await startChild(
    'bin/server.mjs',
    { PORT: port, RUBRICANT_ACCOUNTS: 'confirmed', LOG_LEVEL: 'error' },
    /server ready/,
  )
  try {
    const page = await (await browser.newContext({ baseURL: `http://127.0.0.1:${port}` })).newPage()
    const email = `${randomUUID()}@saltpan.example`
    await page.goto('/sign-up')
    await expect(page.getByLabel('Password')).toHaveCount(0)
    await expectAccessible(page)
    await page.getByLabel('E-mail address').fill(email)
    await page.getByRole('button', { name: 'Send me the letter' }).click()
    await expect(page.getByRole('status')).toContainText(`A letter is on its way to ${email}.`)
    await page.goto(await linkIn(page, email))
    await expectAccessible(page)
    await expect(page.getByText(`You sign in as ${email}`)).toBeVisible()
    await page.getByLabel('Password').fill('password12')
    await page.getByRole('button', { name: 'Make the account' }).click()
    await expect(page.getByRole('alert')).toBeVisible()
    await page.getByLabel('Password').fill('five tall herons')
    await page.getByRole('button', { name: 'Make the account' }).click()
    await page.waitForURL('**/sites')
    await expect(page.getByText(email)).toBeVisible()
  } finally {
    await app.stop()
  }
})

test('with a second step a code is asked for after the password, or a spare one', async ({
  page,
  browser,
}) => {
  const { email, password } = await signUp(page)
  await page.goto('/account')
  const section = page.getByRole('region', { name: 'A second step' })
  await section.getByLabel('Your password').fill(password)
  await section.getByRole('button', { name: 'Set it up' }).click()
  await expect(section.getByRole('img', { name: 'The secret as a QR code' })).toBeVisible()
  await expectAccessible(page)
  const secret = (await section.getByText(/^([A-Z2-7]{4} ){7}[A-Z2-7]{4}$/).innerText()).replaceAll(' ', '')
  const code = () => new TOTP({ secret: Secret.fromBase32(secret) }).generate()
  await section.getByLabel(/^The code/).fill('000000')
  await section.getByRole('button', { name: 'Use it from now on' }).click()
  await expect(section.getByRole('alert')).toContainText('This code is not right')
  await section.getByLabel(/^The code/).fill(code())
  await section.getByRole('button', { name: 'Use it from now on' }).click()
  const codes = section.getByRole('list', { name: 'Spare codes' }).getByRole('listitem')
  await expect(codes).toHaveCount(10)
  await expectAccessible(page)
  const spare = await codes.first().innerText()

  const other = await (await browser.newContext()).newPage()
  await other.goto('/sign-in')
  await other.getByLabel('E-mail address').fill(email)
  await other.getByLabel('Password').fill(password)
  await other.getByRole('button', { name: 'Sign in' }).click()
  await other.waitForURL('**/sign-in/second**')
  await expectAccessible(other)
  // The password alone opens nothing.
  expect((await other.request.get('/sites', { maxRedirects: 0 })).status()).toBe(302)
  await other.getByLabel('Code').fill('not-right')
  await other.getByRole('button', { name: 'Sign in' }).click()
  await expect(other.getByRole('alert')).toContainText('This code is not right')
  await other.getByLabel('Code').fill(spare)
  await other.getByRole('button', { name: 'Sign in' }).click()
  await other.waitForURL('**/sites')
})

test('where everybody has to have a second step, nothing opens before it is set up', async ({ browser }) => {
  const port = await freePort()
  const app = await startChild(
    'bin/server.mjs',
    { PORT: port, RUBRICANT_SECOND_STEP: 'needed', LOG_LEVEL: 'error' },
    /server ready/,
  )
  try {
    const page = await (await browser.newContext({ baseURL: `http://127.0.0.1:${port}` })).newPage()
    const { password } = await signUp(page, `http://127.0.0.1:${port}`)
    await page.goto('/sites')
    await page.waitForURL('**/account**')
    const section = page.getByRole('region', { name: 'A second step' })
    await expect(section).toContainText('wants everybody to sign in with a second step')
    expect((await page.request.get('/sites/new', { maxRedirects: 0 })).headers().location).toContain(
      '/account',
    )
    await section.getByLabel('Your password').fill(password)
    await section.getByRole('button', { name: 'Set it up' }).click()
    const secret = (await section.getByText(/^([A-Z2-7]{4} ){7}[A-Z2-7]{4}$/).innerText()).replaceAll(' ', '')
    await section.getByLabel(/^The code/).fill(new TOTP({ secret: Secret.fromBase32(secret) }).generate())
    await section.getByRole('button', { name: 'Use it from now on' }).click()
    await expect(section.getByRole('list', { name: 'Spare codes' })).toBeVisible()
    await expectAccessible(page)
    // It cannot be turned off again, in the window or past it.
    await expect(section.getByRole('button', { name: 'Turn it off' })).toHaveCount(0)
    const form = { intent: 'second-end', password }
    const headers = { origin: `http://127.0.0.1:${port}` }
    expect((await page.request.post('/account', { form, headers })).status()).toBe(403)
    await page.getByRole('link', { name: 'Rubricant' }).click()
    await expect(page).toHaveURL(/\/sites$/)
  } finally {
    await app.stop()
  }
})
