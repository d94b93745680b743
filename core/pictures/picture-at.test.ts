import { expect, test } from '@jest/globals'
import fc from 'fast-check'
import { pictureAt, pictureHtml, type ShownPicture } from './index'

const natural = { width: 2_000, height: 1_000 }
const shown: fc.Arbitrary<ShownPicture> = fc
  .record({
    alt: fc.option(fc.constantFrom('', 'The pier', '“a” & <b> \'c\'')),
    width: fc.constantFrom(300, 800),
    hasCopies: fc.boolean(),
    isLazy: fc.boolean(),
    leadsToFull: fc.boolean(),
    caption: fc.constantFrom('', 'By night & by day'),
    isFigure: fc.boolean(),
    rest: fc.constantFrom([], [['class', 'wide'], ['title', 'a "b"']] as const),
  })
  .map(({ hasCopies, ...said }) => ({
    ...said,
    address: '/images/pier.jpg',
    natural,
    copies: hasCopies ? [said.width, said.width * 2].map((width) => ({ width, address: `/images/pier-${width}.jpg` })) : [],
  })) // prettier-ignore

test('a picture is read as it was written, wherever it stands, and written again as it was', () => {
  const around = fc.constantFrom(['', ''], ['<p>x</p>\n', '\n<p>y</p>'], ['<ul>\n<li>', '</li>\n</ul>'], ['<div>\n', '</div>']) // prettier-ignore
  fc.assert(
    fc.property(shown, around, (picture, [before, after]) => {
      const html = pictureHtml(picture)
      const text = `${before}${html}${after}`
      const tag = text.indexOf('<img ')
      for (const place of [tag + 1, text.indexOf('>', tag)]) {
        const found = pictureAt(text, place)!
        expect(text.slice(found.start, found.end)).toBe(html)
        expect(pictureHtml({ ...picture, ...found })).toBe(html)
        expect(found.hasCopies).toBe(picture.copies.length > 0)
      }
      expect(pictureAt(text, tag)).toBeNull()
    }),
  )
})

test.each([
  ['within another link', '<a href="/x.html">see <|img src="a.jpg"></a>', { start: 22, canLead: false, canHaveCaption: false }],
  ['within a paragraph', '<p>see <|img src="a.jpg"></p>', { start: 7, canLead: true, canHaveCaption: false, alt: null, width: null }],
  ['in a figure that says more', '<figure class="x"><|img src="a.jpg"></figure>', { start: 18, canHaveCaption: false, caption: '' }],
  ['above words with marks', '<figure><|img src="a.jpg"><figcaption>a <b>b</b></figcaption></figure>', { start: 8, canHaveCaption: false }],
  ['in a link that says more', '<a href="a.jpg" class="x"><|img src="a.jpg"></a>', { start: 26, canLead: false, leadsToFull: false }],
])('%s it keeps what is around it', (_, marked, expected) => {
  expect(pictureAt(marked.replace('|', ''), marked.indexOf('|'))).toMatchObject(expected)
}) // prettier-ignore

test.each([
  'x|y',
  '<p cl|ass="x"><img src="a.jpg"></p>',
  '<i|mg>',
  '<i|mg src="a.jpg" srcset="a.jpg 1x, b.jpg 2x">',
  '<!-- <i|mg src="a.jpg"> -->',
])('%s is none', (marked) => {
  expect(pictureAt(marked.replace('|', ''), marked.indexOf('|'))).toBeNull()
})
