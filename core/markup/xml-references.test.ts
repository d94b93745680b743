import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { SaxesParser } from 'saxes'
import { applyEdits, readHtml, writeReference } from './index'
import { findRobotsReferences, findXmlReferences } from './xml-references'

const told = (xml: string) => findXmlReferences(xml).map(({ holder, href }) => [holder, href])

describe('what a document in XML refers to', () => {
  test('the pages of a sitemap', () => {
    const xml =
      '<urlset><url><loc>\n https://skerry.example/a.html?x&amp;y </loc><lastmod>2026-05-01</lastmod></url></urlset>'
    expect(findXmlReferences(xml)).toEqual([
      { start: 20, end: 57, href: 'https://skerry.example/a.html?x&y', syntax: 'xml', holder: 'loc' },
    ])
  })

  test('links, enclosures and pages in a feed, but not what tells its entries apart', () => {
    const xml = `<?xml-stylesheet href="feed.xsl"?><feed xmlns="http://www.w3.org/2005/Atom"><id>https://s.example/</id>
      <!-- <link href="no.html"/> --><link rel="self" href='/feed.xml'/><title>Tides. And more.html</title>
      <item><link>https://s.example/a.html</link><guid isPermaLink="true">https://s.example/a.html</guid><enclosure url="a.mp3"/>
      <description>See &lt;a href="b.html?x=1&amp;amp;y=2">b&lt;/a></description>
      <content:encoded><![CDATA[<img src="img/c.jpg" srcset="d.jpg 2x">]]></content:encoded><x><![CDATA[e.html]]></x></item></feed>`
    expect(told(xml)).toEqual([
      ['xml-stylesheet href', 'feed.xsl'],
      ['link href', '/feed.xml'],
      ['title', 'Tides. And more.html'],
      ['link', 'https://s.example/a.html'],
      ['enclosure url', 'a.mp3'],
      ['a href', 'b.html?x=1&y=2'],
      ['img src', 'img/c.jpg'],
      ['img srcset', 'd.jpg'],
      ['x', 'e.html'],
    ])
  })

  test('what takes the place of one is read as it was meant, wherever it stands', () => {
    const next = fc.stringMatching(/^[a-z&<>"'é][a-z&<>"' é]{0,12}\.html$/)
    const places = [
      ['<r><loc>', 'a.html', '</loc></r>'],
      ['<r><e url="', 'a.html', '"/></r>'],
      ["<r><e url='", 'a.html', "'/></r>"],
      ['<r><d>&lt;a href="', 'a.html', '">x&lt;/a></d></r>'],
    ] as const
    fc.assert(
      fc.property(fc.constantFrom(...places), next, ([before, href, after], to) => {
        const xml = before + href + after
        const [reference] = findXmlReferences(xml)
        const made = applyEdits(xml, [{ ...reference!, text: writeReference(reference!, to) }])
        let seen = ''
        const parser = new SaxesParser()
        parser.on('text', (text) => (seen += text))
        parser.on('opentag', ({ attributes }) => (seen += Object.values(attributes).join()))
        parser.on('error', (error) => {
          throw error
        })
        parser.write(made).close()
        expect(before.includes('&lt;') ? readHtml(seen).references[0]!.href : seen).toBe(to.trim())
      }),
    )
  })

  test('nothing in it is taken for one where it stands in another', () => {
    const piece = fc.constantFrom('<a>', '</a>', '<a b="c.html">', '<!-- d.html ', '-->', '<![CDATA[', ']]>', 'e.html', '<loc>f.html</loc>', '&lt;a href="g.html">', '<', '"', "='") // prettier-ignore
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 30 }), (pieces) => {
        const xml = pieces.join('')
        const found = [...findXmlReferences(xml)].sort((a, b) => a.start - b.start)
        for (const [index, { start, end, href }] of found.entries()) {
          expect(xml.slice(start, end)).toBe(href)
          expect(start).toBeGreaterThanOrEqual(found[index - 1]?.end ?? 0)
        }
      }),
    )
  })

  test('megabytes of it, however it is left open', () => {
    for (const piece of [
      '<!--',
      '<a ',
      '<a b="',
      '<a b="c.html" ',
      '<![CDATA[',
      '<a>b.html ',
      '&amp;',
      '<?x ',
    ])
      expect(findXmlReferences(piece.repeat(400_000 / piece.length)).length).toBeLessThan(100_000)
  })
})

test('the sitemaps that a robots.txt names', () => {
  const text =
    'User-agent: *\nDisallow: /x.html\n sitemap : https://s.example/map.xml # one\nSitemap:/b.xml\n'
  expect(findRobotsReferences(text).map(({ start, end }) => text.slice(start, end))).toEqual([
    'https://s.example/map.xml',
    '/b.xml',
  ])
})
