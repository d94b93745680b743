import { expect, test } from '@jest/globals'
import { fileSyntaxOf, readFile } from './index'
import { findSettingsReferences } from './settings-references'

const found = (text: string) => findSettingsReferences(text).map(({ start, end }) => text.slice(start, end))

test('what a host shows and sends on to is told by its settings', () => {
  const text = `# Redirect /a /b.html
AddDefaultCharset utf-8
ErrorDocument 404 /lost.html
ErrorDocument 500 "Sorry, /not/here"
ErrorDocument 403 "/not allowed.html"
  errordocument 410 https://saltpan.example/gone.html\r
FallbackResource /index.html
Redirect 301 /old.html /visit.html
Redirect permanent "/a b.html" "/birds.html#terns"
Redirect /x https://other.example/y
Redirect gone /never.html
RedirectPermanent /p /q.html
RedirectMatch 302 ^/n/(.*)$ /news/$1
RedirectMatch ^/m/ /news/index.html
RewriteEngine On
RewriteRule ^terns$ birds/terns.html [L]
RewriteRule ^(.*)$ /index.php?p=$1
RewriteRule ^x - [F]
<Files "style.css">
Header set Cache-Control "max-age=3600"
</Files>
`
  expect(found(text)).toEqual([
    '/lost.html',
    '/not allowed.html',
    'https://saltpan.example/gone.html',
    '/index.html',
    '/visit.html',
    '/birds.html#terns',
    'https://other.example/y',
    '/q.html',
    '/news/index.html',
    'birds/terns.html',
  ])
  expect(fileSyntaxOf('/light/.htaccess', 10)).toBe('settings')
  expect(readFile(text, 'settings').references[0]).toMatchObject({
    line: 3,
    column: 19,
    holder: 'ErrorDocument',
  })
})

test('paths that begin elsewhere are left alone', () => {
  expect(found('RewriteBase /light/\nRewriteRule ^terns$ birds/terns.html\n')).toEqual([])
  expect(found('RewriteBase /\nRewriteRule ^terns$ birds/terns.html\n')).toEqual(['birds/terns.html'])
})

test('lines of anything are read in their length', () => {
  for (const piece of ['Redirect ', 'ErrorDocument 404 "', '"" ', 'RewriteBase ', '\t', 'RewriteRule a /b\n'])
    expect(found(piece.repeat(400_000 / piece.length)).length).toBeLessThan(100_000)
})
