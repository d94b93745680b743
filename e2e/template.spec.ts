import { expect, type Page, test } from '@playwright/test'
import { allSaved, expectAccessible, makeSite, openView, row, signUp } from './support'

const result = (page: Page) => page.getByRole('textbox', { name: 'HTML of the page that results' })
const pick = async (page: Page, label: RegExp, option: RegExp) => {
  await page.getByRole('button', { name: label }).click()
  await page.getByRole('menuitemradio', { name: option }).click()
}

test('a second template is based on the first, used for a branch, and its slots are written and kept', async ({
  page,
}) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home\n  Visit\n    Tides\n    Ferry\n  Contact')
  await row(page, /Tides/).click()
  await openView(page, 'Template')
  await page.getByRole('button', { name: 'New template' }).click()
  await page.getByLabel('What it is called').fill('With a side')
  await page.getByRole('button', { name: 'Make it' }).click()
  await expect(page.getByRole('tab', { name: 'With a side', selected: true })).toBeVisible()
  const source = page.getByRole('textbox', { name: 'Source of With a side' })
  await source.click()
  await page.keyboard.press('Control+a')
  await page.keyboard.insertText(
    '<template slot="content">\n  <slot></slot>\n  <aside>\n    <slot name="beside"></slot>\n  </aside>\n</template>\n',
  )
  await allSaved(page)

  // Nothing is made with it yet; then all pages below Visit are.
  await row(page, /Visit/).click()
  await pick(page, /^Template of the pages below/, /^With a side/)
  await expect(row(page, /Ferry/)).toContainText('With a side')
  await expect(row(page, /Contact/)).toContainText('Shared template')
  await expectAccessible(page)

  await openView(page, 'Pages')
  await row(page, /Tides/).click()
  await page.getByRole('button', { name: 'beside', exact: true }).click()
  await page.getByRole('textbox', { name: 'beside of Tides' }).click()
  await page.keyboard.insertText('<p>Ask the pilot.</p>')
  await expect(page.frameLocator('iframe').getByRole('complementary')).toContainText('Ask the pilot.')
  await expectAccessible(page)
  await allSaved(page)

  // Another template would hide what is written there: that is said first.
  await openView(page, 'Template')
  await pick(page, /^Template of the page:/, /^Shared template/)
  const question = page.getByRole('group', { name: 'Template', exact: true })
  await expect(question).toContainText('what “beside” of 1 page holds is kept and no longer shown')
  await question.getByRole('button', { name: 'Use it' }).click()
  await expect(row(page, /Tides/)).toContainText('Shared template')
  await allSaved(page)
  await openView(page, 'Checks')
  await expect(page.getByText('The template “Shared template” has no slot “beside”')).toBeVisible()
  await openView(page, 'Pages')
  await page.getByRole('button', { name: /^beside/ }).click()
  await page.getByRole('button', { name: 'Move it to “content”' }).click()
  await expect(page.frameLocator('iframe').getByRole('main')).toContainText('Ask the pilot.')
  await expect(page.getByRole('group', { name: 'Slots of the page' })).toHaveText('What the page says')
  await allSaved(page)
})

test('the skeleton is read and chosen as a sentence, and written in the source', async ({ page }) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home\n  Visit')
  await row(page, /Visit/).click()
  await openView(page, 'Template')
  await page.getByRole('button', { name: /^Author/ }).click()
  await page.getByRole('textbox', { name: 'Author' }).fill('The wardens')
  await page.keyboard.press('Enter')
  await expect(result(page)).toContainText('<meta name="author" content="The wardens">')
  await pick(page, /^Description/, /^states no description/)
  await expect(page.getByRole('textbox', { name: 'Source of Shared template' })).not.toContainText(
    '{description}',
  )
  await page.getByRole('button', { name: /^Style sheets/ }).click()
  await page.getByRole('checkbox', { name: 'site.css' }).uncheck()
  await expect(result(page)).not.toContainText('stylesheet')
  await page.getByRole('checkbox', { name: 'site.css' }).check()
  await expect(result(page)).toContainText('<link rel="stylesheet" href="styles/site.css">')
  await page.keyboard.press('Escape')
  await expect(result(page)).toContainText('<a href="index.html">Saltpan Chapel</a>')
  await pick(page, /^Links to sections/, /^its folder/)
  await expect(result(page)).toContainText('<a href="./">Saltpan Chapel</a>')
  await pick(page, /^Comments/, /^name the parts/)
  await expect(result(page)).toContainText('<!-- Main -->')
  await page.getByLabel('Home page’s title pattern').fill('{site}, on the pans')
  await page.keyboard.press('Enter')
  await row(page, /Home/).click()
  await expect(result(page)).toContainText('<title>Saltpan Chapel, on the pans</title>')
  await allSaved(page)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(result(page)).toContainText('<title>Home – Saltpan Chapel</title>')
})

