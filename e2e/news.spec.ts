import { expect, test } from '@playwright/test'
import { allSaved, expectAccessible, makeSite, openView, pick, row, signUp, write } from './support'

test('what is new in a dated section is listed on other pages and told in a feed, and follows the plan', async ({
  page,
}) => {
  await signUp(page)
  await makeSite(
    page,
    'Harbour Club',
    'Home\n  News\n    The pier is mended, 14 June 2030\n    Gale warning, 3 March 2031\n    Regatta\n  Contact',
  )
  await row(page, /^\d+ News/).click()
  await pick(page, 'Names of its pages', /with a date in front/)
  await expect(row(page, /Gale warning/)).toContainText('2031-03-03-gale-warning.html')
  await row(page, /Regatta/).click()
  await page.getByRole('button', { name: /^Date of this page: not known/ }).click()
  await page.getByRole('textbox', { name: 'Date of this page' }).fill('2031-07')
  await page.keyboard.press('Enter')
  await expect(row(page, /Regatta/)).toContainText('2031-07-regatta.html')

  // A list of the newest, put into the template by name.
  await openView(page, 'Template')
  await row(page, /Contact/).click()
  await page.getByRole('button', { name: 'Put in a menu or list…' }).click()
  await page.getByRole('menuitem', { name: /^The newest pages/ }).click()
  const result = page.getByRole('textbox', { name: /that results/ })
  await expect(result).toContainText(
    '<time datetime="2031-07">July 2031</time> <a href="news/2031-07-regatta.html">Regatta</a>',
  )
  await page.getByRole('button', { name: 'the newest pages', exact: true }).click()
  await page.getByLabel('How many').selectOption('three')
  await expectAccessible(page)
  await page.getByLabel('Dates of pages').selectOption('are left out')
  await page.keyboard.press('Escape')
  await expect(result).not.toContainText('<time')
  await allSaved(page)

  // A feed, once the site says where it is; a line of the head names it.
  await pick(page, 'Feed of what is new: no feed', /^a feed of what is new, once it has an address/)
  await expect(page.getByRole('button', { name: /: a feed of what is new, once/ })).toBeVisible()
  await allSaved(page)
  await page.getByRole('button', { name: /^Address of the site/ }).click()
  await page.getByRole('textbox', { name: 'Address of the site' }).fill('harbour.example')
  await page.keyboard.press('Enter')
  await expect(
    page.getByRole('button', { name: 'Feed of what is new: a feed of what is new', exact: true }),
  ).toBeVisible()
  await allSaved(page)
  await expect(result).toContainText('title="Harbour Club" href="https://harbour.example/feed.xml"')
  // What is made and what names it are one step.
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByRole('button', { name: /^Address of the site: no address yet/ })).toBeVisible()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByRole('button', { name: 'Feed of what is new: no feed' })).toBeVisible()
  await expect(page.getByRole('textbox', { name: /^Source of/ })).not.toContainText('{feed}')
  for (const words of [/: a feed of what is new, once/, /: a feed of what is new$/]) {
    await page.getByRole('button', { name: 'Redo' }).click()
    await expect(page.getByRole('button', { name: words })).toBeVisible()
  }

  await openView(page, 'Pages')
  await write(page, 'Regatta', '<p>Boats at <a href="/contact.html">noon</a>.</p>')
  await expect(page.frameLocator('iframe').locator('body')).toContainText('Boats at')
  const shown = await page
    .frameLocator('iframe')
    .locator('body')
    .evaluate(() => location.href)
  const address = new URL('../feed.xml', shown).href
  const told = await (await page.request.get(address)).text()
  expect([...told.matchAll(/<title>(.*?)<\/title>/g)].map(([, title]) => title)).toEqual([
    'Harbour Club',
    'Regatta',
    'Gale warning, 3 March 2031',
    'The pier is mended, 14 June 2030',
  ])
  expect(told).toContain(
    'xml:base="https://harbour.example/news/2031-07-regatta.html">&lt;p&gt;Boats at &lt;a href="../contact.html"&gt;',
  )
  const head = await page
    .frameLocator('iframe')
    .locator('link[type="application/atom+xml"]')
    .getAttribute('href')
  expect(head).toBe('https://harbour.example/feed.xml')
})
