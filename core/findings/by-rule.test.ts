import { describe, expect, test } from '@jest/globals'
import { ErrorCodes } from 'parse5'
import { applyEdits } from '#core/markup'
import { change, pageCalled, siteFrom, write } from '#core/testing'
import type { Site } from '#core/site'
import { by, mended, plan, sources, store, templateOf, withStyle, written } from '../testing/by-rule'
import { faultsInText, findFindings, withoutAside } from './index'
import { markupSentence } from './rules/markup/markup-error'

describe('what a page holds', () => {
  test.each([
    // rule, what is written in the page, how often it is found, what the first mend makes of it
    ['malformed-address', '<a href="www.saltpan.example">x</a>', 1, '<a href="https://www.saltpan.example">x</a>'],
    ['malformed-address', '<a href="http:/saltpan.example/a">x</a>', 1, '<a href="http://saltpan.example/a">x</a>'],
    ['malformed-address', '<a href="https//saltpan.example">x</a>', 1, '<a href="https://saltpan.example">x</a>'],
    ['malformed-address', '<a href="http://https://saltpan.example/">x</a>', 1, '<a href="https://saltpan.example/">x</a>'],
    ['malformed-address', '<a href="mailto:somebody">x</a>', 1, null],
    ['malformed-address', '<a href="https://">x</a>', 1, null],
    ['malformed-address', '<a href="mailto: keeper@saltpan.example ">x</a>', 1, '<a href="mailto:keeper@saltpan.example ">x</a>'],
    ['malformed-address', '<a href="mailto:keeper@saltpan.example (The keeper)">x</a>', 1, '<a href="mailto:keeper@saltpan.example">x</a>'],
    ['malformed-address', '<a href="mailto:The keeper &lt;keeper@saltpan.example>">x</a>', 1, '<a href="mailto:keeper@saltpan.example">x</a>'],
    ['malformed-address', '<a href="mailto:a@b.example, c@d.example">x</a><a href="mailto:a@b.example?subject=x">x</a>', 1, '<a href="mailto:a@b.example,%20c@d.example">x</a><a href="mailto:a@b.example?subject=x">x</a>'],
    ['malformed-address', '<a href="keeper@saltpan.example">x</a>', 1, '<a href="mailto:keeper@saltpan.example">x</a>'],
    ['malformed-address', '<a href="+44 (0)1632 960-123">x</a>', 1, '<a href="tel:+4401632960123">x</a>'],
    ['malformed-address', '<img src="boat@2x.png" alt=""><a href="2031-07">x</a><a href="01.html">x</a>', 0, null],
    ['broken-reference', '<a href="www.saltpan.example">x</a><a href="keeper@saltpan.example">x</a><a href="01632 960123">x</a>', 0, null],
    ['fetched-unsafely', '<script src="http://tide.example/a.js"></script>', 1, '<script src="https://tide.example/a.js"></script>'],
    ['fetched-unsafely', '<link rel="stylesheet" href="http://type.example/css2?family=x"><a href="http://tide.example/">x</a><img src="http://tide.example/a.png" alt=""><iframe src="http://localhost:80/" title="x"></iframe>', 1, '<link rel="stylesheet" href="https://type.example/css2?family=x"><a href="http://tide.example/">x</a><img src="http://tide.example/a.png" alt=""><iframe src="http://localhost:80/" title="x"></iframe>'],
    ['picture-elsewhere', '<img src="https://old.example/a.png" alt=""><img srcset="/b.png 1x, HTTP://old.example/c.png 2x" alt=""><a href="https://old.example/d.png">x</a><img src="https://saltpan.example/chapel/e.png" alt=""><iframe src="https://old.example/" title="x"></iframe>', 2, null],
    ['page-style-fault', '<p style="colour: red; margin: 1em">x</p><p style="colour: red">y</p><p style="mso-bidi: x; --own: 1; width: {w}">z</p>', 1, null],
    ['page-style-fault', '<style>h2{page-break-before: always; widht: 1em}</style><style>p{width:{slot.w}; widht: 1em}</style>', 1, null],
    ['page-style-fault', '<style>p { widht: 1em }\nq { color: 7 }</style><style type="text/x-other">p { widht }</style><p style="color: &quot;red&quot;">x</p>', 3, null],
    ['own-disk-address', '<a href="C:\\Users\\Anna\\Terns.HTML">x</a>', 1, '<a href="birds/terns.html">x</a>'],
    ['own-disk-address', '<a href="file:///home/anna/elsewhere.html">x</a>', 1, null],
    ['markup-error', '<p>&copy 2031 &amp; AT&T</p>', 1, '<p>&copy; 2031 &amp; AT&T</p>'],
    ['markup-error', '<html lang="en"><head><title>x</title></head><body>x</body></html>', 1, '<!DOCTYPE html>\n<html lang="en"><head><title>x</title></head><body>x</body></html>'],
    ['own-disk-address', '<a href="#\\p">x</a>', 0, null],
    ['own-disk-address', '<img src="pics\\gull.png" alt="">', 1, '<img src="pics/gull.png" alt="">'],
    ['malformed-address', '<a href="the tide.pdf">x</a>', 1, '<a href="the%20tide.pdf">x</a>'],
    ['malformed-address', '<a href="https://saltpan.example/?a=b c">x</a> <a href="mailto:a@b.example">x</a> <a href="httpd.html">x</a> <img srcset="/a.png 1x, /b.png 2x">', 1, '<a href="https://saltpan.example/?a=b%20c">x</a> <a href="mailto:a@b.example">x</a> <a href="httpd.html">x</a> <img srcset="/a.png 1x, /b.png 2x">'],
    ['own-address', '<a href="http://saltpan.example/chapel/birds/terns.html#x">x</a>', 1, '<a href="/birds/terns.html#x">x</a>'],
    ['own-address', '<a href="https://saltpan.example/chapels/">x</a> <a href="https://saltpan.example/">y</a>', 0, null],
    ['same-words', '<a href="birds/terns.html">More on it</a> <a href="birds/gulls.html">more on it</a> <a href="/birds/terns.html">More on it</a>', 1, null],
    ['link-to-itself', '<a href="visit.html">x</a> <a href="visit.html#b">y</a> <a href="birds/terns.html">z</a>', 1, null],
    ['link-to-itself', '<a href="visit.html" aria-current="page">x</a> <a href="visit.html" aria-current="false">y</a>', 1, null],
    ['picture-named-by-file', '<img src="a.jpg" alt="IMG_0412.JPG"><img src="b.jpg" alt="A tern.">', 1, null],
    ['plays-alone', '<video autoplay src=a.mp4></video><video autoplay muted loop src=a.mp4></video><audio autoplay></audio>', 2, null],
    ['without-controls', '<audio src="a.mp3"></audio><audio controls></audio><video autoplay muted></video>', 1, '<audio controls src="a.mp3"></audio><audio controls></audio><video autoplay muted></video>'],
    ['film-without-captions', '<video controls src=a.mp4></video><video controls><track kind=chapters src=a.vtt></video><video controls><track src=a.vtt></video><video muted controls></video><audio controls></audio>', 2, null],
    ['vague-link', '<a href="/birds/terns.html">click here</a> <a href="/birds/gulls.html">Here and there</a> <a href="/" aria-label="Home page">here</a>', 1, null],
    ['empty-heading', '<h2> </h2><h2><img src="a.png" alt="Tides"></h2>', 1, null],
    ['table-without-headers', '<table><tr><td>1<td>2<tr><td>3<td>4</table>', 1, '<table><tr><th scope="col">1<th scope="col">2<tr><td>3<td>4</table>'],
    ['table-without-headers', '<table><tr><td></td><TD>Price</TD><td scope=col>Seats<tr><td>Adult</td><td>4.50</td><td>12<tr><td>Child</td><td>2.00</td><td>12</table>', 1, '<table><tr><td></td><th scope="col">Price</th><th scope=col>Seats<tr><td>Adult</td><td>4.50</td><td>12<tr><td>Child</td><td>2.00</td><td>12</table>'],
    ['table-without-headers', '<table><tbody><tr><td>Adult</td><td>4.50</td></tr><tr><td>Child</td><td>2.00</td></tr></tbody></table>', 1, '<table><tbody><tr><th scope="row">Adult</th><td>4.50</td></tr><tr><th scope="row">Child</th><td>2.00</td></tr></tbody></table>'],
    ['table-without-headers', '<table><tr><th>1<td>2<tr><th>3<td>4</table><table><tr><td><div>a</div><td>b<tr><td>c<td>d</table>', 0, null],
    ['field-without-label', '<input name="a"><label>B <input name="b"></label><label for="c">C</label><input id="c"><input type="hidden"><select aria-label="D"></select>', 1, null],
    ['filler-text', '<p>Lorem ipsum dolor sit amet</p><p>Ipsum</p><script>// TODO</script>', 1, null],
    ['filler-text', '<p>TODO: the tides</p><p>This page is under construction!</p>', 2, null],
    ['filler-text', '<p>Eles levam todo o dia.</p><p>While the pier was under construction, nobody could land there but at low water.</p>', 0, null],
    ['run-together', 'One <b>a</b> &amp; b,\nstill.\n\n<i>Two</i>\n \nThree\n<h2>x</h2>\nFour\n', 1, '<p>One <b>a</b> &amp; b,\nstill.</p>\n\n<p><i>Two</i></p>\n \n<p>Three</p>\n<h2>x</h2>\nFour\n'],
    ['run-together', 'One\n\n<p>Two</p>\n\nThree<br>\n\nFour\n\n<br>Five\n\n<img src="/a.png" alt="">\n\n<img src="/b.png" alt="">', 0, null],
    ['run-together', '<div>One\n\nTwo</div><pre>One\n\nTwo</pre><!-- x\n\ny -->', 0, null],
    ['run-together', '<p class="a">The pier\n is open.\n\n  The <b>café</b>, too,\n\nand the shop.</p>', 1, '<p class="a">The pier\n is open.</p>\n\n  <p class="a">The <b>café</b>, too,</p>\n\n<p class="a">and the shop.</p>'],
    ['run-together', '<p id="x">The pier.\n\nThe café<p>One only', 1, '<p id="x">The pier.</p>\n\n<p>The café<p>One only'],
    ['run-together', '<div><blockquote>The pier.\n\nThe café.<hr></blockquote>The end</div>', 1, '<div><blockquote><p>The pier.</p>\n\n<p>The café.</p><hr></blockquote>The end</div>'],
    ['run-together', '<p style="white-space: pre-line">The pier.\n\nThe café.</p><div><a href="/">The pier</a>\n\n<a href="/a">The café</a>\n\n| Shop</div><ul>\n\n<li>The pier\n\n</ul><p>The pier<br>\n\nof stone</p>', 0, null],
    ['run-together', '<p><b>One</p>Two\n\nThree<table>Four\n\nFive<tr><td>x</table>', 0, null],
    ['page-in-page', '<!doctype html>\n<html><head>\n<title>x</title>\n</head>\n<body>\n<p>x</p>\n</body>\n</html>\n', 1, '<p>x</p>\n'],
    ['page-headings', '<h1>Twice <b>x</b></H1 ><p>x</p>', 1, '<h2>Twice <b>x</b></h2 ><p>x</p>'],
    ['page-headings', '<h1>visit</h1><p>x</p>', 1, '<p>x</p>'],
    ['page-headings', '<h1>By boat</h1><h2>Fares</h2><h1 id=a>By foot</h1>', 1, '<h2>By boat</h2><h3>Fares</h3><h2 id=a>By foot</h2>'],
    ['page-headings', '<h1>By boat</h1><h6>Fares</h6>', 1, '<h2>By boat</h2><h6>Fares</h6>'],
    ['no-description', '<p>x</p>', 5, null],
  ])('%s in %s', (rule, html, times, after) => {
    const site = write(written, store, 'Visit', html)
    const found = by(rule, site)
    expect(found).toHaveLength(times)
    const own = found.find(({ place }) => place.id === pageCalled(site, 'Visit').id)
    expect(own ? mended(own) : null).toBe(after)
    // What the first way of mending leaves behind is not found again.
    if (after !== null) expect(by(rule, write(site, store, 'Visit', after))).toEqual([])
  }) // prettier-ignore

  test('a page without words or pictures, where nothing stands below it', () => {
    expect(by('empty-page', written)).toEqual([])
    const label = (site: Site) => by('empty-page', site).map(({ place }) => place.id)
    expect(label(write(written, store, 'Terns', '<p> <b></b></p>'))).toEqual([pageCalled(plan, 'Terns').id])
    expect(label(write(written, store, 'Terns', '<img src="/a.png" alt="">'))).toEqual([])
    expect(label(plan)).not.toContain(pageCalled(plan, 'Birds').id)
  })
})

