import { createHash } from 'node:crypto'
import { afterAll, beforeAll, expect, test } from '@jest/globals'
import { readHtml, readStyle } from '#core/markup'
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
const page = `<base href="/a/"><h2 id=a>Tides</h2>One <b>word</b>

Two <a href="b.html">here</a> <a href="d.html" aria-current=page>x</a>
<img src="c.png" width=3><font>x</font><pre
 title="y">
z</pre></div><p id=a>Lorem ipsum`
const style =
  '@import "a.css";\n.a { background: url(b.png); colour: red; p { color: url(c.png) } }\n@font-face { src: url(d.woff2) }\n'

test('whenever reading tells anything more, what was stored before counts no more', () => {
  const told = createHash('sha256')
    .update(JSON.stringify([readHtml(page), readStyle(style)]))
    .digest('hex')
    .slice(0, 12)
  // Another digest here takes another number in `readAs`.
  expect([readAs.html, readAs.css, told]).toEqual(['html 10', 'css 3', '6d943850681b'])
})

test('facts of an earlier version are read anew, and deleted', async () => {
  const hash = await putBlob(pool(), Buffer.from(page))
  await pool().query('INSERT INTO content_facts (hash, facts) VALUES ($1, $2), ($3, $2)', [
    `html 9 ${hash}`,
    '{}',
    `html 10 ${'0'.repeat(64)}`,
  ])
  expect((await loadFacts(pool(), [hash]))(hash)).toEqual(readHtml(page))
  await deleteOldFacts(pool())
  expect(await many(pool(), 'SELECT hash FROM content_facts')).toEqual([{ hash: `html 10 ${hash}` }])
})
