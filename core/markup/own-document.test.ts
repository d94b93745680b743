import { expect, test } from '@jest/globals'
import { applyEdits, ownDocumentIn } from './index'

/** What is left of a document where it is put into another; null for one that is a piece already. */
const left = (html: string): string | null => {
  const own = ownDocumentIn(html)
  return own && applyEdits(html, own.extra.map((range) => ({ ...range, text: '' })))
} // prettier-ignore

test('of a document what its body says is left, and what of its head counts in a body', () => {
  const page = `<!DOCTYPE html>
<html lang="en">
<head>
  <meta charset="utf-8">
  <title>Visiting <us></title>
  <link rel="icon" href="a.ico">
  <link rel="stylesheet" href="a.css">
  <style>
    /* <body> */
  </style>
</head>
<body class="x"><h1>Visit</h1>
<p>Nine.</p>
</body></html>
`
  expect(left(page)).toBe(`  <link rel="stylesheet" href="a.css">
  <style>
    /* <body> */
  </style>
<h1>Visit</h1>
<p>Nine.</p>
`)
})

test.each([
  ['<HTML><BODY>\n<p>x\n</BODY></HTML>', '<p>x\n'],
  ['<!doctype html><title>t</title><meta charset=utf-8><p>x', '<p>x'],
  ['<p>x</p>\n</body>\n</html>\n', '<p>x</p>\n'],
  ['<p>x</p><body><meta itemprop="a" content="b">', '<p>x</p><meta itemprop="a" content="b">'],
  ['<head><title>t</head><p>x', '<head><title>t</head><p>x'.slice(6)],
])('%j', (html, expected) => expect(left(html)).toBe(expected))

test.each([
  '<header>x</header><p>the &lt;body></p>',
  '<!-- <html><body> -->',
  '<script>"<body>"</script><textarea></body></textarea>',
  '<svg><title>a</title><body/></svg>',
  '<p title="<head>">x</p>',
  '<body-mass>x</body-mass>',
])('%j is a piece of a page', (html) => expect(left(html)).toBeNull())
