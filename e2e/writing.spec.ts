import { expect, type Page, test } from '@playwright/test'
import { allSaved, editor, expectAccessible, makeSite, openView, row, signUp, write } from './support'

test('a link is chosen by a few letters: a page, a place that gets its id, another site, mail', async ({
  page,
}) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home\n  Visit\n    Tides\n  Contact')
  await openView(page, 'Pages')
  await write(page, 'Tides', '<h2>High water</h2>\n<p>At noon.</p>')
  await write(page, 'Contact', '<p>See the tides</p>')
  // The words that are chosen become the link.
  await page.keyboard.press('Control+Home')
  for (let letter = 0; letter < 3; letter++) await page.keyboard.press('ArrowRight')
  await page.keyboard.down('Shift')
  for (let letter = 0; letter < 'See the tides'.length; letter++) await page.keyboard.press('ArrowRight')
  await page.keyboard.up('Shift')
  await page.keyboard.press('Control+k')
  const dialog = page.getByRole('dialog', { name: 'Link' })
  const field = dialog.getByRole('combobox')
  await field.fill('tid')
  await expect(dialog.getByRole('option', { name: /Tides.*\/visit\/tides\.html.*page/ })).toBeVisible()
  await expectAccessible(page)
  await page.keyboard.press('Enter')
  await expect(editor(page, 'Contact')).toContainText('<p><a href="/visit/tides.html">See the tides</a></p>')

  // A heading of another page, which gets an id.
  await page.keyboard.press('Control+End')
  await page.getByRole('button', { name: 'Link', exact: true }).click()
  await field.fill('high w')
  await dialog.getByRole('option', { name: /High water.*place/ }).click()
  await expect(editor(page, 'Contact')).toContainText('<a href="/visit/tides.html#high-water">High water</a>')
  await allSaved(page)
  await page.getByRole('button', { name: 'Link', exact: true }).click()
  await field.fill('https://tide.example/today')
  await dialog.getByRole('checkbox', { name: 'In a new tab' }).check()
  await dialog.getByRole('option', { name: /another site/ }).click()
  await expect(editor(page, 'Contact')).toContainText(
    '<a href="https://tide.example/today" target="_blank" rel="noopener">https://tide.example/today</a>',
  )
  await page.getByRole('button', { name: 'Link', exact: true }).click()
  await field.fill('warden@chapel.example')
  await page.keyboard.press('Enter')
  await expect(editor(page, 'Contact')).toContainText(
    '<a href="mailto:warden@chapel.example">warden@chapel.example</a>',
  )
  await allSaved(page)
  await row(page, /Tides/).click()
  await expect(editor(page, 'Tides')).toContainText('<h2 id="high-water">High water</h2>')
  await openView(page, 'Checks')
  // Empty pages and what lacks a description may be there; nothing leads nowhere.
  await expect(
    page.getByRole('heading', { name: 'Empty pages' }).or(page.getByText('nothing found')),
  ).toBeVisible()
  await expect(page.getByRole('heading', { name: 'What does not work' })).toHaveCount(0)
  await expect(page.getByRole('heading', { name: 'Links to places that are not there' })).toHaveCount(0)
})

/** A photograph-like picture, drawn by the browser itself. */
const photograph = async (page: Page, width: number, height: number) => ({
  name: 'Pier at dusk.jpg',
  mimeType: 'image/jpeg',
  buffer: Buffer.from(
    await page.evaluate(
      async ([w, h]) => {
        const canvas = new OffscreenCanvas(w!, h!)
        const context = canvas.getContext('2d')!
        for (let at = 0; at < 4_000; at++) {
          context.fillStyle = `hsl(${(at * 7) % 360} 50% 50%)`
          context.fillRect((at * 97) % w!, (at * 61) % h!, 60, 9)
        }
        const blob = await canvas.convertToBlob({ type: 'image/jpeg', quality: 0.95 })
        return [...new Uint8Array(await blob.arrayBuffer())]
      },
      [width, height],
    ),
  ),
})

