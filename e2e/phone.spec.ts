import { expect, type Page, test } from '@playwright/test'
import { allSaved, expectAccessible, makeSite, openView, row, signUp } from './support'

// As wide as a phone, and as a window of 1280 pixels is that is enlarged four times (WCAG 2.2, 1.4.10).
test.use({ viewport: { width: 320, height: 640 } })

/** What is cut off at the right, or has no room at all, and cannot be scrolled to. */
const outOfSight = (page: Page) =>
  page.evaluate(() => {
    const isScrolled = (element: Element | null): boolean =>
      element !== null &&
      element !== document.body &&
      ((/auto|scroll/.test(getComputedStyle(element).overflowX) &&
        element.scrollWidth > element.clientWidth) ||
        isScrolled(element.parentElement))
    return [...document.querySelectorAll('a, button, input, h1, h2, p, th, td, label')]
      .filter((element) => element.checkVisibility({ visibilityProperty: true, contentVisibilityAuto: true }))
      .filter((element) => !element.closest('.sr-only, details:not([open]) > :not(summary)'))
      .filter((element) => {
        const { left, right, width } = element.getBoundingClientRect()
        const isCut =
          right > innerWidth + 1 ||
          left < -1 ||
          (width < 4 && (element.textContent.trim() !== '' || element.matches('input:not([type])')))
        return isCut && !isScrolled(element)
      })
      .map((element) => `${element.tagName} ${element.textContent.trim().slice(0, 40)}`)
      .concat(document.documentElement.scrollWidth > innerWidth ? ['the page itself'] : [])
  })

test('everything can be reached on a phone, one thing above the other', async ({ page }) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Saltpan Chapel\n  Visit\n    Gettting heere\n  Contact')
  const { pathname } = new URL(page.url())
  const site = pathname.split('/').slice(0, 3).join('/')
  const addresses = [
    ...['plan', 'names', 'template', 'pages', 'checks', 'upload', 'people'].map((view) => `${site}/${view}`),
    ...['/sites', '/sites/new', '/sites/bring', '/kits', '/account'],
  ]
  for (const address of addresses) {
    await page.goto(address)
    await expect(page.getByRole('main')).toBeVisible()
    await expect.poll(async () => [address, ...(await outOfSight(page))]).toEqual([address])
    const view = page.getByRole('navigation', { name: 'Views' }).locator('[aria-current]')
    if (/(plan|names|template|pages|checks|upload)$/.test(address))
      await expect(view).toBeInViewport({ ratio: 0.9 })
  }
  await page.goto(`${site}/checks/spelling`)
  await expect(page.getByRole('link', { name: 'Something else instead of heere' })).toBeVisible()
  await expect(page.getByRole('button', { name: 'here, instead of heere' })).toBeVisible()
  await expect.poll(() => outOfSight(page)).toEqual([])
})

test('a page is written above what it becomes', async ({ page }) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Saltpan Chapel\n  Visit')
  await page.getByRole('button', { name: 'Register' }).click()
  await row(page, /Visit/).click()
  await openView(page, 'Pages')
  const text = page.getByRole('textbox', { name: 'Content of Visit' })
  await text.click()
  await page.keyboard.type('<p>Come at low water.')
  const shown = page.frameLocator('iframe').getByText('Come at low water.')
  await expect(shown).toBeVisible()
  await allSaved(page)
  const [above, below] = [await text.boundingBox(), await page.locator('iframe').boundingBox()]
  expect(above!.y + above!.height).toBeLessThan(below!.y)
  expect(below!.x + below!.width).toBeLessThanOrEqual(320)
  await expectAccessible(page)
})

test('a template has room beneath its sentences, and the page that results beneath it', async ({ page }) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Saltpan Chapel\n  Visit')
  await openView(page, 'Template')
  for (const name of [/^Source of/, 'HTML of the page that results']) {
    const text = page.getByRole('textbox', { name })
    await text.scrollIntoViewIfNeeded()
    await text.click({ position: { x: 60, y: 20 } })
    expect((await text.locator('xpath=ancestor::div[contains(@class, "cm-editor")]').boundingBox())!.height).toBeGreaterThan(150)
  }
  await expectAccessible(page)
}) // prettier-ignore

test.describe('a window that is enlarged twice', () => {
  // A laptop's of 1280 by 640 (WCAG 2.2, 1.4.4).
  test.use({ viewport: { width: 640, height: 320 } })

  test('has room for what is written, and for what opens at a button', async ({ page }) => {
    await signUp(page)
    await makeSite(page, 'Saltpan Chapel', 'Saltpan Chapel\n  Visit')
    for (const [view, name] of [
      ['Template', /^Source of/],
      ['Template', 'HTML of the page that results'],
      ['Pages', 'Content of Saltpan Chapel'],
    ] as const) {
      await openView(page, view)
      const text = page.getByRole('textbox', { name })
      await text.click({ position: { x: 60, y: 20 } })
      const editor = page.locator('.cm-editor').filter({ has: text })
      expect((await editor.boundingBox())!.height).toBeGreaterThan(150)
      await expect(editor.locator('.cm-line').first()).toBeInViewport()
    }
    await page.getByRole('button', { name: 'As it is found' }).click()
    const found = page.getByRole('dialog', { name: 'As it is found' })
    const { y, height } = (await found.boundingBox())!
    expect(y).toBeGreaterThan(0)
    expect(y + height).toBeLessThan(320)
    // What has no room in it comes by scrolling.
    const last = found.locator('p').last()
    await last.scrollIntoViewIfNeeded()
    await expect(last).toBeInViewport({ ratio: 0.9 })
  })
})
