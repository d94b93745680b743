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
  await allSaved(page)
})

test('a place clicked on in the preview leads to its line, and a line to its place', async ({ page }) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home\n  Visit')
  await openView(page, 'Pages')
  const lines = Array.from({ length: 60 }, (_, at) => `<p>Paragraph ${at}</p>`)
  await write(page, 'Visit', lines.join('\n'))
  const preview = page.frameLocator('iframe')
  await preview.getByText('Paragraph 2', { exact: true }).click()
  const active = editor(page, 'Visit').locator('.cm-activeLine')
  await expect(active).toHaveText('<p>Paragraph 2</p>')
  // And back: what the cursor is put on is brought into view.
  await expect(preview.getByText('Paragraph 59', { exact: true })).not.toBeInViewport()
  await page.keyboard.press('Control+End')
  await expect(preview.getByText('Paragraph 59', { exact: true })).toBeInViewport()
  await preview.getByRole('contentinfo').getByText('Saltpan Chapel').click()
  await expect(page.getByText(/^That stands in line \d+ of the template “Shared template”/)).toBeVisible()
})

test('a link of the preview that leaves the site says where it leads, and the page stays', async ({
  page,
}) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home\n  Visit')
  await openView(page, 'Pages')
  await write(
    page,
    'Home',
    '<p><a href="https://tides.example/a"><b>Tides</b></a> <a href="mailto:warden@saltpan.example">Mail</a> <a href="/visit.html" target="_blank">Visit us</a></p><svg width="90" height="20"><a href="https://tides.example/map"><text y="15">Map</text></a></svg><form action="/cgi/send" method="post"><button>Send</button></form><iframe title="Way" src="/visit.html"></iframe>',
  )
  const shown = page.frameLocator('iframe')
  const told = page.getByRole('status').filter({ hasText: 'That leads' })
  await shown.getByText('Tides').click()
  await expect(told).toContainText('to another site: https://tides.example/a')
  await expect(told.getByRole('link')).toHaveAttribute('href', 'https://tides.example/a')
  await expect(told.getByRole('link')).toHaveAttribute('rel', /noopener/)
  await expectAccessible(page)
  await shown.getByText('Map').click()
  await expect(told).toContainText('https://tides.example/map')
  await expect(shown.getByRole('link', { name: 'Mail' })).toBeVisible()
  await shown.getByRole('link', { name: 'Mail' }).click()
  await expect(told).toContainText('out of the browser: mailto:warden@saltpan.example')
  await told.getByRole('button', { name: 'Close' }).click()
  await expect(told).toHaveCount(0)
  await shown.getByRole('button', { name: 'Send' }).click()
  await expect(
    page.getByText('Nothing is sent from a preview. Visitors would send this form to /cgi/send'),
  ).toBeVisible()
  // A tab of its own is no part of the preview.
  await shown.getByRole('link', { name: 'Visit us' }).click()
  await expect(page.getByTestId('preview-title')).toHaveText('Visit – Saltpan Chapel')
  await write(page, 'Visit', '<p><a href="https://tides.example/b">Within</a></p>')
  await row(page, /Home/).click()
  await shown.frameLocator('iframe').getByRole('link', { name: 'Within' }).click()
  await expect(told).toContainText('https://tides.example/b')
})

test('what is saved while the preview is still being loaded is shown all the same', async ({ page }) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home')
  await openView(page, 'Pages')
  await write(page, 'Home', '<p>once</p>')
  await allSaved(page)
  const shown = page.frameLocator('iframe').getByRole('main')
  await expect(shown).toContainText('once')
  // A style sheet that is slow keeps the page from hearing anything.
  let letGo = () => {}
  const free = new Promise<void>((go) => (letGo = go))
  let held = 0
  await page.route('**/preview/**/site.css', async (route) => {
    held += 1
    if (held === 1) await free
    await route.continue()
  })
  await write(page, 'Home', '<p>twice</p>')
  await allSaved(page)
  await expect.poll(() => held).toBe(1)
  await write(page, 'Home', '<p>three times</p>')
  await allSaved(page)
  letGo()
  await expect(shown).toContainText('three times')
})

test('the preview has a tab of its own, which follows what is written elsewhere', async ({
  page,
  context,
}) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home\n  Visit')
  await openView(page, 'Pages')
  await row(page, /Visit/).click()
  const opened = context.waitForEvent('page')
  await page.getByRole('link', { name: 'In a tab of its own' }).click()
  const tab = await opened
  await expect(tab.frameLocator('iframe').getByRole('heading', { name: 'Visit' })).toBeVisible()
  await expectAccessible(tab)
  await write(page, 'Visit', '<p>Open on Sundays.</p>')
  await expect(tab.frameLocator('iframe').getByText('Open on Sundays.')).toBeVisible()
})
