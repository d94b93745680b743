import { describe, expect, test } from '@jest/globals'
import { applyEdits } from '#core/markup'
import { compileTemplate } from '#core/template'
import { change, pageCalled, siteFrom, TextStore, write } from '#core/testing'
import { findBy, type Finding, findFindings, type Rule } from './index'

/** Findings, but for those that every page of a new site has: it is empty, and says nothing of itself. */
const told = (...of: Parameters<typeof findFindings>): Finding[] =>
  findFindings(...of).filter(({ rule }) => rule !== 'empty-page' && rule !== 'no-description')

/** The text at a finding's place once it is mended in the first way. */
const mended = ({ mends }: Finding, store: TextStore) => {
  const [way] = mends
  if (!way || !('edits' in way)) throw new Error('There is no text to mend.')
  return applyEdits(store.textOf(way.was), way.edits)
}

describe('a broken reference', () => {
  const store = new TextStore()
  const plain = siteFrom('Home\n  Birds\n    Terns\n    Gulls\n  Visit', store)

  test.each([
    ['in another case', '<a href="/Birds/Terns.html#x">t</a>', '<a href="/birds/terns.html#x">t</a>'],
    ['in another folder', '<a href="terns.html">t</a>', '<a href="birds/terns.html">t</a>'],
    ['misspelled', '<a href="birds/tern.html">t</a>', '<a href="birds/terns.html">t</a>'],
    ['misspelled in another folder', '<a href="trens.htm">t</a>', '<a href="birds/terns.html">t</a>'],
    ['with other gaps', '<a href="Birds/t-erns.html">t</a>', '<a href="birds/terns.html">t</a>'],
    ['in quotes of a style', '<p style="background: url(&quot;Visit.html&quot;)">', '<p style="background: url(&quot;visit.html&quot;)">'],
  ])('%s is led to what was meant', (_, was, now) => {
    const [finding] = told(write(plain, store, 'Visit', was), store)
    expect(mended(finding!, store)).toBe(now)
  }) // prettier-ignore

  test('to the home file of a folder is led to that of a folder that is called nearly so, and to no other', () => {
    const toBirds = told(write(plain, store, 'Visit', '<a href="bird/index.html">t</a>'), store)
    expect(mended(toBirds[0]!, store)).toBe('<a href="birds/index.html">t</a>')
    const toBook = told(write(plain, store, 'Visit', '<a href="book/index.html">t</a>'), store)
    expect(toBook[0]!.mends).toEqual([])
  })

  test('is led to nothing that only stands in the same folder, and surely only to what a slip of the hand makes of it', () => {
    const ways = (href: string) =>
      told(write(plain, store, 'Visit', `<a href="${href}">t</a>`), store)[0]!.mends.map((way) => `${way.isOther ? 'maybe' : 'surely'} ${way.words}`) // prettier-ignore
    expect(ways('birds/xxxx.html')).toEqual([])
    expect(ways('birds/terns.png')).toEqual([])
    expect(ways('birds/two-terns.html')).toEqual(['maybe Lead it to birds/terns.html', 'maybe Call birds/terns.html two-terns.html instead']) // prettier-ignore
    expect(ways('birds/gull.html')[0]).toBe('surely Lead it to birds/gulls.html')
  })

  test('that steps above the site is told as such, and led nowhere else', () => {
    const site = write(
      plain,
      store,
      'Terns',
      '<a href="../../club/index.html">c</a> <a href="../terns.html">t</a>',
    )
    expect(told(site, store).map(({ rule, mends }) => [rule, mends.length > 0])).toEqual([
      ['broken-reference', true],
      ['leads-above', false],
    ])
  })

  test('that is near to nothing has no way to be mended by itself', () => {
    const [finding] = told(write(plain, store, 'Visit', '<a href="/zzz/qqq.pdf">t</a>'), store)
    expect(finding!.mends).toEqual([])
  })

  test('keeps its key while other lines come before it, and is told from a second of the same', () => {
    const keys = (html: string) => told(write(plain, store, 'Visit', html), store).map(({ key }) => key)
    const link = '<a href="/gone.html">x</a>'
    expect(keys(`<p>one</p>\n${link}`)).toEqual(keys(link))
    const [first, second] = keys(`${link}\n${link}`)
    expect([first]).toEqual(keys(link))
    expect(second).not.toBe(first)
  })
})