describe('style sheets', () => {
  test('what browsers pass over, with its line and the piece', () => {
    const [one, two, ...more] = by(
      'style-fault',
      withStyle('a {\n  colour: red;\n  color: 12px;\n  width: var(--w)\n}'),
    )
    expect([one!.place.line, one!.what]).toEqual([2, '“colour” is no property of CSS.'])
    expect([two!.place.piece, two!.what]).toEqual(['color: 12px', 'This is no value that “color” can have.'])
    expect(more).toEqual([])
  })

  test('a picture that is not there is led to the nearest', () => {
    const site = withStyle('a { background: url("../Visit.html") }')
    expect(mended(by('broken-style-reference', site)[0]!)).toBe('a { background: url("../visit.html") }')
  })

  test('a module and an icon that are not there, with the nearest; mere words are no finding', () => {
    const file = (label: string, kind: 'script' | 'other', text: string) => {
      const put = { hash: store.put(text), sizeBytes: text.length }
      return { kind: 'addFile' as const, id: label, fileKind: kind, label, ...put }
    }
    const files = [
      file('tides.js', 'script', 'export {}'),
      file('main.js', 'script', `import './tide.js'\nshow('nothing.png', "../images/none.gif")`),
      file('site.webmanifest', 'other', '{"icons": [{"src": "/icon.png"}], "note": "none.html"}'),
    ]
    const site = files.reduce((one, next) => change(one, store, next), written)
    const found = by('broken-file-reference', site)
    expect(found.map(({ place, what }) => [place.id, place.line, what])).toEqual([
      ['main.js', 1, './tide.js is no file of this site.'],
      ['site.webmanifest', 1, '/icon.png is no file of this site.'],
    ])
    expect(mended(found[0]!)).toContain(`import './tides.js'`)
    const said = write(site, store, 'Visit', `<p onclick="go('nowhere.html')" data-x="none.gif">Visit</p><script>import './none.js'</script>`) // prettier-ignore
    expect(by('broken-reference', said).map(({ what }) => what)).toEqual([
      './none.js leads to no page or file of this site.',
    ])
  })

  test('one that asks for itself, and none for what is elsewhere', () => {
    expect(by('import-chain', withStyle('@import "site.css";'))[0]!.what).toContain('in a circle')
    expect(by('import-chain', withStyle('@import "https://saltpan.example/a.css";'))).toEqual([])
  })
})

