import { expect, test } from '@playwright/test'
import { expectAccessible, makeSite, signUp } from './support'

test('a password is changed, another browser is signed out, and the account is left with its sites offered first', async ({ page, browser }) => {
  const { email, password } = await signUp(page)
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

  await page.goto('/sites')
  await page.getByRole('link', { name: email }).click()
  await expect(page.getByRole('listitem').filter({ hasText: 'this one' })).toBeVisible()
  await expectAccessible(page)
  await page.getByRole('button', { name: /^Sign it out/ }).click()
  await expect(page.getByText('That browser is signed out.')).toBeVisible()
  await elsewhere.goto('/sites')
  await expect(elsewhere).toHaveURL(/sign-in/)

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
  await page.getByLabel('Your password').fill('four dry herons')
  await expectAccessible(page)
  await page.getByRole('button', { name: 'Remove my account and all that is in it' }).click()
  await page.waitForURL('**/sign-in')
  await signIn('four dry herons')
  await expect(elsewhere.getByRole('alert')).toBeVisible()
}) // prettier-ignore
