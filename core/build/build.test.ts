import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { parseHtml, readHtml } from '#core/markup'
import { writeOutline } from '#core/plan'
import {
  brokenReferences,
  buildAll,
  change,
  outlines,
  pageCalled,
  siteFrom,
  TextStore,
  write,
} from '#core/testing'
import { buildSite } from './index'

const plan = 'Saltpan Chapel\n  Visit\n    Tides & ferries\n      Winter\n  Contact\n  Sketch (trial page)'

describe('a built page', () => {
  test('is the template filled in, and looks hand-written', () => {
    const store = new TextStore()
    const site = write(
      siteFrom(plan, store),
      store,
      'Tides & ferries',
      '<p>See <a href="/contact.html">us</a>.</p>\n<pre>\nraw\n</pre>',
    )
    expect(buildAll(site, store).get('visit/tides-and-ferries/index.html')).toBe(`<!DOCTYPE html>
<html lang="en">
  <head>
    <meta charset="utf-8">
    <meta name="viewport" content="width=device-width, initial-scale=1">
    <title>Tides &amp; ferries – Saltpan Chapel</title>
    <link rel="stylesheet" href="../../styles/site.css">
  </head>
  <body>
    <a class="skip-link" href="#content">Skip to the content</a>
    <header class="site-header">
      <p class="site-name"><a href="../../index.html">Saltpan Chapel</a></p>
      <nav class="site-menu" aria-label="Main">
        <ul>
          <li><a href="../index.html" aria-current="true">Visit</a></li>
          <li><a href="../../contact.html">Contact</a></li>
        </ul>
      </nav>
    </header>
    <main id="content">
      <nav class="site-trail" aria-label="You are here">
        <ol>
          <li><a href="../../index.html">Saltpan Chapel</a></li>
          <li><a href="../index.html">Visit</a></li>
          <li><a aria-current="page">Tides &amp; ferries</a></li>
        </ol>
      </nav>
      <h1>Tides &amp; ferries</h1>
      <p>See <a href="../../contact.html">us</a>.</p>
      <pre>
raw
</pre>
      <nav class="page-children" aria-label="In this section">
        <ul>
          <li><a href="winter.html">Winter</a></li>
        </ul>
      </nav>
    </main>
    <footer class="site-footer">
      <p>Saltpan Chapel</p>
    </footer>
  </body>
</html>
`)
  })

  test('does not link to itself in its menu, says its description, and leaves trial pages out', () => {
    const store = new TextStore()
    const site = siteFrom(plan, store)
    const contact = pageCalled(site, 'Contact')
    const described = change(site, store, {
      kind: 'setPageText',
      pageId: contact.id,
      field: 'description',
      value: 'Write "us"',
      was: null,
    })
    const files = buildAll(described, store)
    expect([...files.keys()]).toEqual([
      'contact.html',
      'index.html',
      'styles/site.css',
      'visit/index.html',
      'visit/tides-and-ferries/index.html',
      'visit/tides-and-ferries/winter.html',
    ])
    const html = files.get('contact.html')!
    expect(html).toContain('<li><a aria-current="page">Contact</a></li>')
    expect(html).toContain('<meta name="description" content="Write &quot;us&quot;">')
    expect([...files.values()].join()).not.toContain('Sketch')
  })

  test('keeps a relative reference as typed, and completes one that names a folder', () => {
    const store = new TextStore()
    const site = write(
      siteFrom(plan, store),
      store,
      'Winter',
      '<a href="./index.html#a">1</a><a href="/visit/">2</a><a href="mailto:a@b.example">3</a><a href="?q">4</a>',
    )
    expect(buildAll(site, store).get('visit/tides-and-ferries/winter.html')).toContain(
      '<a href="./index.html#a">1</a><a href="../index.html">2</a><a href="mailto:a@b.example">3</a><a href="?q">4</a>',
    )
  })

  test('a label is text, whatever it holds', () => {
    const store = new TextStore()
    const html = buildAll(siteFrom('Home\n  <script>alert("1")</script> {site}', store), store).get(
      'index.html',
    )!
    expect(html).toContain('&lt;script&gt;alert("1")&lt;/script&gt; {site}')
  })
})