test('a value that each page has of its own is written on a line, and left out where it is empty', async ({
  page,
}) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home\n  Visit\n  Tides')
  await row(page, /Visit/).click()
  await openView(page, 'Template')
  const source = page.getByRole('textbox', { name: 'Source of Shared template' })
  await source.click()
  await page.keyboard.press('Control+a')
  await page.keyboard.insertText(
    '<!DOCTYPE html>\n<html lang="{language}">\n<head><meta charset="utf-8"><title>{title}</title></head>\n<body class="{slot.mood}">\n<h1>{page}</h1>\n<slot name="content"></slot>\n</body>\n</html>\n',
  )
  await allSaved(page)
  await expect(result(page)).toContainText('<body>')
  await openView(page, 'Pages')
  await page.getByRole('button', { name: 'mood', exact: true }).click()
  await page.getByRole('textbox', { name: 'mood of Visit' }).fill('calm')
  await expect(page.frameLocator('iframe').locator('body')).toHaveClass('calm')
  await expectAccessible(page)
  await allSaved(page)
  await row(page, /Tides/).click()
  await expect(page.getByRole('textbox', { name: 'mood of Tides' })).toHaveValue('')
  await openView(page, 'Template')
  await expect(result(page)).toContainText('<body>')
  await row(page, /Visit/).click()
  await expect(result(page)).toContainText('<body class="calm">')
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(result(page)).toContainText('<body>')
})

test('where visitors find the site is said once, and references that name it so follow what they lead to', async ({
  page,
}) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home\n  Visit')
  await row(page, /Visit/).click()
  await openView(page, 'Template')
  const say = async (address: string) => {
    await page.getByRole('button', { name: /^Address of the site/ }).click()
    await page.getByRole('textbox', { name: 'Address of the site' }).fill(address)
    await page.keyboard.press('Enter')
  }
  await page.getByRole('button', { name: /^Address of the site: no address yet/ }).click()
  await page.getByRole('textbox', { name: 'Address of the site' }).fill('by the sea')
  await expect(page.getByRole('alert')).toContainText('names a host')
  await expectAccessible(page)
  await page.keyboard.press('Escape')
  await say('saltpan.example/chapel')
  await pick(page, /^Its own address/, /^its address/)
  await expect(result(page)).toContainText(
    '<link rel="canonical" href="https://saltpan.example/chapel/visit.html">',
  )
  await allSaved(page)

  await openView(page, 'Pages')
  await page.getByRole('textbox', { name: 'Content of Visit' }).click()
  await page.keyboard.insertText(
    '<p><a href="https://saltpan.example/chapel/visit.html">Here</a> <a href="https://saltpan.example/chapel/lost.html">Lost</a></p>',
  )
  await allSaved(page)
  await openView(page, 'Checks')
  await expect(
    page.getByText('https://saltpan.example/chapel/lost.html leads to no page or file'),
  ).toBeVisible()
  await expect(page.getByText('{address}')).toHaveCount(0)

  await openView(page, 'Template')
  await say('https://pans.example/')
  const question = page.getByRole('group', { name: 'Setting', exact: true })
  await expect(question).toContainText('2 links are rewritten')
  await question.getByRole('button', { name: 'Use it' }).click()
  await expect(result(page)).toContainText('<a href="https://pans.example/visit.html">Here</a>')
  await expect(result(page)).toContainText('<link rel="canonical" href="https://pans.example/visit.html">')
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(result(page)).toContainText('<a href="https://saltpan.example/chapel/visit.html">Here</a>')

  // A list of its pages is made from it, and is among its files.
  await pick(page, /^List of pages for search engines: no list/, /^a list of all pages/)
  await allSaved(page)
  await openView(page, 'Pages')
  await expect(page.frameLocator('iframe').locator('body')).toContainText('Here')
  const shown = await page.locator('iframe').getAttribute('src')
  const list = await page.request.get(new URL('sitemap.xml', new URL(shown!, page.url())).href)
  expect(await list.text()).toContain('<loc>https://saltpan.example/chapel/visit.html</loc>')
})

