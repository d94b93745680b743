import { expect, type Page, test } from '@playwright/test'
import { allSaved, expectAccessible, makeSite, openView, row, signUp } from './support'

const options = (page: Page) => page.locator('.cm-tooltip-autocomplete li')

/** Takes what is offered. The editor takes Enter for typing that goes on while the list has just come up. */
async function accept(page: Page, text: string): Promise<void> {
  await expect(options(page).filter({ hasText: text }).first()).toBeVisible()
  await page.waitForTimeout(150)
  await page.keyboard.press('Enter')
  await expect(options(page)).toHaveCount(0)
}

/** Puts the cursor at the end of a text, and types. */
async function typeAtEnd(page: Page, editor: string, text: string): Promise<void> {
  await page.getByRole('textbox', { name: editor }).click()
  await page.keyboard.press('Control+End')
  await page.keyboard.type(text, { delay: 15 })
}

test('the editor of a page knows classes and ids, renames tags in pairs, and marks what leads nowhere', async ({
  page,
}) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home\n  Visit\n    Getting here')
  await openView(page, 'Pages')
  await row(page, /Getting here/).click()
  await page.getByRole('textbox', { name: 'Content of Getting here' }).click()
  await page.keyboard.insertText('<h2 id="by-boat">By boat</h2>')
  await allSaved(page)
  await row(page, /^1 Visit/).click()
  const editor = 'Content of Visit'
  const text = page.getByRole('textbox', { name: editor })
  await text.click()
  await page.keyboard.insertText('<h2 id="tides">Tides</h2>\n')

  // Classes that the style sheet has rules for.
  await typeAtEnd(page, editor, '<p class="with-s')
  await accept(page, 'with-side')
  await expect(text).toContainText('class="with-side"')
  // Ids of the text itself.
  await page.keyboard.press('Control+End')
  await page.keyboard.insertText('x</p>\n')
  await typeAtEnd(page, editor, '<a href="#ti')
  await accept(page, 'tides')
  await expect(text).toContainText('href="#tides"')
  // Those of the page that an address leads to.
  await page.keyboard.press('Control+End')
  await page.keyboard.insertText('x</a>\n')
  await typeAtEnd(page, editor, '<a href="getting-here.html#by')
  await accept(page, 'by-boat')
  await expect(text).toContainText('href="getting-here.html#by-boat"')

  // A name is typed once for both tags, also after it has been emptied; undone, both come back.
  await text.fill('<section>\n  <b>x</b>\n</section>\n')
  await page.keyboard.press('Control+Home')
  for (let at = 0; at < '<section'.length; at++) await page.keyboard.press('ArrowRight')
  for (let at = 0; at < 'section'.length; at++) await page.keyboard.press('Backspace')
  await expect(text).toHaveText('<>  <b>x</b></>')
  await page.keyboard.type('article')
  await page.keyboard.press('Escape')
  await expect(text).toHaveText('<article>  <b>x</b></article>')
  await page.keyboard.type(' class="a"')
  await expect(text).toContainText('<article class="a">')
  await expect(text).toContainText('</article>')

  // Where a link leads nowhere it is marked, and led to what was most likely meant.
  await text.fill('<p><a href="geting-here.html">by boat</a> and <a href="/visit/">the pier</a></p>\n')
  const marked = page.locator('.cm-lintRange')
  await expect(marked).toHaveText(['geting-here.html'])
  await marked.hover()
  await expect(page.getByText('geting-here.html leads to no page or file of this site.')).toBeVisible()
  await expectAccessible(page)
  await page.getByRole('button', { name: 'Lead it to getting-here.html' }).click()
  await expect(text).toContainText('<a href="getting-here.html">')
  await expect(marked).toHaveCount(0)
  await allSaved(page)
})

test('who types every end tag by hand has each of them once, and another tag stays what it is', async ({
  page,
}) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home\n  Visit')
  await openView(page, 'Pages')
  await row(page, /^1 Visit/).click()
  const text = page.getByRole('textbox', { name: 'Content of Visit' })
  const typed = async (keys: string) => {
    await text.click()
    await page.keyboard.press('Control+a')
    await page.keyboard.press('Delete')
    for (const part of keys.split(/(\[\w+\])/))
      if (part.startsWith('[')) await page.keyboard.press(part.slice(1, -1))
      else await page.keyboard.type(part)
    return text.evaluate((element) => (element as HTMLElement).innerText)
  }
  // Lines are indented, and nothing else is otherwise than it was typed.
  const whole =
    '<section>\n<h2>Tides</h2>\n<ul>\n<li>See <a href="/">the <em>whole</em> list</a></li>\n<li>b</li>\n</ul>\n</section>\n<p>End</p>'
  expect((await typed(whole)).replace(/^ +/gm, '')).toBe(whole)
  expect(await typed('<em>x</em>even')).toBe('<em>x</em>even')
  expect(await typed('<div><p>x</div>y')).toBe('<div><p>x</p></div>y')
  expect(await typed('<p>a</b>')).toBe('<p>a</b></p>')
  expect(await typed('<p>x</pr[Backspace]>y')).toBe('<p>x</p>y')
  expect(await typed('<p>x</[Backspace][Backspace]y')).toBe('<p>xy</p>')
  // End tags that may be left out, words with a quote or a bracket by itself, and text that is no markup.
  expect((await typed('<dl>\n<dt>A\n<dd>b\n<dt>C\n</dl>')).match(/<\/\w+>/g)).toEqual(['</dt>', '</dl>'])
  expect(await typed(`<p>'tis "so :-(</p><a title="x">y</a>`)).toBe(`<p>'tis "so :-(</p><a title="x">y</a>`)
  const style = '<style>\n  p { color: red; }\n</style>\n<p>x</p>'
  expect(await typed(style.replace('  p', 'p'))).toBe(style)
  expect(await typed('<pre>\n  a\n</pre>')).toBe('<pre>\n  a\n</pre>')
  // None waits for one that came otherwise.
  await typed('x')
  await page.keyboard.insertText('<p>')
  await page.keyboard.type('y</p>')
  expect(await text.evaluate((element) => (element as HTMLElement).innerText)).toBe('x<p>y</p>')
})