describe('a link to a place that is not there', () => {
  const store = new TextStore()
  const visit =
    '<h2>Opening times</h2>\n<h2 id="Tides">x</h2>\n<h2><a name="piers">y</a></h2>\n<h3>Twice</h3><h3>Twice</h3>'
  const plain = write(siteFrom('Home\n  Birds\n  Visit\n  Stay', store), store, 'Visit', visit)
  const ways = (href: string) => {
    const site = write(plain, store, 'Birds', `<a href="${href}">t</a>`)
    const [finding] = told(site, store).filter(({ rule }) => rule === 'missing-place')
    return finding!.mends.map((way) => {
      if (!('edits' in way)) throw new Error('There is no text to mend.')
      const at = way.in ? site.pages.find(({ id }) => id === way.in!.id)!.label : 'Birds'
      const before = way.in ? pageCalled(site, 'Visit').content : pageCalled(site, 'Birds').content
      expect(way.was).toBe(before)
      return `${way.isOther ? 'maybe' : 'surely'} ${at}: ${applyEdits(store.textOf(way.was), way.edits).split('\n')[0]}`
    })
  }

  test.each([
    ['in another case', 'visit.html#tides', ['surely Birds: <a href="visit.html#Tides">t</a>']],
    ['misspelled', 'visit.html#pier', ['surely Birds: <a href="visit.html#piers">t</a>']],
    ['of a heading that has no name', '/visit.html#opening-times', ['surely Visit: <h2 id="opening-times">Opening times</h2>']],
    ['written with a space', 'visit.html#Opening%20times', []],
    ['of one of two headings', 'visit.html#twice', []],
    ['that stands in another page', 'stay.html#piers', ['maybe Birds: <a href="visit.html#piers">t</a>']],
    ['in the page itself, that another has', '#piers', ['maybe Birds: <a href="visit.html#piers">t</a>']],
    ['near to nothing', 'visit.html#qqq', []],
  ])('%s', (_, href, expected) => {
    expect(ways(href)).toEqual(expected)
  }) // prettier-ignore
})

test('a name that a page has with its path is told as that page’s', () => {
  const store = new TextStore()
  const site = siteFrom('Home\n  Birds\n  Gulls', store)
  const { id } = pageCalled(site, 'Gulls')
  const placed = change(site, store, { kind: 'setPageText', pageId: id, field: 'ownName', value: '/Terns', was: null })
  const birds = pageCalled(placed, 'Birds')
  const named = change(placed, store, { kind: 'setPageText', pageId: birds.id, field: 'label', value: 'Terns', was: 'Birds' })
  const [clash] = told(named, store).filter(({ rule }) => rule === 'name-clash')
  expect(clash!.what).toBe('The name “terns” belongs to “Gulls”, so this page is terns-2.html.')
}) // prettier-ignore

test('a link to a trial page is mended by putting the page in the site', () => {
  const store = new TextStore()
  let site = siteFrom('Home\n  Visit\n  Sketch', store)
  site = write(site, store, 'Visit', '<a href="/sketch.html">x</a>')
  const { id } = pageCalled(site, 'Sketch')
  site = change(site, store, { kind: 'setPageFlag', pageIds: [id], flag: 'trial', value: true })
  const [way] = told(site, store)[0]!.mends
  if (!way || !('change' in way) || way.change.kind !== 'setPageFlag') throw new Error('no change')
  expect(told(change(site, store, way.change), store)).toEqual([])
})