test('each line of the page that results says what it is for and what wrote it, and leads there', async ({
  page,
}) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home\n  Visit')
  await row(page, /Visit/).click()
  await openView(page, 'Template')
  const line = (text: string) => result(page).locator('.cm-line', { hasText: text }).first()
  await line('<title>').click()
  await expect(page.getByText('Line 6', { exact: true })).toBeVisible()
  await expect(page.getByText('What the tab, a bookmark and a list of results call the page.')).toBeVisible()
  await expect(page.getByText('{title} of line 6 of Shared template: the title pattern above')).toBeVisible()
  // The keyboard goes through it line by line.
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('ArrowDown')
  await expect(page.getByText('The style sheet: how the page looks.')).toBeVisible()
  await expectAccessible(page)
  await line('<nav class="site-menu"').click()
  await expect(page.getByText('by <site-menu>')).toBeVisible()
  await page.getByRole('button', { name: 'line 14 of Shared template' }).click()
  const source = page.getByRole('textbox', { name: 'Source of Shared template' })
  await expect(source).toBeFocused()
  await expect(source.locator('.cm-activeLine')).toContainText('<site-menu')
})

test('a style sheet is made from a few choices, seen at once, and its author’s own from the first letter', async ({
  page,
}) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home\n  Visit')
  await openView(page, 'Template')
  await page.getByRole('tab', { name: 'site.css' }).click()
  await pick(page, /^Face of the headings/, /^a plain sans/)
  await pick(page, /^Menu/, /^down the side/)
  const body = page.frameLocator('iframe').locator('body')
  await page.getByRole('button', { name: 'As on a desktop' }).click()
  await expect(body).toHaveCSS('display', 'grid')
  await expect(page.frameLocator('iframe').getByRole('heading', { level: 1 })).toHaveCSS(
    'font-family',
    /system-ui/,
  )
  // A colour that cannot be read is written as one that can.
  await page.getByLabel('Colour of links').fill('#ffee88')
  await page.getByLabel('Colour of links').press('Enter')
  await expect(page.getByText(/written as #[0-9a-f]{6} to be read, contrast 4\.5 : 1/)).toBeVisible()
  await expectAccessible(page)
  const source = page.getByRole('textbox', { name: 'Source of site.css' })
  await source.click()
  await page.keyboard.press('Control+Home')
  await page.keyboard.insertText('body { letter-spacing: 1px }\n')
  await expect(page.getByText('site.css is CSS of your own.')).toBeVisible()
  await expect(body).toHaveCSS('letter-spacing', '1px')
  await page.getByRole('button', { name: 'Make it anew from a few choices' }).click()
  await page.getByRole('button', { name: 'Make it anew', exact: true }).click()
  await expect(body).toHaveCSS('letter-spacing', 'normal')
  await allSaved(page)
})

test('a design made on a trial page becomes a template, and the trial page goes', async ({ page }) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home\n  Visit\n  Card (trial page)')
  await openView(page, 'Pages')
  await row(page, /Card/).click()
  await page.getByRole('textbox', { name: 'Content of Card' }).click()
  await page.keyboard.insertText('<div class="card">\n  <p>Filler</p>\n</div>')
  await allSaved(page)
  await page.getByRole('button', { name: 'Make it a template' }).click()
  const dialog = page.getByRole('dialog', { name: 'A template of this design' })
  await expect(dialog.getByText('It has no slot yet')).toBeVisible()
  const design = dialog.getByRole('textbox', { name: 'The design' })
  await design.getByText('Filler').dblclick()
  await page.keyboard.press('Home')
  await page.keyboard.press('Shift+End')
  await dialog.getByRole('button', { name: 'make a slot of it' }).click()
  await expect(design).toContainText('<slot name="content"></slot>')
  await expectAccessible(page)
  await dialog.getByRole('button', { name: 'Make the template' }).click()
  await page.getByRole('group', { name: 'Remove' }).getByRole('button', { name: 'Remove it' }).click()
  await expect(row(page, /Card/)).toHaveCount(0)
  await openView(page, 'Template')
  await page.getByRole('tab', { name: 'Card' }).click()
  await expect(page.getByRole('textbox', { name: 'Source of Card' })).toContainText('<div class="card">')
  await row(page, /Visit/).click()
  await pick(page, /^Template of the page:/, /^Card/)
  await expect(result(page)).toContainText('<h1>Visit</h1>')
  await expect(row(page, /Visit/)).toContainText('Card')
  await allSaved(page)
})