describe('pictures and files', () => {
  const file = {
    id: 'picture',
    kind: 'image' as const,
    label: 'tern.jpg',
    seq: written.nextSeq,
    hash: store.put('jpg'),
    sizeBytes: 800_000,
  }
  const site: Site = { ...written, nextSeq: written.nextSeq + 1, files: [...written.files, file] }
  const pixelsOf = () => ({ width: 4_000, height: 3_000 })
  const shown = (tag: string, rule: string) => by(rule, write(site, store, 'Visit', tag), { pixelsOf })

  test.each([
    ['<img src="/images/tern.jpg" alt="A tern.">', '<img width="4000" height="3000" src="/images/tern.jpg" alt="A tern.">'],
    ['<img src="/images/tern.jpg" alt="A tern." width="400" height="400">', null],
  ])('a size that is missing or out of proportion: %s', (tag, after) => {
    const [finding] = shown(tag, 'picture-size')
    expect(mended(finding!)).toBe(after)
    if (after !== null) expect(shown(after, 'picture-size')).toEqual([])
  }) // prettier-ignore

  test('far more pixels than are shown', () => {
    expect(shown('<img src="/images/tern.jpg" alt="" width="400" height="300">', 'picture-too-large')).toHaveLength(1)
    expect(shown('<img src="/images/tern.jpg" alt="" width="1600" height="1200">', 'picture-too-large')).toEqual([])
    expect(shown('<img src="/images/tern.jpg" alt="" width="400" height="300">', 'picture-size')).toEqual([])
  }) // prettier-ignore

  test('a form that few browsers show', () => {
    const forms = ['Tern.HEIC', 'Chart.tif', 'Plan.psd'].map((label, nth) => ({ ...file, id: `f${nth}`, label, seq: file.seq + 1 + nth })) // prettier-ignore
    const odd: Site = { ...site, nextSeq: site.nextSeq + 4, files: [...site.files, ...forms] }
    const html =
      '<img src="/images/tern.heic" alt=""><img src="/images/chart.tif" alt=""><img src="/images/plan.psd" alt=""><img src="/images/tern.jpg" alt=""><a href="/images/tern.heic">x</a>'
    expect(by('unshown-picture', write(odd, store, 'Visit', html)).map(({ what }) => what)).toEqual([
      expect.stringMatching(/^Tern.HEIC is a picture of the form HEIC\. Drop it/),
      expect.stringContaining('the form TIF. Drop'),
      expect.stringContaining('Save it as JPEG or PNG'),
    ])
  })

  test('a page over what its author wants it to weigh', () => {
    const heavy = write(site, store, 'Visit', '<img src="/images/tern.jpg" alt="">')
    expect(by('heavy-page', heavy)).toEqual([])
    const [finding, ...more] = by(
      'heavy-page',
      change(heavy, store, { kind: 'setMostWeight', bytes: 500_000, was: 1_000_000 }),
    )
    expect(finding!.what).toMatch(
      /^It weighs 0.8 MB, of which pictures are 0.8 MB: about 18 seconds on a slow line.$/,
    )
    expect(more).toEqual([])
  })

  test('a second extension is taken away', () => {
    const twice: Site = { ...site, files: [...written.files, { ...file, label: 'tides.html.txt' }] }
    const [finding] = by('second-extension', twice)
    expect(finding!.mends[0]).toMatchObject({ change: { kind: 'renameFile', label: 'tides.html' } })
    expect(by('second-extension', site)).toEqual([])
  })

  test('a home page that no server looks for', () => {
    const scheme = { ...written.scheme, homeName: 'start' }
    expect(by('host-remarks', { ...written, scheme })[0]!.what).toContain('servers look for')
    expect(by('host-remarks', written)).toEqual([])
  })
})

