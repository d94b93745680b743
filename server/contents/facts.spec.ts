import { createHash } from 'node:crypto'
import { afterAll, beforeAll, expect, test } from '@jest/globals'
import { readFile, readHtml, readStyle } from '#core/markup'
import { many, pool } from '#server/platform'
import { freshDatabase } from '../testing/support'
import { putBlob } from './blobs'
import { deleteOldFacts, loadFacts, readAs } from './facts'

let database: Awaited<ReturnType<typeof freshDatabase>>
beforeAll(async () => {
  database = await freshDatabase()
})
afterAll(() => database.close())

/** A little of everything that reading tells. */
const page = `<base href="/a/"><meta charset=utf-8><meta name=robots content="noindex, follow"><meta property="og:url" content="https://e.example/"><a name=p></a><h2 id=a onclick="go('z.html')">Tides</h2>One <b>word</b>

<p>The lamp was lit by the keeper at dusk, and it was to be seen from the harbour as well as from the hill that is behind it, but not by those who were on the other side of it.</p>
Two <a href="b.html">here</a> <a href="d.html" aria-current=page>x</a>
<img src="c.png" width=3><video autoplay></video><font>x</font><noscript><img src="n.png"></noscript><pre
 title="y">
z</pre></div><p id=a>Lorem ipsum<table><tr><td>Day<td>Height<tr><td>1<td scope=row>2</td></table><p class=b>The lamp

and the lens<h3>Open<p>x</body>`
const script = 'import "./a.js"; show("b.png", "https://e.example/a")'
const drawing = '<svg><image href="c.png"/></svg>'
const style =
  '@import "a.css";\n.a { background: url(b.png); colour: red; p { color: url(c.png) } }\n@font-face { src: url(d.woff2) }\n'

test('whenever reading tells anything more, what was stored before counts no more', () => {
  const told = createHash('sha256')
    .update(
      JSON.stringify([
        readHtml(page),
        readStyle(style),
        readFile(script, 'script'),
        readFile('["d.json"]', 'data'),
        readFile('{"src": "e.png"}', 'manifest'),
        readFile(drawing, 'drawing'),
        readFile('<urlset><loc>f.html</loc><a>g.html</a></urlset>', 'xml'),
        readFile('Sitemap: h.xml', 'robots'),
        readFile('ErrorDocument 404 /i.html', 'settings'),
      ]),
    )
    .digest('hex')
    .slice(0, 12)
  // Another digest here takes another number in `readAs`.
  expect([...Object.values(readAs), told]).toEqual(['html 25', 'css 3', 'script 2', 'data 2', 'manifest 2', 'drawing 2', 'xml 1', 'robots 1', 'settings 1', 'pixels', 'a913d544e0bf']) // prettier-ignore
})

test('facts of an earlier version are read anew, and deleted', async () => {
  const hash = await putBlob(pool(), Buffer.from(page))
  await pool().query('INSERT INTO content_facts (hash, facts) VALUES ($1, $2), ($3, $2)', [
    `html 16 ${hash}`,
    '{}',
    `html 21 ${'0'.repeat(64)}`,
  ])
  expect((await loadFacts(pool(), [hash]))(hash)).toEqual(readHtml(page))
  await deleteOldFacts(pool())
  expect(await many(pool(), 'SELECT hash FROM content_facts')).toEqual([{ hash: `${readAs.html} ${hash}` }])
})
