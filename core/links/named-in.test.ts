import { expect, test } from '@jest/globals'
import { namesOf } from '#core/naming'
import { change, siteFrom, testId, TextStore } from '#core/testing'
import { filesNamedIn, isAskedForByName, isProofOfOwner, mayBeProofOfOwner } from './index'

test('files that a script or a manifest names are told, from where it stands and from the top', () => {
  const store = new TextStore()
  let site = siteFrom('Home\n  Visit', store)
  const add = (label: string, kind: 'image' | 'script' | 'other') => {
    const id = testId()
    site = change(site, store, { kind: 'addFile', fileKind: kind, id, label, hash: store.put(label), sizeBytes: 1 })
    return id
  }
  const [tern, gull, script] = [add('Tern.png', 'image'), add('Gull.png', 'image'), add('Main.js', 'script')]
  const names = namesOf(site)
  const at = names.files.get(script)!
  const tell = (text: string) => Object.fromEntries(filesNamedIn(text, at, names))
  expect(names.files.get(tern)).toBe('images/tern.png')
  expect(tell(`const a = '../images/tern.png', b = "/images/tern.png"; fetch(\`images/gull.png?x\`)`)).toEqual({ [tern]: 2, [gull]: 1 })
  // Words that only look so, pages, and other sites’ files are none.
  expect(tell('e.target.tern.png; "tern.png"; visit.html; https://a.example/images/none.png; images/tern.pngx')).toEqual({})
  expect(tell('{"icons":[{"src":"./images/gull.png"}]}')).toEqual({ [gull]: 1 })
  const many = filesNamedIn('a/'.repeat(200_000) + 'b.png ' + '../'.repeat(100_000), at, names)
  expect(many.size).toBe(0)
}) // prettier-ignore

test('what hosts, browsers and search engines ask for is known by its name', () => {
  for (const path of ['robots.txt', 'sitemap-birds.xml', 'favicon.ico', '.htaccess', '.well-known/security.txt', 'apple-touch-icon.png', '_redirects', 'CNAME', 'sw.js']) expect([path, isAskedForByName(path)]).toEqual([path, true])
  for (const path of ['images/favicon.ico', 'notes.txt', 'feed.xml', 'site.css', 'scripts/sw.js', 'headers']) expect([path, isAskedForByName(path)]).toEqual([path, false])
}) // prettier-ignore

test('a small text that says the number it is called by proves whose a site is', () => {
  for (const [name, text] of [['finder1a2b3c4d.html', 'finder-proof: finder1a2b3c4d.html'], ['tide_0badc0de99.html', '<html><body>Proof: 0badc0de99</body></html>']] as const) {
    expect(isProofOfOwner(name, text)).toBe(true)
    expect(mayBeProofOfOwner(name, text.length)).toBe(true)
  }
  expect(isProofOfOwner('finder1a2b3c4d.html', 'Something else')).toBe(false)
  expect(isProofOfOwner('contact-us.html', 'contact-us')).toBe(false)
  expect(isProofOfOwner('report20310412.txt', `20310412 ${'x'.repeat(2_000)}`)).toBe(false)
  expect(mayBeProofOfOwner('papers/finder1a2b3c4d.html', 40)).toBe(false)
  expect(mayBeProofOfOwner('gettinghere.html', 40)).toBe(false)
  expect(mayBeProofOfOwner('page-2-contacting.html', 40)).toBe(false)
}) // prettier-ignore