test('an address of the site’s own is found as soon as a destination has it, though nothing was written', () => {
  const facts = new Map<string, ReturnType<typeof store.factsOf>>()
  const factsOf = (hash: string) => {
    const known = facts.get(hash) ?? store.factsOf(hash)
    facts.set(hash, known)
    return known
  }
  const site = write(written, store, 'Visit', '<a href="https://gulls.example/visit.html">x</a>')
  expect(by('own-address', site, { factsOf })).toEqual([])
  expect(by('own-address', site, { factsOf, publicAddresses: ['https://gulls.example'] })).toHaveLength(1)
})

describe('an address of the site’s own that its author said', () => {
  const said: Site = { ...written, publicAddress: 'https://gulls.example/' }

  test('is checked as any other reference, and mended as a whole one', () => {
    const site = write(said, store, 'Visit', '<a href="https://gulls.example/birds/tern.html#x">x</a> <a href="https://gull.example/y.html">y</a>') // prettier-ignore
    const [finding, ...others] = by('broken-reference', site)
    expect(others).toEqual([])
    expect(mended(finding!)).toContain('<a href="https://gulls.example/birds/terns.html#x">')
  })

  test('may be written out where a page tells others of itself, and a value in a reference leads nowhere yet', () => {
    const head =
      '<link rel="canonical" href="{address}"><meta property="og:image" content="https://gulls.example/images/none.jpg">'
    const source = templateOf(said).replace('</head>', `${head}</head>`)
    const site = change(said, store, { kind: 'setTemplate', templateId: said.templateId, source: store.put(source), was: said.templates[0]!.source }) // prettier-ignore
    expect(by('broken-reference', site)).toEqual([])
    expect(by('own-address', site)).toEqual([])
    expect(
      by('own-address', write(site, store, 'Visit', '<a href="http://gulls.example/">x</a>')),
    ).toHaveLength(1)
  })

  test('of a page that a sitemap lists and that is gone', () => {
    const text = '<urlset><url><loc>https://gulls.example/visit.html</loc></url><url><loc>https://gulls.example/visits.html</loc></url></urlset>' // prettier-ignore
    const site = change(said, store, { kind: 'addFile', id: 'map', fileKind: 'document', label: '/sitemap.xml', hash: store.put(text), sizeBytes: text.length }) // prettier-ignore
    const [finding, ...others] = by('broken-file-reference', site)
    expect(others).toEqual([])
    expect(mended(finding!)).toContain(
      'visit.html</loc></url><url><loc>https://gulls.example/visit.html</loc>',
    )
  })
})

