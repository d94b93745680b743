import { expect, test } from '@jest/globals'
import fc from 'fast-check'
import { readToPlace } from '#core/markup'
import { oldNamesOf } from '../old-names'
import type { OutlineNode } from './outline'
import { readPages, referencesWithin } from './read-page'

function read(text: string) {
  const sizeBytes = text.length
  const files = ['a.html', 'b/index.html'].map((path) => ({ path, kind: 'page' as const, hash: path, sizeBytes, text })) // prettier-ignore
  return readPages(
    files,
    oldNamesOf(files, (path) => `id of ${path}`, ''),
  )[1]!
}

/** Pieces of pages, as they stand and as they do not fit. */
const pieces = [
  '<p>x', '<nav>', '</nav>', '<ul>', '<li>', '<a href="../a.html">A</a>', '<a href="index.html#x">B</a>', '</ul>', '<div id=c>',
  '</div>', '<table>', '<tr>', '<td>', '</table>', '<img src="/p.png" srcset="q.png 2x">', '<h1>T</h1>', '<!-- c -->', '<body class=d>', '<svg><a href="r.html"/></svg>',
] // prettier-ignore
const pageText = fc.array(fc.constantFrom(...pieces), { maxLength: 30 }).map((some) => some.join('\n'))

test('what is kept of a page in numbers is what was read of it', () => {
  fc.assert(
    fc.property(pageText, fc.nat(), fc.nat(), (text, one, other) => {
      const page = read(text)
      const references = [...readToPlace(text, true).references].sort((a, b) => a.start - b.start)
      // Without its line, which is another for each of them.
      const bare = references.map((one) => {
        const { line: _line, column: _column, ...rest } = one
        return rest
      })
      expect([...page.references]).toEqual(bare)
      const [start, end] = [one % (text.length + 1), other % (text.length + 1)].sort((a, b) => a - b) as [
        number,
        number,
      ]
      const within = references.filter((each) => each.start >= start && each.end <= end)
      expect([...referencesWithin(page, { start, end })].map(({ start: at }) => at)).toEqual(
        within.map(({ start: at }) => at),
      )
    }),
    { numRuns: 300 },
  )
})

test('a link that stands in a table and in no cell of it is held where it stands', () => {
  const page = read('<table><tr><td><a href="one.html">1</a></td></tr><a href="two.html">2</a></table>')
  expect([...page.references].map(({ href }) => href)).toEqual(['one.html', 'two.html'])
})

test('an outline is gone over in document order, in whole or in part', () => {
  fc.assert(
    fc.property(pageText, (text) => {
      const { outline } = read(text)
      const byChildren: string[] = []
      const visit = (nodes: readonly OutlineNode[]): void =>
        nodes.forEach((node) => {
          byChildren.push(node.key)
          visit(node.children)
        })
      visit(outline.top)
      const walked: string[] = []
      outline.walk(({ key }) => walked.push(key) > 0)
      expect(walked).toEqual(byChildren)
      const topmost: string[] = []
      outline.walk(({ key }) => (topmost.push(key), false))
      expect(topmost).toEqual(outline.top.map(({ key }) => key))
    }),
    { numRuns: 200 },
  )
})