test('a picture far larger than it is shown gets smaller copies, keeps its proportion, and leads to itself', async ({
  page,
}) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home\n  Visit')
  await openView(page, 'Pages')
  await write(page, 'Visit', '<p>The pier.</p>')
  await page.keyboard.press('Control+End')
  await page.getByRole('button', { name: 'Picture', exact: true }).click()
  await page
    .getByLabel('Pictures, films and sounds to add')
    .setInputFiles(await photograph(page, 2_000, 1_000))
  const dialog = page.getByRole('dialog', { name: 'Picture' })
  await expect(dialog.getByText('2,000 × 1,000 pixels')).toBeVisible()
  await dialog.getByLabel(/^Height of/).fill('300')
  await expect(dialog.getByLabel(/^Width of/)).toHaveValue('600')
  await dialog.getByLabel('It only decorates, and says nothing').check()
  await dialog.getByLabel('It leads to the whole picture').check()
  await dialog.getByRole('button', { name: 'Put it in' }).click()
  await expect(editor(page, 'Visit')).toContainText(
    '<a href="/images/pier-at-dusk.jpg"><img src="/images/pier-at-dusk-600.jpg" alt="" srcset="/images/pier-at-dusk-600.jpg 600w, /images/pier-at-dusk-1200.jpg 1200w, /images/pier-at-dusk.jpg 2000w" sizes="(min-width: 600px) 600px, 100vw" width="600" height="300"></a>',
  )
  await allSaved(page)
  const image = page.frameLocator('iframe').locator('img')
  await expect(image).toHaveJSProperty('complete', true)
  expect(await image.evaluate((one: HTMLImageElement) => one.currentSrc)).toContain('pier-at-dusk-600.jpg')
  // Within its tag, it is this one that is asked about: what was said of it is there, and its other words stay.
  await page.keyboard.press('Control+End')
  for (const _ of 'x"></a>') await page.keyboard.press('ArrowLeft')
  await page.getByRole('button', { name: 'Picture', exact: true }).click()
  await expect(dialog.getByLabel('It only decorates, and says nothing')).toBeChecked()
  await expect(dialog.getByLabel(/^Width of/)).toHaveValue('600')
  await dialog.getByLabel('It only decorates, and says nothing').uncheck()
  await dialog.getByLabel('What it says to somebody who cannot see it').fill('The pier at dusk')
  await dialog.getByLabel('Words that stand below it').fill('Dusk')
  await expectAccessible(page)
  await dialog.getByRole('button', { name: 'Change it' }).click()
  await expect(editor(page, 'Visit')).toContainText(
    /<figure>\s*<a href="\/images\/pier-at-dusk\.jpg"><img src="\/images\/pier-at-dusk-600\.jpg" alt="The pier at dusk" srcset="\/images\/pier-at-dusk-600\.jpg 600w, \/images\/pier-at-dusk-1200\.jpg 1200w, [^>]*><\/a>\s*<figcaption>Dusk<\/figcaption>\s*<\/figure>/,
  )
  // A second one is fetched only when it comes near.
  await page.keyboard.press('Control+End')
  await page.getByRole('button', { name: 'Picture', exact: true }).click()
  await dialog.getByRole('button', { name: /pier-at-dusk-1200/ }).click()
  await dialog.getByLabel('What it says to somebody who cannot see it').fill('The pier')
  await dialog.getByLabel(/add (a smaller copy|smaller copies)/).uncheck()
  await page.keyboard.press('Enter')
  await expect(editor(page, 'Visit')).toContainText('alt="The pier" width="800" height="400" loading="lazy">')

  // Several at once, in the order in which they are ticked.
  await page.keyboard.press('Control+End')
  await page.getByRole('button', { name: 'Picture', exact: true }).click()
  await dialog.getByRole('checkbox', { name: /pier-at-dusk-600/ }).check()
  await dialog.getByRole('checkbox', { name: /pier-at-dusk\.jpg/ }).check()
  await expectAccessible(page)
  await dialog.getByRole('button', { name: 'Put these 2 in' }).click()
  const both = page.getByRole('dialog', { name: 'Pictures' })
  for (const nth of [0, 1])
    await both.getByLabel('What it says to somebody who cannot see it').nth(nth).fill(`View ${nth}`)
  await both.getByLabel(/add (a smaller copy|smaller copies)/).uncheck()
  await both.getByRole('button', { name: 'Put all 2 in' }).click()
  await expect(editor(page, 'Visit')).toContainText(
    /pier-at-dusk-600\.jpg" alt="View 0".*pier-at-dusk\.jpg" alt="View 1"/,
  )
})