describe('a reference that leads nowhere', () => {
  test('is mended at the link for sure, and at the name of what was meant when asked', () => {
    const site = write(written, store, 'Visit', '<a href="/birds/tern.html">x</a>')
    const [finding] = by('broken-reference', site)
    const [sure, ...others] = finding!.mends
    expect(sure).toMatchObject({ words: 'Lead it to birds/terns.html' })
    expect(sure).not.toHaveProperty('isOther')
    const other = others.find((one) => 'change' in one && one.words.startsWith('Call birds/terns.html'))
    if (!other || !('change' in other)) throw new Error('There is no other way.')
    expect(by('broken-reference', change(site, store, other.change as never))).toEqual([])
    expect(others.every(({ isOther }) => isOther)).toBe(true)
  })

  test('to a name that several have in other folders is for its author to choose', () => {
    const plan = 'Home\n  A\n    News\n    X\n  B\n    News\n    Y\n  C'
    const two = write(siteFrom(plan, store), store, 'C', '<a href="news.html">x</a>')
    const [finding] = by('broken-reference', two)
    expect(finding!.mends.map(({ words, isOther }) => [words, isOther])).toEqual([
      ['Lead it to a/news.html', true],
      ['Lead it to b/news.html', true],
    ])
  })

  test('is told apart where it is a folder without a home page', () => {
    const [finding] = by('broken-reference', write(written, store, 'Visit', '<a href="/styles/">x</a>'))
    expect(finding!.what).toContain('folder without a home page')
  })
})