test('the menus of a template are told in its sentence, changed there and put in, by keyboard alone', async ({
  page,
}) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home\n  Visit\n    Tides\n    Ferry\n  Contact')
  await row(page, /Tides/).click()
  await openView(page, 'Template')
  const source = page.getByRole('textbox', { name: 'Source of Shared template' })
  const menu = page.getByRole('button', { name: 'a menu of the site', exact: true })
  await menu.focus()
  await page.keyboard.press('Enter')
  const choices = page.getByRole('dialog', { name: 'a menu of the site' })
  await choices.getByLabel('How deep').selectOption({ label: 'two levels' })
  await choices.getByLabel('Looks like').selectOption({ label: 'one line, with | between' })
  await choices.getByLabel('Screen readers call it').fill('All pages')
  await expectAccessible(page)
  await page.keyboard.press('Enter')
  await expect(result(page)).toContainText('<nav aria-label="All pages"><a')
  await expect(result(page)).toContainText('</a> | <a')
  await page.keyboard.press('Escape')
  await expect(menu).toBeFocused()

  // A second one goes to the foot; the two are told apart by what they are called.
  await page.getByRole('button', { name: 'Put in a menu or list…' }).focus()
  await page.keyboard.press('Enter')
  await page.keyboard.press('Enter')
  await expect(source).toBeFocused()
  await page.getByRole('button', { name: 'a menu of the site “Main, again”' }).click()
  await expect(page.getByText('<site-menu> in line 23')).toBeVisible()
  await page.getByRole('button', { name: 'Take it out' }).click()
  await expect(menu).toBeVisible()
  await allSaved(page)
  for (let steps = 0; steps < 6 && (await page.getByRole('button', { name: 'Undo' }).isEnabled()); steps++) {
    await page.getByRole('button', { name: 'Undo' }).click()
    await allSaved(page)
  }
  await expect(result(page)).toContainText('<nav class="site-menu" aria-label="Main">')

  // What a part writes is written out, to be written otherwise: it stays a menu of the plan.
  await menu.focus()
  await page.keyboard.press('Enter')
  await page.getByRole('button', { name: 'Write its entries myself' }).focus()
  await page.keyboard.press('Enter')
  await expect(source).toContainText('<template which="own">')
  await expect(result(page)).toContainText('<nav class="site-menu" aria-label="Main">')
  await expect(result(page)).toContainText('<li><a href="../contact.html">Contact</a></li>')
  await menu.click()
  await expect(page.getByText('<template part="site-menu"> in line')).toBeVisible()
  await expect(page.getByLabel('Looks like')).toBeHidden()
  await expectAccessible(page)
  await page.keyboard.press('Escape')
  await page.getByText('{entry.label}').first().dblclick()
  await allSaved(page)

  // A template that shows pages whole makes nothing, and nothing can stand in front of a page.
  await source.click()
  await page.keyboard.press('Control+a')
  await page.keyboard.insertText('<slot name="content"></slot>\n')
  await expect(page.getByRole('button', { name: 'Put in a menu or list…' })).toBeHidden()
})
