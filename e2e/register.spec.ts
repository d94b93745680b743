import { expect, type Page, test } from '@playwright/test'
import { allSaved, expectAccessible, expectLabels, makeSite, openView, row, signUp } from './support'

const plan = 'Saltpan Chapel\n  Visit\n    Getting here\n  The bell\n  Contact'

test.beforeEach(async ({ page }) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', plan)
})

test('the plan is edited by keyboard alone, and undone after a reload', async ({ page }) => {
  await row(page, /Visit/).click()
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('ArrowDown')
  await expect(row(page, /The bell/)).toBeFocused()
  await page.keyboard.press('Tab')
  await expect(row(page, /The bell/)).toHaveAttribute('aria-level', '2')
  await expect(row(page, /The bell/)).toContainText('visit/the-bell.html')
  await page.keyboard.press('Alt+ArrowUp')
  await expectLabels(page, ['Saltpan Chapel', 'Visit', 'The bell', 'Getting here', 'Contact'])
  await page.keyboard.press('Shift+Tab')
  await expect(row(page, /The bell/)).toHaveAttribute('aria-level', '1')
  // In the menu of its row keys are for that.
  await page.keyboard.press('Shift+F10')
  await expect(page.getByRole('menu')).toBeFocused()
  await page.keyboard.press('ArrowDown')
  await expect(page.getByRole('menuitem', { name: 'Rename' })).toBeFocused()
  await page.keyboard.press('ArrowDown')
  await expect(page.getByRole('menuitem', { name: 'Add a page after it' })).toBeFocused()
  await expect(row(page, /The bell/)).toHaveAttribute('aria-selected', 'true')
  await page.keyboard.press('ArrowUp')
  await page.keyboard.press('Enter')
  await page.keyboard.type('The great bell')
  await page.keyboard.press('Enter')
  await expect(row(page, /The great bell/)).toContainText('the-great-bell.html')
  await allSaved(page)

  await page.reload()
  await expect(row(page, /The great bell/)).toBeVisible()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(row(page, /The bell/)).toContainText('the-bell.html')
  for (let step = 0; step < 3; step++) {
    await page.getByRole('button', { name: 'Undo' }).click()
    await allSaved(page)
  }
  await expect(row(page, /The bell/)).toHaveAttribute('aria-level', '1')
  await expectLabels(page, ['Saltpan Chapel', 'Visit', 'Getting here', 'The bell', 'Contact'])
  await expect(page.getByRole('button', { name: 'Undo' })).toBeDisabled()
  await page.getByRole('button', { name: 'Redo' }).click()
  await expect(row(page, /The bell/)).toHaveAttribute('aria-level', '2')
})

test('a branch is removed after its ripple was shown, with what links there', async ({ page }) => {
  await row(page, /Contact/).click()
  await openView(page, 'Pages')
  await page.getByRole('textbox', { name: 'Content of Contact' }).click()
  await page.keyboard.type('<a href="/visit/getting-here.html">way')
  await expect(page.frameLocator('iframe').getByRole('link', { name: 'way' })).toBeVisible()
  await allSaved(page)
  await openView(page, 'Plan')
  await row(page, /Visit/).click()
  await page.keyboard.press('Delete')
  await expect(
    page.getByText(
      '“Visit” and 1 page below it leave the site and every menu: 1 link in other pages will lead nowhere.',
    ),
  ).toBeVisible()
  await page.keyboard.press('Enter')
  await expectLabels(page, ['Saltpan Chapel', 'The bell', 'Contact'])
  await openView(page, 'Checks')
  await expect(
    page.getByText('/visit/getting-here.html leads to no page or file of this site.'),
  ).toBeVisible()
})

test('what is clicked on before the window hears anything is done once it does, and once', async ({
  page,
}) => {
  await row(page, /Contact/).click()
  for (const label of ['One', 'Two']) {
    await page.keyboard.press('Enter')
    await page.keyboard.type(label)
    await page.keyboard.press('Enter')
    await page.keyboard.press('Escape')
  }
  await allSaved(page)
  let load = () => {}
  const held = new Promise<void>((resolve) => (load = resolve))
  await page.route(/assets\/entry\.client/, async (route) => {
    await held
    await route.continue()
  })
  await page.reload({ waitUntil: 'commit' })
  const undo = page.getByRole('button', { name: 'Undo' })
  await undo.click()
  await undo.click()
  load()
  await expect(row(page, /Two/)).toHaveCount(0)
  await allSaved(page)
  await expect(row(page, /One/)).toBeVisible()
})

