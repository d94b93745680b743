import { expect, test } from '@jest/globals'
import fc from 'fast-check'
import { applyEdits, indentEdits, readHtml, trimmedRange } from '#core/markup'
import { siteFrom, TextStore } from '#core/testing'
import { contextOf } from './context'
import { outputReference, planReference } from './output-reference'
import { placeContent } from './place-content'

const pieces = fc.constantFrom('<p>', '</p>', '\n', '\n\n', '  ', '\t', '\r\n', 'tides', '<pre>', '</pre>\n', '<a href="/visit/index.html">', '<a title="a\n  b" href=/visit/ id=x>', '</a>', '<img src="x.png" srcset="/visit/tides.html 2x, ../y.png">', '<p style="background:url(/index.html)">', '<!-- \n -->', '<a href="\n/visit/tides.html">', '<script>\n  let x\n</script>') // prettier-ignore

test('a content is placed as one edit after the other would place it, whatever stands in it', () => {
  const store = new TextStore()
  const context = contextOf(siteFrom('Home\n  Visit\n    Tides', store))
  fc.assert(
    fc.property(
      fc.array(pieces, { maxLength: 30 }),
      fc.constantFrom('', '  ', '\t\t'),
      fc.constantFrom('index.html', 'visit/tides.html'),
      (written, indent, path) => {
        const text = written.join('')
        const facts = readHtml(text)
        const range = trimmedRange(text)
        const lines = indent === '' ? [] : indentEdits(text, range, facts.fixed, (lead) => indent + lead)
        const references = facts.references.flatMap((reference) => {
          const text = outputReference(context, planReference(reference), path)
          return text === null ? [] : [{ start: reference.start, end: reference.end, text }]
        })
        const ends = [
          { start: 0, end: range.start, text: '' },
          { start: range.end, end: text.length, text: '' },
        ]
        const pieces: string[] = []
        placeContent(context, { text, facts }, path, indent, pieces)
        expect(pieces.join('')).toBe(applyEdits(text, [...lines, ...references, ...ends]))
      },
    ),
    { numRuns: 500 },
  )
})
