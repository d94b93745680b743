import { expect, type Locator, test } from '@playwright/test'
import { allSaved, editor, expectAccessible, makeSite, openView, row, signUp, write } from './support'

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

test('a section is in a language of its own: called by it from the start, or as its author says', async ({
  page,
}) => {
  await signUp(page)
  await page.goto('/sites/new')
  await page.getByLabel('The site is called').fill('Tern Rock')
  await page
    .getByRole('textbox', { name: 'Its pages' })
    .fill('Home\nVisit\nDeutsch\n  Über uns\nGaeilge\n  Fáilte')
  await expect(page.getByText('in German')).toBeVisible()
  await expect(page.getByText('in Irish')).toBeVisible()
  await expect(page.getByLabel('What it becomes')).toContainText('deutsch/ueber-uns.html')
  await page.getByRole('button', { name: 'Make this site' }).click()
  await page.waitForURL('**/plan')

  await row(page, 'Über uns').click()
  const sentence = page.getByRole('region', { name: 'The chosen page' })
  await expect(sentence).toContainText('It is in German, as Deutsch is.')
  await row(page, 'Deutsch').click()
  await sentence.getByRole('button', { name: 'Language of this page and those below it: German' }).click()
  const asked = page.getByRole('dialog', { name: 'Language of this page and those below it' })
  await asked.getByRole('textbox').fill('Klingonian')
  await expect(asked.getByRole('alert')).toHaveText('No language is called that.')
  await expectAccessible(page)
  // By its name in itself; the names of its pages follow.
  await asked.getByRole('textbox').fill('svenska')
  await page.keyboard.press('Enter')
  await expect(sentence).toContainText('It is in Swedish.')
  await expect(row(page, 'Über uns')).toContainText('deutsch/uber-uns.html')
  await allSaved(page)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(row(page, 'Über uns')).toContainText('deutsch/ueber-uns.html')

  await openView(page, 'Template')
  await row(page, 'Über uns').click()
  const made = page.getByRole('region', { name: 'The page that results' })
  await expect(made).toContainText('<html lang="de">')
  await expect(made).toContainText('<nav class="page-languages" aria-label="Languages">')
})

test('a section whose texts are in another language is told so once, and its pages say it', async ({
  page,
}) => {
  await signUp(page)
  await makeSite(page, 'Sandbank', 'Home\nVisit\nGäste\n  Felsen\n  Turm')
  await openView(page, 'Pages')
  for (const label of ['Felsen', 'Turm']) {
    await row(page, label).click()
    await write(page, label, `<p>${german} ${label}</p>`)
    await allSaved(page)
  }
  await row(page, 'Visit').click()
  const english =
    'The lighthouse stands on a rock in the sea, and people come to it in the summer when the weather is fine. It was built two hundred years ago and it still shines every night.'
  for (const label of ['Home', 'Visit']) {
    await row(page, label).click()
    await write(page, label, `<p>${english} ${label}</p>`)
    await allSaved(page)
  }
  await openView(page, 'Checks')
  await expect(page.getByText('From here on the texts of 2 pages are in German')).toBeVisible()
  await page.getByRole('button', { name: 'This section is in German' }).click()
  await expect(page.getByText('From here on the texts')).toBeHidden()
  await page.getByRole('heading', { name: 'Words of a template in another language' }).click()
  await page.getByRole('button', { name: 'A template in German' }).click()
  await expect(page.getByText('some of its pages are in German')).toBeHidden()
  await openView(page, 'Template')
  await row(page, 'Turm').click()
  await expect(page.getByText('“Turm” is made with Shared template in German')).toBeVisible()
  await expect(page.getByRole('region', { name: 'The page that results' })).toContainText(
    'Zum Inhalt springen',
  )
  await openView(page, 'Plan')
  await row(page, 'Turm').click()
  await expect(page.getByRole('region', { name: 'The chosen page' })).toContainText(
    'It is in German, as Gäste is.',
  )
})

