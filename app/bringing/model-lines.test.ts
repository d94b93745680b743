import { expect, test } from '@jest/globals'
import type { Edges, FrameMark, Model } from '#core/bringing'
import { afterMove, blocksOf } from './model-lines'

const edges: Edges = { startOut: null, startIn: null, endOut: null, endIn: null, around: null }

test('a model is its template’s lines with boxes in them, values as they are and parts as they are written', () => {
  const text = '<title>Terns</title>\n<ul>\n<li>x</li>\n</ul>\n  <div>\n    <p>One</p>\n    <p>Two</p>\n  </div>\n'
  const at = (piece: string) => ({ start: text.indexOf(piece), end: text.indexOf(piece) + piece.length })
  const model: Model = {
    path: 'terns.html',
    text,
    slots: [{ ...at('<p>One</p>\n    <p>Two</p>'), name: 'content', edges }],
    written: [
      { ...at('Terns'), by: '{title}' },
      { ...at('<ul>\n<li>x</li>\n</ul>'), by: '<site-menu></site-menu>' },
    ],
  }
  const shown = blocksOf(model).map((block) =>
    block.kind === 'slot' ? block.lines : block.lines.map((line) => line.map((piece) => [piece.text, piece.by])),
  )
  expect(shown).toEqual([
    [
      [['<title>', null], ['Terns', '{title}'], ['</title>', null]],
      [['<site-menu></site-menu>', '<site-menu></site-menu>']],
      [['  <div>', null]],
    ],
    ['<p>One</p>', '<p>Two</p>'],
    [[['  </div>', null]]],
  ])
}) // prettier-ignore

test('an element has one mark at the most', () => {
  const mark: FrameMark = { path: 'a.html', start: 3, end: 9, to: 'frame' }
  const other: FrameMark = { ...mark, start: 20, end: 30 }
  const set = afterMove([mark, other], { set: { ...mark, to: 'slot' } })
  expect(set).toEqual([other, { ...mark, to: 'slot' }])
  expect(afterMove(set, { unset: mark })).toEqual([other])
})