test('what is put aside stays so until what is found changes, and comes back when it is taken up', () => {
  const site = write(written, store, 'Visit', '<a href="/gone.html">x</a>')
  const [finding] = by('broken-reference', site)
  const { key, what } = finding!
  const aside = change(site, store, {
    kind: 'putAside',
    findings: [{ key, what }],
    reason: 'It comes in spring.',
  })
  const open = (of: Site) => withoutAside(findFindings(of, sources), of.checking).open.map((one) => one.key)
  expect(open(site)).toContain(key)
  expect(open(aside)).not.toContain(key)
  expect(open(write(aside, store, 'Visit', '<p>Before.</p><a href="/gone.html">x</a>'))).not.toContain(key)
  // Near to something now, it is another thing to say.
  const near = write(aside, store, 'Visit', '<a href="/gones.html">x</a>')
  expect(open(near)).toContain(`broken-reference ${finding!.place.id} /gones.html`)
  expect(open(change(aside, store, { kind: 'takeUp', keys: [key] }))).toContain(key)
})

test('the editor says what Checks says of a text by itself, where it stands', () => {
  const html = '<p>Lorem ipsum</p><center>x</center><base href="/x/"><img src="/a.png">'
  const faults = faultsInText(html, 'html')
  expect(faults.map(({ start, end }) => html.slice(start, end))).toEqual(
    expect.arrayContaining(['Lorem ipsum', '<center>', '<base href="/x/">', '<img src="/a.png">']),
  )
  const base = faults.find(({ mends }) => mends && mends.length > 0)
  expect(applyEdits(html, base!.mends![0]!.edits)).not.toContain('<base')
  expect(templateOf(written)).toContain('<slot')
  expect(faultsInText(templateOf(written), 'template')).toEqual([])
})

test('links under a base address are written as it makes them lead, or left as they are', () => {
  const ways = (html: string) =>
    faultsInText(html, 'html')
      .filter(({ mends = [] }) => mends.length > 0)
      .map(({ mends }) => mends!.map(({ words, edits }) => [words, applyEdits(html, edits)]))[0]
  expect(ways('<base href="/old/"><a href="a.html">a</a><img src="../b&amp;c.png" alt="">')).toEqual([
    [
      'Write 2 links as it makes them lead, and take it away',
      '<a href="/old/a.html">a</a><img src="/b&amp;c.png" alt="">',
    ],
    [
      'Take it away and leave the links as they are',
      '<a href="a.html">a</a><img src="../b&amp;c.png" alt="">',
    ],
  ])
  // What it means depends on where the page stands, and pages move.
  expect(ways('<base href="../"><a href="a.html">a</a>')).toEqual([
    ['Take it away', '<a href="a.html">a</a>'],
  ])
})

test('every error of the standard is said in a sentence', () => {
  const unknown = markupSentence('no-such-error')
  const codes = Object.values(ErrorCodes)
  expect(codes.length).toBeGreaterThan(50)
  expect(codes.filter((code) => markupSentence(code) === unknown)).toEqual([])
})
