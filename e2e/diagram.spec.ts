import { readFile } from 'node:fs/promises'
import { expect, test } from '@playwright/test'
import { expectAccessible, expectLabels, makeSite, row, signUp } from './support'

const plan = 'Saltpan Chapel\n  Visit\n    Getting here\n  The bell\n  Contact'

test.beforeEach(async ({ page }) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', plan)
})

test('in the diagram a page is dragged onto another, with its ripple first; it is saved as SVG', async ({
  page,
}) => {
  const box = (label: string) => page.getByRole('treeitem', { name: label })
  const from = (await box('Contact').boundingBox())!
  const to = (await box('Visit').boundingBox())!
  await page.mouse.move(from.x + 10, from.y + 8)
  await page.mouse.down()
  await page.mouse.move(from.x + 30, from.y - 20, { steps: 4 })
  await page.mouse.move(to.x + 10, to.y + 8, { steps: 4 })
  await page.mouse.up()
  await expect(
    page.getByText('“Contact” goes under “Visit”: 1 file changes name, no link is touched; menus follow.'),
  ).toBeVisible()
  await page.getByRole('button', { name: 'Move it' }).click()
  await expectLabels(page, ['Saltpan Chapel', 'Visit', 'Getting here', 'Contact', 'The bell'])
  await box('Saltpan Chapel').focus()
  await page.keyboard.press('ArrowRight')
  await expect(box('Visit')).toBeFocused()
  await page.keyboard.press('Enter')
  await expect(box('Visit')).toHaveAttribute('aria-expanded', 'false')
  await expectAccessible(page)
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save as SVG' }).click(),
  ])
  const svg = await readFile(await download.path(), 'utf8')
  expect(svg).toContain('>The bell</text>')
  expect(svg).toContain('+2')
  const [picture] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'as PNG' }).click(),
  ])
  const png = await readFile(await picture.path())
  expect(png.subarray(1, 4).toString()).toBe('PNG')
  // Twice the size that the SVG says (its width stands at byte 16).
  const width = Number(/ width="([\d.]+)"/.exec(svg)![1])
  expect(png.readUInt32BE(16)).toBe(Math.ceil(width * 2))
})

test('the diagram of a large plan opens folded, is unfolded, moved through by keyboard, and printed', async ({
  page,
  context,
}) => {
  // What is sent to the printer is caught, and laid out on paper by the browser itself.
  await page.addInitScript(() => {
    window.print = () => {
      const rules = document.adoptedStyleSheets.flatMap((sheet) =>
        [...sheet.cssRules].map((rule) => rule.cssText),
      )
      Object.assign(window.top!, {
        printed: `<style>${rules.join('\n')}</style>${document.body.innerHTML}`,
      })
      window.dispatchEvent(new Event('afterprint'))
    }
  })
  const sections = Array.from({ length: 10 }, (_, section) =>
    [
      `  Section ${section + 1}`,
      ...Array.from({ length: 11 }, (_, index) => `    Page ${section + 1}.${index + 1}`),
    ].join('\n'),
  )
  await makeSite(page, 'Saltpan Chapel', ['Saltpan Chapel', ...sections].join('\n'))
  const box = (label: string) => page.getByRole('treeitem', { name: label, exact: true })
  await expect(box('Section 3 +11')).toBeVisible()
  await expect(page.getByRole('treeitem')).toHaveCount(11)
  await page.getByRole('button', { name: 'Unfold all' }).click()
  // Of a hundred and more only those near what shows are there.
  await expect(box('Section 5')).toHaveAttribute('aria-expanded', 'true')
  await expect(box('Section 1')).toHaveCount(0)

  // What is chosen in the diagram is chosen in the register, and the other way round.
  await row(page, /^3 Section 3/).click()
  await expect(box('Section 3')).toHaveAttribute('aria-selected', 'true')
  await expect(box('Section 3')).toBeInViewport()
  await box('Section 3').focus()
  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('ArrowDown')
  await expect(box('Page 3.2')).toBeFocused()
  await expect(row(page, /Page 3\.2/)).toHaveAttribute('aria-selected', 'true')
  await page.keyboard.press('ArrowLeft')
  await expect(box('Section 3')).toBeFocused()

  const pagesOfPaper = async (button: string) => {
    await page.getByRole('button', { name: button, exact: true }).click()
    await expect(page.locator('iframe')).toHaveCount(0)
    const paper = await context.newPage()
    await paper.setContent(await page.evaluate(() => (window as unknown as { printed: string }).printed))
    const pdf = await paper.pdf({ preferCSSPageSize: true })
    const labels = await paper.locator('svg text').allTextContents()
    const captions = await paper.locator('figcaption').allTextContents()
    await paper.close()
    return {
      sheets: pdf.toString('latin1').match(/\/Type \/Page\b/g)!.length,
      labels: new Set(labels),
      captions,
    }
  }
  const one = await pagesOfPaper('Print')
  expect([one.sheets, one.labels.size]).toEqual([1, 121])
  const across = await pagesOfPaper('Print across pages')
  expect(across.labels.size).toBe(121)
  expect(across.sheets).toBe(across.captions.length)
  expect(across.sheets).toBeGreaterThan(3)
  expect(across.captions[1]).toBe(`Plan of Saltpan Chapel, 2 of ${across.sheets}`)
})
