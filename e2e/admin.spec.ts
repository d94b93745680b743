import { execFile } from 'node:child_process'
import { promisify } from 'node:util'
import { expect, test } from '@playwright/test'
import { makeSite, signUp } from './support'

const run = promisify(execFile)
/** Runs `npm run admin` as whoever runs the server does; resolves to what it prints and how it ended. */
const admin = (...args: string[]) =>
  run('node', ['bin/admin.mjs', ...args], { env: process.env }).then(
    ({ stdout }) => ({ stdout, code: 0 }),
    (error: { stdout: string; code: number }) => ({ stdout: error.stdout, code: error.code }),
  )

test('whoever runs the server sees the accounts, and gives somebody a link to choose a password', async ({
  page,
}) => {
  // Each time a program is started.
  test.setTimeout(240_000)
  const { email } = await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home\n  Visit')
  const { stdout } = await admin('accounts')
  expect(stdout.split('\n').find((line) => line.startsWith(email))).toMatch(
    /\t1 sites\t2 pages\t.*seen \d{4}-/,
  )
  expect(await admin('password', 'nobody@saltpan.example')).toMatchObject({ code: 1 })
  const { stdout: told } = await admin('password', email)
  await page.goto(new URL(told.trim()).pathname)
  await page.getByLabel('Password').fill('five tall herons')
  await page.getByRole('button', { name: 'Use this password' }).click()
  await expect(page.getByText('Your new password is set.')).toBeVisible()
  expect(await admin('one-step', email)).toMatchObject({ code: 0 })
  expect(await admin('one-step', 'nobody@saltpan.example')).toMatchObject({ code: 1 })

  // Somebody who is to have an account is given a link to make it.
  expect(await admin('invite', email)).toMatchObject({ code: 1 })
  expect(await admin('invite', 'x')).toMatchObject({ code: 2 })
  const { stdout: link } = await admin('invite', `new.${email}`)
  await page.goto(new URL(link.trim()).pathname)
  await page.getByLabel('Password').fill('five tall herons')
  await page.getByRole('button', { name: 'Make the account' }).click()
  await page.waitForURL('**/sites')
  await expect(page.getByText(`new.${email}`)).toBeVisible()
  // What a lost laptop is for: whoever is signed in there is out.
  expect(await admin('sign-out', 'nobody@saltpan.example')).toMatchObject({ code: 1 })
  expect((await admin('sign-out', `new.${email}`)).stdout).toContain('1 session is ended.')
  await page.goto('/sites')
  await expect(page).toHaveURL(/sign-in/)
  expect(await admin('x')).toMatchObject({ code: 2 })
  expect(await admin('reseal')).toMatchObject({ code: 2 })
})