test.describe('a page that others link to', () => {
  const content = (page: Page) => page.getByRole('textbox', { name: 'Content of Contact' })
  test.beforeEach(async ({ page }) => {
    await row(page, /Contact/).click()
    await openView(page, 'Pages')
    await content(page).click()
    await page.keyboard.type('<a href="/visit/getting-here.html">way')
    await expect(page.frameLocator('iframe').getByRole('link', { name: 'way' })).toBeVisible()
    await allSaved(page)
    await row(page, /Getting here/).click()
  })

  test('shows what a new label touches while it is typed, and takes the links along', async ({ page }) => {
    await page.keyboard.press('F2')
    await page.keyboard.type('By boat')
    await expect(
      page.getByText('With this label 1 file changes name, 1 link is rewritten; menus follow.'),
    ).toBeVisible()
    const lines = page.getByRole('region', { name: 'Files and lines that change' })
    await expect(lines).toContainText('contact.html:1/visit/getting-here.html/visit/by-boat.html')
    // Looking at them does not end the typing.
    await lines.click()
    await expect(page.getByRole('textbox', { name: 'New label for Getting here' })).toBeFocused()
    await page.keyboard.press('Enter')
    await row(page, /Contact/).click()
    await expect(content(page)).toContainText('/visit/by-boat.html')
  })

  test('is moved only after the ripple was shown, also where that comes late', async ({ page }) => {
    await openView(page, 'Plan')
    await row(page, /Getting here/).click()
    await page.keyboard.press('Shift+Tab')
    const question = page.getByRole('group', { name: 'Move' })
    await expect(question).toContainText(
      '“Getting here” goes to the top level: 2 files change name, 1 link is rewritten; menus follow.',
    )
    await expectAccessible(page)
    // It shows as it would be, and is stored nowhere yet.
    await expect(row(page, /Getting here/)).toHaveAttribute('aria-level', '1')
    await page.keyboard.press('Escape')
    await expect(row(page, /Getting here/)).toHaveAttribute('aria-level', '2')
    await expect(row(page, /Getting here/)).toBeFocused()
    await page.keyboard.press('Shift+Tab')
    await expect(question).toBeVisible()
    await page.keyboard.press('Enter')
    await allSaved(page)
    await expect(row(page, /Getting here/)).toBeFocused()
    await page.reload()
    await expect(row(page, /Getting here/)).toHaveAttribute('aria-level', '1')
    await row(page, /Contact/).click()
    await openView(page, 'Pages')
    await expect(content(page)).toContainText('"/getting-here.html"')
  })
})

test('a pasted outline becomes pages; the second window sees them', async ({ page, context }) => {
  const second = await context.newPage()
  await second.goto(page.url())
  await expect(row(second, /Contact/)).toBeVisible()
  await row(page, /The bell/).click()
  const paste = (text: string) =>
    page.evaluate((pasted) => {
      const data = new DataTransfer()
      data.setData('text/plain', pasted)
      document.activeElement!.dispatchEvent(
        new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }),
      )
    }, text)
  await paste('<opml version="2.0"><body>\n<outline text="Concerts">\n</body></opml>')
  await expect(page.getByRole('alert')).toContainText('What was pasted, line 3: Here the file stops')
  await row(page, /The bell/).click()
  await paste('Concerts\n  Spring\n  Autumn')
  const expected = [
    'Saltpan Chapel',
    'Visit',
    'Getting here',
    'The bell',
    'Concerts',
    'Spring',
    'Autumn',
    'Contact',
  ]
  await expectLabels(page, expected)
  await expectLabels(second, expected)
})

test('two windows on one field: the second is told, and loses nothing', async ({ page, context }) => {
  const second = await context.newPage()
  await second.goto(page.url())
  await expect(row(second, /Contact/)).toBeVisible()
  // The second window has begun to type before the first one saves.
  await row(second, /Contact/).click()
  await second.keyboard.press('F2')
  await second.keyboard.type('Write to us')
  await row(page, /Contact/).click()
  await page.keyboard.press('F2')
  await page.keyboard.type('Reach us')
  await page.keyboard.press('Enter')
  await allSaved(page)
  await second.keyboard.press('Enter')
  await expect(second.getByText('You typed “Write to us”; it is now “Reach us”.')).toBeVisible()
  await second.getByRole('button', { name: 'Use what I typed' }).click()
  await expect(row(page, /Write to us/)).toBeVisible()
})

test('what was typed while the server was away is saved when it is back', async ({ page }) => {
  await page.route('**/changes', (route) => route.abort())
  await row(page, /Contact/).click()
  await page.keyboard.press('F2')
  await page.keyboard.type('Reach us')
  await page.keyboard.press('Enter')
  await expect(page.getByText('Not saved: no connection.')).toBeVisible()
  await page.unroute('**/changes')
  await allSaved(page)
  await page.reload()
  await expect(row(page, /Reach us/)).toBeVisible()
})

test('every view is free of what axe finds', async ({ page }) => {
  for (const view of ['Plan', 'Names', 'Template', 'Pages', 'Checks', 'Upload']) {
    await openView(page, view)
    await page.waitForURL(new RegExp(view.toLowerCase()))
    await expect(page.getByRole('region', { name: view, exact: true })).toBeVisible()
    await expectAccessible(page)
  }
  for (const address of ['/sites', '/sites/new']) {
    await page.goto(address)
    await expectAccessible(page)
  }
})

/** Opens the menu of a page's row. */
const openMenu = async (page: Page, label: string) => {
  await row(page, label).getByText(label, { exact: true }).click()
  await page.getByRole('button', { name: `What can be done with ${label}` }).click()
}

