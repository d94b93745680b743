import { expect, test } from '@playwright/test'
import { allSaved, editor, expectAccessible, makeSite, openView, signUp, write } from './support'

test('the browser looks at the spelling of words, in the language of the page, and at nothing that is no word', async ({
  page,
}) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home\n  Visit')
  await openView(page, 'Pages')
  const text =
    '<!-- nott --><p class="wrds" title="Seen wehn">Tehre &eacute; <code>fnord()</code> <span lang="de">Leuchttrum</span></p><style>.abcd { top: 0 }</style>'
  await write(page, 'Visit', text)
  const looked = await editor(page, 'Visit').evaluate((content) => {
    const words: string[] = []
    const walk = (node: Node, isLooked: boolean, language: string) => {
      if (node instanceof Text) {
        for (const word of isLooked ? (node.data.match(/[a-z]{3,}/gi) ?? []) : []) words.push(`${word} ${language}`)
        return
      }
      const one = node as HTMLElement
      const own = one.getAttribute('spellcheck')
      for (const child of one.childNodes)
        walk(child, own === null ? isLooked : own === 'true', one.getAttribute('lang') ?? language)
    }
    walk(content, false, '')
    return words
  }) // prettier-ignore
  expect(looked).toEqual(['Seen en', 'wehn en', 'Tehre en', 'Leuchttrum de'])
})

test('what the site says is held against dictionaries: mistyped words are put right everywhere, names are kept', async ({
  page,
}) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home\n  Openning hours\n  Visit')
  await openView(page, 'Pages')
  const text = `<p>The ligthouse and its kepeer, Brimwick Noust.</p>\n<p lang="de">Der Leuchttrum</p><p lang="it">la luce</p>`
  await write(page, 'Visit', text)
  await write(page, 'Home', '<p>See the the ligthouse and <a href="/openning-hours.html">when</a></p>')
  await openView(page, 'Checks')
  await page.getByRole('link', { name: 'Spelling', exact: true }).click()
  const view = page.getByRole('main')
  await expect(view).toContainText(
    '6 words stand in no dictionary, 2 of them in small letters, which are seldom names.',
  )
  await expect(view).toContainText('There is no dictionary of Italian here, for 1 place.')
  const list = page.getByRole('region', { name: 'Words that no dictionary has' })
  const row = (word: string) =>
    list.getByRole('listitem').filter({ has: page.getByRole('checkbox', { name: `Choose “${word}”` }) })
  await expect(row('kepeer')).toContainText('The ligthouse and its kepeer, Brimwick')
  await expect(row('ligthouse')).toContainText(/2 times.*Visit, line 1|2 times.*Home, line 1/)
  await expect(row('Leuchttrum')).toContainText('German')
  await expectAccessible(page)

  // Put right wherever it stands, as one step.
  await page.getByRole('button', { name: 'the, instead of the the' }).click()
  await expect(view).toContainText('“the the” is “the” now, in 1 place.')
  await expect(view).not.toContainText('twice in a row')
  await page.getByRole('button', { name: 'lighthouse, instead of ligthouse' }).click()
  await expect(view).toContainText('“ligthouse” is “lighthouse” now, in 2 places. Undo takes it back.')
  await expect(view).toContainText('5 words stand in no dictionary')
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(view).not.toContainText('is “lighthouse” now')
  await expect(view).toContainText('6 words stand in no dictionary')
  await page.getByRole('button', { name: 'Redo' }).click()
  await expect(view).toContainText('5 words stand in no dictionary')

  // A label has a file named after it: what that touches is shown before.
  await page.getByRole('button', { name: 'Opening, instead of Openning' }).click()
  const asked = page.getByRole('group', { name: 'Put a word right' })
  await expect(asked).toContainText(
    '“Openning” is “Opening” now, in 1 place: 1 file changes name, 1 link is rewritten',
  )
  await asked.getByRole('button', { name: 'Put it right' }).click()
  await expect(view).toContainText('4 words stand in no dictionary')

  // Names are right here, one by one or several at once; each can be taken out again.
  await page.getByRole('checkbox', { name: 'Choose “Brimwick”' }).check()
  await page.getByRole('checkbox', { name: 'Choose “Noust”' }).check()
  await page.getByRole('button', { name: '2 words are right' }).click()
  await expect(view).toContainText('2 words stand in no dictionary')
  await page.getByRole('button', { name: 'Right as it is: Leuchttrum' }).click()
  await expect(view).toContainText('1 word stands in no dictionary')
  await page.getByText('3 words of this site’s own').click()
  await expectAccessible(page)
  await page.getByRole('button', { name: 'Take out “Leuchttrum”' }).click()
  await expect(list).toContainText('Leuchttrum')

  // Something else that is meant is looked for with the words of the site.
  await page.getByRole('link', { name: /^Something else.*kepeer/ }).click()
  await expect(view.getByRole('status')).toContainText('“kepeer” stands once, in 1 place of the site.')
  await page.getByLabel('In the place of “kepeer”').fill('guardian')
  await page.getByRole('button', { name: 'Replace them in 1 place' }).click()
  await expect(view.getByRole('status')).toContainText('Replaced in 1 place.')
  await openView(page, 'Pages')
  await page.getByRole('row', { name: /Visit/ }).click()
  await expect(editor(page, 'Visit')).toContainText('The lighthouse and its guardian, Brimwick Noust.')
  await allSaved(page)
})