test('a site is put into another language, its pages lead to one another, and what is to be translated is told', async ({
  page,
}) => {
  await signUp(page)
  await makeSite(page, 'Tern Rock', 'Home\nVisit\n  Ferry\nContact')
  await openView(page, 'Pages')
  await row(page, 'Visit').click()
  await write(page, 'Visit', '<p>Come by <a href="/contact.html">asking us</a>.</p>')
  await allSaved(page)
  await openView(page, 'Plan')
  await row(page, 'Home').click()
  const chosen = page.getByRole('region', { name: 'The chosen page' })
  await chosen.getByRole('button', { name: 'Put the site into another language…' }).click()
  const field = page.getByRole('textbox', { name: 'Another language' })
  await field.fill('English')
  await expect(page.getByText('Home is in English already.')).toBeVisible()
  await field.fill('German')
  await page.getByRole('button', { name: 'Make the copies' }).click()
  await expect(page.getByText('deutsch/visit/ferry.html')).toBeVisible()
  await expect(chosen).toContainText('In German it is Deutsch.')
  await expectAccessible(page)

  await openView(page, 'Checks')
  await expect(page.getByText('Its text is still that of “Visit” in English')).toBeVisible()
  await page.getByRole('button', { name: 'List each page’s languages' }).click()
  await expect(page.getByText('Its menus lead to all languages alike.')).toBeHidden()

  // One of two: the other row of the label is the copy.
  await openView(page, 'Template')
  await row(page, 'Contact').first().click()
  const made = page.getByRole('region', { name: 'The page that results' })
  await expect(made).toContainText('<nav class="page-languages" aria-label="Languages">')

  await openView(page, 'Plan')
  await row(page, 'Contact').first().click()
  await chosen.getByRole('button', { name: 'In German: Contact' }).click()
  await page.getByRole('option', { name: 'no page' }).click()
  await expect(chosen).toContainText('In German it is no page yet; make a copy to be translated.')
  await allSaved(page)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(chosen).toContainText('In German it is Contact.')
})

test('whoever translates reads the page in the other language beside the text, and is led from one to the other', async ({
  page,
}) => {
  await signUp(page)
  await makeSite(page, 'Tern Rock', 'Home\nVisit\nContact')
  await openView(page, 'Pages')
  await write(page, 'Visit', '<p>Come by the ferry.</p>\n<p>Bring a lamp.</p>')
  await allSaved(page)
  await expect(page.getByLabel('Language of the page that is shown')).toBeHidden()
  await openView(page, 'Plan')
  await row(page, 'Home').click()
  await page.getByRole('button', { name: 'Put the site into another language…' }).click()
  await page.getByRole('textbox', { name: 'Another language' }).fill('German')
  await page.getByRole('button', { name: 'Make the copies' }).click()
  await expect(page.getByText('deutsch/visit.html')).toBeVisible()
  await openView(page, 'Pages')
  // The copy stands below the original.
  await page.getByRole('row', { name: 'Visit' }).last().click()
  await editor(page, 'Visit').press('Control+a')
  await page.keyboard.insertText('<p>Komm mit der Fähre.</p>\n<p>Bring eine Lampe mit.</p>')
  await allSaved(page)
  const shown = page.frameLocator('iframe')
  await expect(shown.locator('p').filter({ hasText: 'Komm mit der Fähre.' })).toBeVisible()
  const language = page.getByLabel('Language of the page that is shown')
  await language.selectOption('English')
  await expect(shown.getByText('Bring a lamp.')).toBeVisible()
  await expectAccessible(page)
  await shown.getByText('Bring a lamp.').click()
  await expect(page.locator('.cm-activeLine')).toHaveText('<p>Bring eine Lampe mit.</p>')
  // From page to page it stays so.
  await page.getByRole('row', { name: 'Contact' }).last().click()
  await expect(language).toHaveValue('en')
  await language.selectOption('German')
  await expect(page.getByTestId('preview-address')).toHaveText('/deutsch/contact.html')
})