test('the plan is edited by mouse alone', async ({ page }) => {
  await openMenu(page, 'Contact')
  await expect(page.getByRole('menu', { name: 'What can be done with Contact' })).toBeVisible()
  await expect(page.getByRole('menuitem', { name: 'Move down' })).toBeDisabled()
  await page.getByRole('menuitem', { name: 'Move up' }).click()
  await expectLabels(page, ['Saltpan Chapel', 'Visit', 'Getting here', 'Contact', 'The bell'])
  await openMenu(page, 'Contact')
  await page.getByRole('menuitem', { name: 'Rename' }).click()
  await page.getByLabel('New label for Contact').fill('Write to us')
  await row(page, /The bell/).click()
  await expect(row(page, /Write to us/)).toContainText('write-to-us.html')
  // What is pressed with the other button is chosen first.
  await row(page, /Visit/).click({ button: 'right' })
  await page.getByRole('menuitem', { name: 'Add a page under it' }).click()
  await page.getByLabel('Label of the new page').fill('Prices')
  await page.getByRole('button', { name: 'Add a page Enter' }).click()
  await expect(row(page, /Prices/)).toContainText('visit/prices.html')
  await page.getByLabel('Label of the new page').fill('Stairs')
  await row(page, /The bell/).click()
  await expectLabels(page, ['Saltpan Chapel', 'Visit', 'Getting here', 'Prices', 'Stairs', 'Write to us', 'The bell']) // prettier-ignore
  await openMenu(page, 'Stairs')
  await page.getByRole('menuitem', { name: 'Remove, with all below' }).click()
  await page.getByRole('button', { name: 'Remove it' }).click()
  await expect(row(page, /Stairs/)).toBeHidden()
  // Several at once; elsewhere a page is renamed alone.
  await row(page, /The bell/).click({ modifiers: ['Shift'] })
  await row(page, /The bell/).click({ button: 'right' })
  await expect(page.getByRole('menu', { name: /What can be done with \d pages/ })).toBeVisible()
  await expect(page.getByRole('menuitem', { name: 'Rename' })).toBeDisabled()
  await page.keyboard.press('Escape')
  await openView(page, 'Names')
  await row(page, /Visit/).click()
  await page.keyboard.press('Shift+F10')
  await expect(page.getByRole('menuitem')).toHaveText([/Rename/])
  await page.keyboard.press('Escape')
  await expect(row(page, /Visit/)).toBeFocused()
})

/** Drags a page to a place between rows, `aside` pixels to the side; what holds it is not let go of. */
async function drag(page: Page, label: string, above: string, aside = 0): Promise<void> {
  const from = (await row(page, label).getByText(label, { exact: true }).boundingBox())!
  const to = (await row(page, above).boundingBox())!
  await page.mouse.move(from.x + 10, from.y + 10)
  await page.mouse.down()
  await page.mouse.move(from.x + 20, from.y + 16, { steps: 4 })
  await page.mouse.move(from.x + 10 + aside, to.y + to.height - 3, { steps: 6 })
}

test('pages are dragged to another place and level', async ({ page }) => {
  await drag(page, 'Contact', 'Saltpan Chapel')
  await page.keyboard.press('Escape')
  await page.mouse.up()
  await drag(page, 'Contact', 'Getting here')
  await page.mouse.up()
  // Another order under the same page touches nothing that would be asked about.
  await expectLabels(page, ['Saltpan Chapel', 'Visit', 'Getting here', 'Contact', 'The bell'])
  await drag(page, 'The bell', 'Getting here', 24)
  await page.mouse.up()
  await expect(page.getByText('“The bell” goes under “Visit”')).toBeVisible()
  await page.getByRole('button', { name: 'Move it' }).click()
  await expect(row(page, /The bell/)).toContainText('visit/the-bell.html')
  // A press that slips is a press.
  const { x, y } = (await row(page, /Contact/).boundingBox())!
  await page.mouse.move(x + 100, y + 16)
  await page.mouse.down()
  await page.mouse.move(x + 102, y + 18)
  await page.mouse.up()
  await expect(row(page, /Contact/)).toHaveAttribute('aria-selected', 'true')
  await expectLabels(page, ['Saltpan Chapel', 'Visit', 'Getting here', 'The bell', 'Contact'])
})

test('keys are called as they are on the keyboard at hand, and delete as there', async ({ page }) => {
  await page.addInitScript(() => {
    Object.defineProperty(navigator, 'platform', { get: () => 'MacIntel' })
  })
  await page.reload()
  await row(page, /Contact/).click()
  await page.keyboard.press('Backspace')
  await page.keyboard.press('Enter')
  await expect(row(page, /Contact/)).toBeHidden()
  await expect(page.getByRole('button', { name: 'Undo' })).toHaveAttribute('title', /“Contact” \(⌘Z\)$/)
  await page.keyboard.press('Meta+z')
  await expect(row(page, /Contact/)).toBeVisible()
})