test('who types every closing bracket of a style sheet by hand has each of them once', async ({ page }) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home')
  await openView(page, 'Template')
  await page.getByRole('tab', { name: 'site.css' }).click()
  const text = page.getByRole('textbox', { name: /site\.css/ })
  await text.click()
  await page.keyboard.press('Control+a')
  await page.keyboard.press('Delete')
  const rules = '@media print {\nh1 {\ncolor: rgb(0 0 0);\n}\np { margin: 0; }\n}\np {\n}\n'
  await page.keyboard.type(rules)
  const lines = await text.evaluate((element) => (element as HTMLElement).innerText.split('\n'))
  expect(lines.map((line) => line.trim()).filter(Boolean)).toEqual(rules.split('\n').filter(Boolean))
})

test('a text goes on as it is indented, by tabs or wide steps; labels of a plan are no code', async ({
  page,
}) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home\n  Visit')
  await page.getByRole('tab', { name: 'Text' }).click()
  const plan = page.getByRole('textbox', { name: 'The whole plan as text' })
  await plan.fill('Saltpan Chapel\nVisit\n\tThe bell')
  await page.keyboard.press('Control+End')
  await page.keyboard.type("\n'Tis (open", { delay: 15 })
  await page.keyboard.press('Tab')
  await page.keyboard.type('\nBy boat', { delay: 15 })
  await page.keyboard.press('Shift+Tab')
  const understood = page.getByRole('region', { name: 'How the plan was understood' })
  await expect(understood).toContainText('“By boat”')
  await expect(understood).not.toContainText('mixed')
  await page.getByRole('button', { name: 'Use this plan' }).click()
  await expect(row(page, /^1\.1\.1 'Tis \(open .*tis-open/)).toBeVisible()
  await expect(row(page, /^1\.2 By boat/)).toBeVisible()
  await allSaved(page)

  await openView(page, 'Pages')
  await row(page, /By boat/).click()
  const content = page.getByRole('textbox', { name: 'Content of By boat' })
  const lines = () => content.locator('.cm-line').allTextContents()
  for (const unit of ['\t', '    ']) {
    await content.fill(`<ul>\n${unit}<li>Tern</li>\n</ul>\n`)
    await typeAtEnd(page, 'Content of By boat', '<ol>\n<li>Petrel')
    expect((await lines())[4]).toBe(`${unit}<li>Petrel</li>`)
  }
})

test('the editor of a template knows parts, their values and slots, and that of a style sheet colours', async ({
  page,
}) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home\n  Visit')
  await openView(page, 'Template')
  const editor = 'Source of Shared template'
  const text = page.getByRole('textbox', { name: editor })
  // Its end is drawn once it is scrolled there.
  await expect(text).toContainText('</head>')
  await typeAtEnd(page, editor, '\n<page-ne')
  await accept(page, 'page-neighbours')
  await page.keyboard.type('></page-neighbours>\n<site-trail own="', { delay: 15 })
  await page.keyboard.type('om')
  await accept(page, 'omit')
  await typeAtEnd(page, editor, '></site-trail>\n<p>{descr')
  await accept(page, 'description')
  await expect(text).toContainText('<p>{description')

  // Colours are seen beside what says them, and another one is chosen there.
  await page.getByRole('tab', { name: 'site.css' }).click()
  const css = page.getByRole('textbox', { name: 'Source of site.css' })
  // An editor draws what can be seen: only by keyboard all of it is chosen.
  await css.press('Control+A')
  await page.keyboard.insertText('p { color: rgb(170, 30, 30); margin: 0 }\na { color: var(--accent) }\n')
  const swatch = page.getByLabel('Choose another colour for rgb(170, 30, 30)')
  await expect(swatch).toHaveValue('#aa1e1e')
  await expect(page.locator('.cm-colour')).toHaveCount(1)
  await expectAccessible(page)
  await swatch.fill('#00553a')
  await expect(css).toContainText('p { color: #00553a; margin: 0 }')
  await typeAtEnd(page, 'Source of site.css', '.site-he')
  await expect(options(page).filter({ hasText: 'site-header' })).toBeVisible()
  await page.keyboard.press('Escape')
  await allSaved(page)
})
