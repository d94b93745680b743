import { expect, test } from '@jest/globals'
import fc from 'fast-check'
import { parseFragment, serialize } from 'parse5'
import { anySign } from '../testing/signs'
import { findTagFaults } from './tags'

const faults = (source: string) =>
  findTagFaults(source).map(({ kind, start, end }) => `${kind} ${source.slice(start, end)}`)

test('elements left open and closing tags too many are found where they stand', () => {
  expect(faults('<p>fine <b>bold</b><br><img src=x></p><ul><li>a<li>b</ul>')).toEqual([])
  expect(faults('<div><b>x</div></nav>')).toEqual(['unclosed <b>', 'stray </nav>'])
  expect(faults('<b><i>x</b></i>')).toEqual(['unclosed <i>', 'stray </i>'])
  expect(faults('<p>a<div>b</div></p>')).toEqual(['stray </p>'])
  expect(faults('<section><h2>x</h3></section>')).toEqual(['unclosed <h2>', 'stray </h3>'])
  expect(faults('<script>if (a</b>) "</div>"</script><title></b></title><textarea></i></textarea>')).toEqual([])
  expect(faults('<svg><path d="x"/><g></g></svg><table><tr><td>a<td>b<tr><td></table>')).toEqual([])
  expect(faults('<!-- </b> --><a href="</b>">x</a>')).toEqual([])
  expect(faults('<object><param name=a value=b></object><frameset><frame src="a"><frame src="b"></frameset>')).toEqual([])
  expect(faults('<html><head><title>x</title><body><p>y')).toEqual([])
}) // prettier-ignore

test('what a parser writes has none, whatever it read', () => {
  const pieces = fc.constantFrom('<p>', '</p>', '<b>', '</b>', '<div>', '</div>', '<ul>', '<li>', '</ul>', '<table>', '<tr>', '<td>', '</table>', '<svg>', '<path/>', '</svg>', '<h2>', '</h2>', '<script>', '</script>', 'x', '<br>', '<template>', '</template>', '<select>', '<option>', '</select>', '<dl>', '<dt>', '<dd>', '</dl>', '<a>', '</a>', '<button>', '</button>') // prettier-ignore
  fc.assert(
    fc.property(fc.array(pieces, { maxLength: 25 }), (words) => {
      // Written once more, since what is moved about the first time may be read otherwise again.
      let html = words.join('')
      for (let round = 0; round < 4; round++) html = serialize(parseFragment(html))
      if (html !== serialize(parseFragment(html))) return
      expect(findTagFaults(html)).toEqual([])
    }),
    { numRuns: 500 },
  )
})

test('any text is read to its end, deep ones in time', () => {
  fc.assert(fc.property(fc.string({ unit: anySign }), (text) => expect(findTagFaults(text)).toBeDefined()))
  expect(findTagFaults('<b>'.repeat(100_000) + '</i>'.repeat(10_000))).toHaveLength(1_000)
})
