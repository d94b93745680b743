import { expect, test } from '@playwright/test'
import { allSaved, expectAccessible, makeSite, openView, row, signUp, write } from './support'

const german =
  'Der Leuchtturm steht auf einem Felsen im Meer, und die Leute kommen im Sommer, wenn das Wetter schön ist. Er wurde vor zweihundert Jahren gebaut und leuchtet noch jede Nacht.'

test('a new site is in the language that its pages are called in, until its author says another', async ({
  page,
}) => {
  await signUp(page)
  await page.goto('/sites/new')
  const language = page.getByLabel('Its language')
  const plan = page.getByRole('textbox', { name: 'Its pages' })
  await expect(language).toHaveValue('en')
  await expect(page.getByText('English', { exact: true })).toBeVisible()
  await plan.fill('Accueil\nQui sommes-nous\nTarifs')
  await expect(language).toHaveValue('fr')
  await expect(page.getByText('French', { exact: true })).toBeVisible()
  await expectAccessible(page)
  await plan.fill('Startseite\nÜber uns\nÖffnungszeiten')
  await expect(language).toHaveValue('de')
  await expect(page.getByText('oeffnungszeiten.html')).toBeVisible()
  await language.fill('nl')
  await plan.fill('Startseite\nÜber uns\nÖffnungszeiten\nAnfahrt')
  await expect(page.getByText('anfahrt.html')).toBeVisible()
  await expect(language).toHaveValue('nl')
})

test('texts in another language than the site says are found, and the site and its template say theirs', async ({
  page,
}) => {
  await signUp(page)
  await makeSite(page, 'Sandbank', 'Home\nFelsen\nTurm')
  await openView(page, 'Pages')
  for (const label of ['Felsen', 'Turm']) {
    await row(page, label).click()
    await write(page, label, `<p>${german} ${label}</p>`)
    await allSaved(page)
  }
  await openView(page, 'Checks')
  await page.getByRole('button', { name: 'The site is in German' }).click()
  await expect(page.getByRole('heading', { name: 'Texts in another language than they say' })).toBeHidden()
  await page.getByRole('heading', { name: 'Words of a template in another language' }).click()
  await expect(page.getByText('It says “Skip to the content”')).toBeVisible()
  await page.getByRole('button', { name: 'Say it in German' }).click()
  await expect(page.getByText('It says “Skip to the content”')).toBeHidden()
  await openView(page, 'Template')
  await expect(page.getByText('Zum Inhalt springen').first()).toBeVisible()
})