test('a rule that somebody adds is asked like the others, and a text is read by it once', () => {
  const store = new TextStore()
  const site = write(siteFrom('Home\n  Visit\n  Contact', store), store, 'Visit', '<base href="/">')
  let asked = 0
  const rule: Rule = {
    id: 'made-up',
    title: 'Made up',
    why: 'To see that one file is enough.',
    grade: 'detail',
    reads: 'text',
    find: ({ bases }, at) => {
      asked += 1
      return bases.map((base) => ({ place: at(base), what: 'Here.' }))
    },
  }
  const facts = new Map<string, ReturnType<TextStore['factsOf']>>()
  const read = {
    factsOf: (hash: string) => {
      const known = facts.get(hash) ?? store.factsOf(hash)
      facts.set(hash, known)
      return known
    },
    compiled: () => compileTemplate(''),
  }
  const visit = pageCalled(site, 'Visit').id
  const rules = [rule]
  const find = () => findBy(rules, site, read)
  expect(find().map(({ rule: id, key, place }) => [id, key, place])).toEqual([
    ['made-up', `made-up ${visit}`, { kind: 'page', id: visit, line: 1, column: 1, start: 0, end: 15 }],
  ])
  const before = asked
  find()
  // The template alone is asked about again: its text has no facts that are kept.
  expect(asked - before).toBe(1)
})

describe('a word that a template does not know', () => {
  const store = new TextStore()
  const plain = siteFrom('Home', store)
  const template = plain.templates[0]!
  const found = (source: string) => {
    const hash = store.put(source)
    const site = change(plain, store, {
      kind: 'setTemplate',
      templateId: template.id,
      source: hash,
      was: template.source,
    })
    return told(site, store).filter((finding) => finding.rule === 'unknown-word')
  }
  test.each([
    ['a value', '<title>{pag}</title>', '<title>{page}</title>'],
    ['a value in an attribute', '<html lang="{langage}">', '<html lang="{language}">'],
    ['a part, with its end', '<body><site-meny levels="1"></site-meny>', '<body><site-menu levels="1"></site-menu>'],
    ['an attribute', '<site-menu level="2"></site-menu>', '<site-menu levels="2"></site-menu>'],
  ])('is found and led to the nearest: %s', (_, was, now) => {
    const [finding, ...more] = found(was)
    expect(more).toEqual([])
    expect(finding!.place).toMatchObject({ kind: 'template', line: 1 })
    expect(mended(finding!, store)).toBe(now)
  }) // prettier-ignore
  test('is none where it is known, or belongs to a script, a style or an element of somebody’s own', () => {
    expect(
      found(
        '<style>a {b}</style><script>x = {y}</script><tide-clock></tide-clock><site-menu class="x" data-y aria-label="{page}"></site-menu>{title}',
      ),
    ).toEqual([])
    expect(found('<p>{zzzz}')[0]!.mends).toEqual([])
  })
})

test('a rule on references is asked of a text again only when it, or what it can lead to, has changed', () => {
  const store = new TextStore()
  let site = siteFrom('Home\n  Visit\n  Stay', store)
  site = write(site, store, 'Visit', '<a href="stay.html">a</a>')
  site = write(site, store, 'Stay', '<a href="visit.html">b</a>')
  const asked: string[] = []
  const rule: Rule = {
    id: 'made-up-references',
    title: 'Made up',
    why: 'To count.',
    grade: 'detail',
    reads: 'references',
    find(references, { from, at }) {
      asked.push(from)
      return references.map((reference) => ({ place: at(reference), what: reference.href }))
    },
  }
  const facts = new Map<string, ReturnType<TextStore['factsOf']>>()
  const read = {
    factsOf(hash: string) {
      const known = facts.get(hash) ?? store.factsOf(hash)
      facts.set(hash, known)
      return known
    },
    compiled: () => compileTemplate(''),
  }
  const rules = [rule]
  const ask = () => {
    asked.length = 0
    const found = findBy(rules, site, read)
    return { found: found.map(({ what, place }) => [what, place.id]), asked: asked.filter((from) => from !== '').sort() }
  }
  const [visit, stay] = [pageCalled(site, 'Visit').id, pageCalled(site, 'Stay').id]
  const first = ask()
  expect(first.found).toEqual([['stay.html', visit], ['visit.html', stay]])
  expect(ask()).toEqual({ found: first.found, asked: [] })
  site = write(site, store, 'Stay', '<a href="index.html">c</a>')
  expect(ask()).toEqual({ found: [['stay.html', visit], ['index.html', stay]], asked: ['stay.html'] })
  site = change(site, store, { kind: 'setPageText', pageId: stay, field: 'label', value: 'Bunkhouse', was: 'Stay' })
  expect(ask().asked).toEqual(['bunkhouse.html', 'index.html', 'visit.html'])
}) // prettier-ignore