test('several pictures stand side by side, of one height and with words below them; a style sheet that does not say how says it then', async ({
  page,
}) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home\n  Visit')
  await openView(page, 'Template')
  await page.getByRole('tab', { name: 'site.css' }).click()
  const sheet = page.getByRole('textbox', { name: 'Source of site.css' })
  await sheet.fill('main { margin: 1rem }')
  await allSaved(page)
  await openView(page, 'Pages')
  await write(page, 'Visit', '<p>The pier by day and the pier by night.</p>')
  await page.keyboard.press('Control+Home')
  for (const _ of '<p>The pier by day') await page.keyboard.press('ArrowRight')
  await page.getByRole('button', { name: 'Picture', exact: true }).click()
  const photographs = [await photograph(page, 2_000, 1_000), await photograph(page, 600, 900)]
  await page
    .getByLabel('Pictures, films and sounds to add')
    .setInputFiles(photographs.map((one, nth) => ({ ...one, name: `pier-${nth}.jpg` })))
  const dialog = page.getByRole('dialog', { name: 'Pictures' })
  await expect(dialog.getByText('600 × 900 pixels')).toBeVisible()
  await dialog.getByRole('button', { name: /^How they stand/ }).click()
  await page.getByRole('menuitemradio', { name: 'side by side' }).click()
  await expect(
    dialog.getByLabel('No style sheet says how they stand so: add it to styles/site.css'),
  ).toBeChecked()
  await dialog.getByLabel('Height of each in pixels').fill('100')
  await expect(dialog.getByLabel(/^Width of/).first()).toHaveValue('200')
  await expect(dialog.getByLabel(/^Width of/).last()).toHaveValue('67')
  for (const one of await dialog.getByLabel('It only decorates, and says nothing').all()) await one.check()
  await dialog.getByLabel('Words that stand below it').last().fill('By night')
  for (const one of await dialog.getByLabel(/add (a smaller copy|smaller copies)/).all()) await one.uncheck()
  await expectAccessible(page)
  await dialog.getByRole('button', { name: 'Put all 2 in' }).click()
  // Between the halves of the paragraph that they were put into, which holds no list.
  await expect(editor(page, 'Visit')).toContainText(
    /<p>The pier by day<\/p><ul class="pictures">\s*<li><a href="\/images\/pier-0\.jpg"><img [^>]*width="200" height="100"><\/a><\/li>\s*<li>\s*<figure>\s*<a [^>]*><img [^>]*width="67" height="101"[^>]*><\/a>\s*<figcaption>By night<\/figcaption>\s*<\/figure>\s*<\/li><\/ul><p>and the pier/,
  )
  await allSaved(page)
  const places = page.frameLocator('iframe').locator('.pictures img')
  await expect(places).toHaveCount(2)
  await expect
    .poll(async () => {
      const [first, second] = await Promise.all([places.first().boundingBox(), places.last().boundingBox()])
      return [first?.height, second?.height, second!.y - first!.y]
    })
    .toEqual([100, 101, 0])
  await openView(page, 'Template')
  await page.getByRole('tab', { name: 'site.css' }).click()
  await expect(sheet).toContainText('main { margin: 1rem }')
  await expect(sheet).toContainText('.pictures {')
})

