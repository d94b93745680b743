import { expect, test } from '@jest/globals'
import { digestOf } from './digest'
import { readHtml } from './html'

test('texts that differ in little have digests that differ in each half, and equal ones the same', () => {
  const texts = new Set<string>()
  for (let at = 0; at < 10_000; at++) {
    texts.add(`<p >text ${at}`)
    texts.add(`${at.toString(36)} the keeper wrote of the wind`)
    texts.add(String.fromCharCode(at & 0x3f, at >> 6))
  }
  const halves = [new Set<string>(), new Set<string>()]
  for (const text of texts) {
    const digest = digestOf(text)
    halves[0]!.add(digest.slice(0, 4))
    halves[1]!.add(digest.slice(3))
  }
  expect(halves.map(({ size }) => size)).toEqual([texts.size, texts.size])
  expect(digestOf('keeper'.repeat(2))).toBe(digestOf('keeperkeeper'))
})

test('words have one digest however tags and spaces part them, and others have another', () => {
  const said = (html: string) => readHtml(html).said
  const one = said('<p>Dogs are welcome.</p><img src="a.png" alt="A dog">')
  expect(said('<div>\n  Dogs <b>are</b>\n  wel<wbr>come. <img alt="A dog" src="other.png" width="3">\n</div><style>p{}</style>')).toBe(one) // prettier-ignore
  for (const other of [
    '<p>Dogs are welcome.</p><img alt="A cat">',
    '<p>Dogs are not welcome.</p>',
    '<p>dogs are welcome.</p><img alt="A dog">',
  ])
    // prettier-ignore
    expect(said(other)).not.toBe(one)
  expect(said('<p> </p><img alt="A dog"><script>words()</script>')).toBe('')
})
