import { expect, test } from '@jest/globals'
import { brokenReferences, buildAll, change, pageCalled, siteFrom, TextStore } from '#core/testing'
import { asTheyAre, bring } from '../testing/bringing'

const page = (title: string, body: string, head = '') =>
  `<html><head><title>${title}</title>${head}</head><body><div id="top">Ferries</div>\n<h1>${title}</h1>\n${body}\n</body></html>\n`
const sent = (to: string, words = 'This page has moved. <a href="x">Go on</a>') =>
  `<html><head><meta http-equiv=Refresh content="0; URL=${to}"><title>Moved</title></head><body>${words.replace('"x"', `"${to}"`)}</body></html>`

test('pages that only send visitors on are addresses of the pages they send them to', () => {
  const files = {
    'index.html': page('Home', '<p><a href="times.html">Times</a> <a href="linked.html">Old</a></p>'),
    'times.html': page('Times', '<p>At nine.</p>'),
    'old/times.htm': sent('../times.html'),
    'older.html': sent('old/times.htm'),
    // What is linked to, says something, leads into a page is a page.
    'linked.html': sent('times.html'),
    'says.html': sent('times.html', 'word '.repeat(40)),
    'place.html': sent('times.html#nine'),
    'round.html': sent('about.html'),
    'about.html': sent('round.html'),
  }
  const store = new TextStore()
  const { site, remarks } = bring(files, store)
  expect(pageCalled(site, 'Times').addresses.toSorted()).toEqual(['old/times.htm', 'older.html'])
  expect(site.pages).toHaveLength(7)
  expect(remarks.filter(({ why }) => why.includes('only sent visitors on')).map(({ path }) => path)).toEqual([
    'old/times.htm',
    'older.html',
  ])
  const built = buildAll(site, store)
  expect([...built.keys()].toSorted()).toEqual(Object.keys(files).toSorted())
  expect(built.get('older.html')).toContain('url=times.html')
  expect(brokenReferences(built)).toEqual([])
  // No forwarder could stand beside a page that differs in capitals alone.
  const alike = bring(
    { 'index.html': page('Home', ''), 'a.html': page('A', ''), 'A.html': sent('a.html') },
    store,
  )
  expect(alike.site.pages).toHaveLength(3)
})

test('a site of ours comes in again with the addresses that its pages had', () => {
  const store = new TextStore()
  let site = siteFrom('Home\n  Visit\n    Tides\n  Birds', store)
  site = { ...site, pages: site.pages.map((one) => (one.label === 'Tides' ? { ...one, addresses: ['visit/ferries.html'] } : one)) } // prettier-ignore
  site = change(site, store, { kind: 'setPageText', pageId: pageCalled(site, 'Birds').id, field: 'label', value: 'Sea birds', was: 'Birds' }) // prettier-ignore
  const { site: again } = bring(Object.fromEntries(buildAll(site, store)), store, asTheyAre)
  expect(Object.fromEntries(again.pages.map(({ label, addresses }) => [label, addresses]))).toEqual({
    Home: [],
    Visit: [],
    Tides: ['visit/ferries.html'],
    'Sea birds': [],
  })
})