test('a page is split at its headings, a piece moved, and a page joined to another; links follow each time', async ({
  page,
}) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home\n  Visit\n  Stay')
  await openView(page, 'Pages')
  await write(page, 'Stay', '<p><a href="/visit.html#tides">When to cross</a></p>')
  await write(
    page,
    'Visit',
    '<p>How to come.</p>\n<h2 id="tides">Tides</h2>\n<p>High at noon.</p>\n<h3>Neaps</h3>\n<p>Low.</p>\n<h2>The pier</h2>\n<p>Red.</p>\n',
  )
  await page.getByRole('button', { name: 'Parts' }).click()
  const dialog = page.getByRole('dialog', { name: /^Parts of/ })
  await dialog.getByRole('checkbox', { name: 'Tides' }).check()
  await expect(dialog.getByRole('checkbox', { name: 'Neaps' })).toBeDisabled()
  await dialog.getByLabel('Label of the page “Tides”').fill('Crossings & tides')
  await expectAccessible(page)
  await dialog.getByRole('button', { name: 'Make it a page' }).click()
  const question = page.getByRole('group', { name: 'Split a page' })
  await expect(question).toContainText('“Visit” is split, and one page is made of its parts')
  await question.getByRole('button', { name: 'Split it' }).click()
  await row(page, /Crossings & tides/).click()
  await expect(editor(page, 'Crossings & tides')).toContainText('<h2>Neaps</h2>')
  await row(page, /Stay/).click()
  await expect(editor(page, 'Stay')).toContainText('crossings-and-tides.html#tides')
  await row(page, /Visit/).click()
  await expect(editor(page, 'Visit')).toContainText('crossings-and-tides.html">Crossings &amp; tides</a>')
  await expect(
    page.frameLocator('iframe').getByRole('link', { name: 'Crossings & tides' }).first(),
  ).toBeVisible()

  // The reverse.
  await row(page, /Crossings & tides/).click()
  await page.getByRole('button', { name: 'Parts' }).click()
  await dialog.getByRole('combobox', { name: 'It becomes a part, at the end, of' }).fill('vis')
  await dialog.getByRole('option', { name: /Visit/ }).click()
  await page.getByRole('group', { name: 'Join pages' }).getByRole('button', { name: 'Join them' }).click()
  await expect(row(page, /Crossings & tides/)).toHaveCount(0)
  await expect(editor(page, 'Visit')).toContainText('<h2 id="crossings-tides">Crossings &amp; tides</h2>')
  await row(page, /Stay/).click()
  await expect(editor(page, 'Stay')).toContainText('visit.html#tides')
  await openView(page, 'Checks')
  // Empty pages and what lacks a description may be there; nothing leads nowhere.
  await expect(
    page.getByRole('heading', { name: 'Empty pages' }).or(page.getByText('nothing found')),
  ).toBeVisible()
  await expect(page.getByRole('heading', { name: 'What does not work' })).toHaveCount(0)
  await expect(page.getByRole('heading', { name: 'Links to places that are not there' })).toHaveCount(0)
  // And all of it is one step each to undo.
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(row(page, /Crossings & tides/)).toBeVisible()
})

test('what is wrong is marked where it stands while it is typed, and Checks says the same', async ({
  page,
}) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home')
  await openView(page, 'Pages')
  await write(page, 'Home', '<p>High <b>water</p>')
  const marked = editor(page, 'Home').locator('.cm-lintRange')
  await expect(marked).toHaveText('<b>')
  await page.keyboard.press('F8')
  await expect(page.getByText('“<b>” is opened and not closed where it should be.')).toBeVisible()
  await page.keyboard.press('Escape')
  await openView(page, 'Checks')
  await expect(page.getByRole('heading', { name: 'Tags that do not match' })).toBeVisible()
  await openView(page, 'Template')
  const source = page.getByRole('textbox', { name: 'Source of Shared template' })
  await source.click()
  await page.keyboard.press('Control+Home')
  await page.keyboard.insertText('{pag}\n')
  await expect(source.locator('.cm-lintRange', { hasText: 'pag' })).toBeVisible()
  await page.getByRole('tab', { name: 'site.css' }).click()
  const css = page.getByRole('textbox', { name: 'Source of site.css' })
  await css.click()
  await page.keyboard.press('Control+Home')
  await page.keyboard.insertText('p { colour: red }\n')
  await expect(css.locator('.cm-lintRange').first()).toHaveText('colour')
  await allSaved(page)
})