describe('a built site', () => {
  test('has no broken reference and no parse error, whatever the plan; twice the same to the byte', () => {
    fc.assert(
      fc.property(outlines, (nodes) => {
        const store = new TextStore()
        const site = siteFrom(writeOutline(nodes), store)
        const files = buildAll(site, store)
        expect(brokenReferences(files)).toEqual([])
        for (const [path, text] of files)
          if (path.endsWith('.html')) expect(parseHtml(text, true).errors).toEqual([])
        expect([...buildAll(JSON.parse(JSON.stringify(site)), store)]).toEqual([...files])
      }),
    )
  })

  test('an equal signature means equal bytes, and an unrelated page keeps its signature', () => {
    const store = new TextStore()
    const before = siteFrom(plan, store)
    const winter = pageCalled(before, 'Winter')
    const after = change(before, store, {
      kind: 'setPageText',
      pageId: winter.id,
      field: 'title',
      value: 'In winter',
      was: null,
    })
    const [one, two] = [buildSite(before, store), buildSite(after, store)]
    for (const page of before.pages) {
      const same = one.signatureOf(page.id) === two.signatureOf(page.id)
      expect(same).toBe(one.textOf(page.id) === two.textOf(page.id))
      expect(same).toBe(page.id !== winter.id)
    }
  })
})

test('links name folders where that is chosen, and error pages refer from where visitors see the site', () => {
  const store = new TextStore()
  let site = siteFrom('Home\n  Birds\n    Terns\n  404\n  500 kroner', store)
  const hrefs = (path: string, publicPath: string | null = null) =>
    readHtml(buildAll(site, store, publicPath).get(path)!).references.map(({ href }) => href)
  site = write(site, store, 'Terns', '<a href="/">a</a> <a href="./">b</a> <a href="index.html#x">c</a> <a href="/birds/terns.html">d</a>')
  site = write(site, store, '404', '<a href="birds/">e</a> <a href="?q">f</a> <a href="https://x.example/">g</a>')
  expect(hrefs('birds/terns.html').slice(-4)).toEqual(['../index.html', 'index.html', 'index.html#x', 'terns.html'])
  // Shown in place of any page: nothing of it is named from where it happens to be shown.
  const menu = ['index.html', 'birds/index.html', '500-kroner.html']
  expect(hrefs('404.html').filter((href) => menu.includes(href))).not.toEqual([])
  const rooted = hrefs('404.html', '/skerry/')
  expect(rooted.filter((href) => !/^(\/skerry\/|[?#]|https:)/.test(href))).toEqual([])
  expect(rooted).toEqual(expect.arrayContaining(['/skerry/styles/site.css', '/skerry/birds/index.html', '?q', 'https://x.example/']))
  // No other page is made otherwise for it, though it stands beside them.
  for (const path of ['index.html', '500-kroner.html', 'birds/terns.html']) expect(hrefs(path, '/skerry/')).toEqual(hrefs(path))
  const signature = (label: string, publicPath: string | null) =>
    buildSite(site, { textOf: store.textOf, factsOf: store.factsOf, year: 2031, publicPath }).signatureOf(pageCalled(site, label).id)
  expect(signature('404', '/')).not.toBe(signature('404', '/skerry/'))
  expect(signature('Birds', '/')).toBe(signature('Birds', null))
  site = change(site, store, { kind: 'setOutput', output: { ...site.output, links: 'folders' }, was: site.output })
  expect(hrefs('birds/terns.html').slice(-4)).toEqual(['../', './', './#x', 'terns.html'])
  expect(hrefs('index.html')).toEqual(expect.arrayContaining(['birds/', 'styles/site.css']))
  expect(hrefs('404.html', '/')).toEqual(expect.arrayContaining(['/', '/birds/', '/styles/site.css']))
}) // prettier-ignore