test('that an original was changed after it was translated is told beside the translation and in Checks, with what changed', async ({
  page,
}) => {
  await signUp(page)
  await makeSite(page, 'Tern Rock', 'Home\nVisit')
  await openView(page, 'Pages')
  await write(page, 'Visit', '<p>Come by the ferry.</p>')
  await openView(page, 'Plan')
  await row(page, 'Home').click()
  await page.getByRole('button', { name: 'Put the site into another language…' }).click()
  await page.getByRole('textbox', { name: 'Another language' }).fill('German')
  await page.getByRole('button', { name: 'Make the copies' }).click()
  await expect(page.getByText('deutsch/visit.html')).toBeVisible()
  await openView(page, 'Pages')
  const original = page.getByRole('row', { name: 'Visit' }).first()
  const copy = page.getByRole('row', { name: 'Visit' }).last()
  const type = async (which: typeof copy, html: string) => {
    await which.click()
    await editor(page, 'Visit').press('Control+a')
    await page.keyboard.insertText(html)
    await allSaved(page)
  }
  // Nobody has begun yet: the copy takes what its original says now.
  await type(original, '<p>Come by the new ferry.</p>')
  await copy.click()
  await expect(page.getByText('“Visit” in English was changed after this copy of it was made.')).toBeVisible()
  await page.getByRole('button', { name: 'Take what it says now' }).click()
  await expect(editor(page, 'Visit')).toContainText('Come by the new ferry.')
  await expect(page.getByText('was changed after this copy')).toBeHidden()
  await type(copy, '<p>Komm mit der Fähre.</p>')
  await type(original, '<p>Come by the ferry.</p>\n<p>Dogs stay on the pier.</p>')
  const told = page.getByText('“Visit” in English was changed after this was translated from it.')
  await expect(told).toBeHidden()
  await copy.click()
  await expect(told).toBeVisible()
  await expectAccessible(page)
  await page.getByRole('button', { name: 'What changed' }).click()
  const difference = page.getByRole('region', { name: 'What changed' })
  await expect(difference).toContainText('now: <p>Dogs stay on the pier.</p>')
  await expectAccessible(page)
  await page.getByRole('button', { name: 'Close' }).click()

  await openView(page, 'Checks')
  await expect(told).toBeVisible()
  await page.getByRole('listitem').filter({ has: told }).getByRole('link', { name: 'Go there' }).click()
  await expect(page).toHaveURL(/\/pages\b/)
  await expect(editor(page, 'Visit')).toContainText('Komm mit der Fähre.')
  await page.getByRole('button', { name: 'It says the same now' }).click()
  await expect(told).toBeHidden()
  await openView(page, 'Checks')
  await expect(page.getByText('Translations whose original was changed since')).toBeHidden()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(told).toBeVisible()
})

test('labels run in their own direction, whatever is written beside them', async ({ page }) => {
  await signUp(page)
  await makeSite(page, 'Tern Rock', 'Visit\nספינת "Tern" 1872')
  /** Where letters of a label are drawn, from the left. */
  const leftOf = (where: Locator, letters: string) =>
    where.evaluate((element, sought) => {
      const texts = document.createTreeWalker(element, NodeFilter.SHOW_TEXT)
      for (let text; (text = texts.nextNode() as Text | null);) {
        const at = text.data.indexOf(sought)
        if (at < 0) continue
        const range = document.createRange()
        range.setStart(text, at)
        range.setEnd(text, at + sought.length)
        return range.getBoundingClientRect().left
      }
      throw new Error(`“${sought}” is not there.`)
    }, letters)
  const line = page.getByRole('row', { name: /ספינת/ })
  await line.click()
  for (const where of [
    line,
    page.getByRole('treeitem', { name: /ספינת/ }),
    page.getByRole('region', { name: 'The chosen page' }).getByRole('heading'),
  ])
    expect(await leftOf(where, 'ספינת')).toBeGreaterThan(await leftOf(where, '1872'))
})
