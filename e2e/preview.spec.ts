import { expect, test } from '@playwright/test'
import { allSaved, editor, expectAccessible, makeSite, openView, row, signUp, write } from './support'

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

test('a page that is chosen while the line is down is not left blank: it is told, and its text and preview are there when the line is back', async ({
  page,
}) => {
  await signUp(page)
  await makeSite(page, 'Saltpan Chapel', 'Home\n  Visit')
  await openView(page, 'Pages')
  await write(page, 'Visit', '<p>Over the causeway.</p>')
  await row(page, /Home/).click()
  const shown = page.frameLocator('iframe[title^="Preview"]')
  await expect(shown.getByRole('heading', { name: 'Home' })).toBeVisible()
  // Not known to the window from before.
  await page.reload()
  await page.context().setOffline(true)
  await row(page, /Visit/).click()
  const told = page.getByRole('region', { name: 'Preview' }).getByRole('status')
  await expect(told).toHaveText('There is no line to the server. The preview shows again when it is back.')
  await expect(page.getByText('The text could not be fetched. Nothing is lost')).toBeVisible()
  await page.context().setOffline(false)
  await expect(told).toBeHidden()
  await expect(editor(page, 'Visit')).toContainText('Over the causeway.')
  await expect(shown.getByText('Over the causeway.')).toBeVisible()
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
