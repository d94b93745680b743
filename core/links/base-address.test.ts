import { expect, test } from '@jest/globals'
import fc from 'fast-check'
import { baseOf, rebase } from './base-address'

const based = (base: string, href: string, from = 'old/page.html') => {
  const found = baseOf(base, from)
  return found && rebase(href, found)
}

test('a reference is written as its base address makes it lead', () => {
  expect(based('/', 'tides.html#now')).toBe('/tides.html#now')
  expect(based('/a/b.html', '../c.png')).toBe('/c.png')
  expect(based('../', 'x/y.html?z')).toBe('/x/y.html?z')
  expect(based('http://club.example/~anna/', 'a b.html')).toBe('http://club.example/~anna/a%20b.html')
  expect(based('//club.example/', 'a.html')).toBe('https://club.example/a.html')
  // Also one to a place of “this” page leads to the base (HTML §2.4.3).
  expect(based('/', '#top')).toBe('/#top')
  expect(based('?x', '#top')).toBe('/old/page.html#top')
})

test('what begins elsewhere of itself is left, and so is a base that browsers take no notice of', () => {
  for (const href of ['https://other.example/', 'mailto:a@b.example', '//other.example/x'])
    for (const base of ['/', 'http://club.example/']) expect(based(base, href)).toBeNull()
  expect(based('/a/', '/b.html')).toBeNull()
  for (const base of ['data:text/html,x', 'javascript:0', 'http://[']) expect(baseOf(base, '')).toBeNull()
})

test('it says what the URL Standard says', () => {
  // Doubled slashes are one here, as on most hosts’ disks, and two names there.
  const step = fc.constantFrom('a', 'b', '..', '.', 'c.html')
  const path = fc
    .tuple(fc.constantFrom('', '/'), fc.array(step, { maxLength: 5 }), fc.constantFrom('', '/'))
    .map(([root, steps, end]) => (steps.length === 0 ? root : root + steps.join('/') + end))
  const top = 'http://site.example'
  fc.assert(
    fc.property(path, path, path, (from, base, href) => {
      const page = from.replace(/^\/+/, '')
      const means = new URL(href, new URL(base, new URL(page, `${top}/`)))
      const found = baseOf(base, new URL(page, `${top}/`).pathname.slice(1))
      const written = rebase(href, found!) ?? href
      expect(new URL(written, top).pathname).toBe(means.pathname)
    }),
    { numRuns: 2_000 },
  )
})