test('a page is shown as it is found, and its first heading offered as its title', async ({ page }) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home\n  Visit')
  await openView(page, 'Pages')
  await write(page, 'Visit', '<h2>Coming to the chapel across the pans</h2>')
  await page.getByLabel('Description').fill('How to come, when to go, and what to bring. '.repeat(8))
  await page.keyboard.press('Enter')
  await page.getByRole('button', { name: 'As it is found' }).click()
  const found = page.getByRole('dialog', { name: 'As it is found' })
  await expect(found.getByText('Title in a tab: 22 letters, all of it seen')).toBeVisible()
  await expect(found.getByText(/^Description: \d+ letters, cut off/)).toBeVisible()
  await expectAccessible(page)
  await found.getByRole('button', { name: 'Make it the title' }).click()
  await expect(found.getByText('Title in a tab: 53 letters, cut off')).toBeVisible()
  await found.getByRole('button', { name: /^What stands around its title/ }).click()
  await page.getByRole('menuitemradio', { name: /^by itself/ }).click()
  await expect(found.getByText('Title in a tab: 36 letters, cut off')).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(page.getByLabel('Title', { exact: true })).toHaveValue('Coming to the chapel across the pans')
  // One that has no room in a list of results either.
  await page
    .getByLabel('Title', { exact: true })
    .fill('Coming to the chapel across the pans '.repeat(4).trim())
  await page.keyboard.press('Enter')
  await page.getByRole('button', { name: 'As it is found' }).click()
  await expect(found.getByText('Title in a list of results: 147 letters, cut off')).toBeVisible()
  await page.keyboard.press('Escape')
  await allSaved(page)
})

test('words and lines are put into elements, by a menu and by keys, and taken out again', async ({
  page,
}) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home\n  Visit')
  await openView(page, 'Pages')
  const text = editor(page, 'Home')
  const choose = async (element: string) => {
    await page.getByRole('button', { name: 'Elements' }).click()
    await page.getByRole('menuitem', { name: `<${element}>` }).click()
  }
  await text.click()
  await page.keyboard.insertText('High water\nThe last boat leaves at noon.\nBread\nMilk')
  await page.keyboard.press('Control+Home')
  await choose('h2')
  await expect(text).toContainText('<h2>High water</h2>')
  // The text has the focus again, and is written on in.
  await page.keyboard.press('ArrowDown')
  await choose('p')
  await expect(text).toContainText('<p>The last boat leaves at noon.</p>')
  for (let letter = 0; letter < 6; letter++) await page.keyboard.press('ArrowLeft')
  await page.keyboard.press('Control+b')
  await expect(text).toContainText('at <strong>noon</strong>.</p>')
  await page.keyboard.press('Control+b')
  await expect(text).toContainText('at noon.</p>')
  await page.keyboard.press('Control+i')
  await expect(text).toContainText('at <em>noon</em>.</p>')
  await page.keyboard.press('Control+End')
  await page.keyboard.press('Shift+ArrowUp')
  await choose('ul')
  await expect(
    page
      .frameLocator('iframe')
      .getByRole('listitem')
      .filter({ hasText: /Bread|Milk/ }),
  ).toHaveText(['Bread', 'Milk'])
  await expect(page.frameLocator('iframe').getByRole('heading', { level: 2 })).toHaveText('High water')
  // One step of undo each.
  await page.keyboard.press('Control+z')
  await expect(text).not.toContainText('<ul>')
  await allSaved(page)
  // Where it cannot stand it says so, and nothing is done.
  await page.keyboard.press('Control+Home')
  await page.keyboard.press('ArrowRight')
  await choose('strong')
  await expect(page.getByText('No <strong> can stand where the cursor is')).toBeVisible()
  await page.getByRole('button', { name: 'Elements' }).click()
  await page.keyboard.press('Escape')
  await expect(page.getByRole('button', { name: 'Elements' })).toBeFocused()
})
