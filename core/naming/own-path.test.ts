import { describe, expect, test } from '@jest/globals'
import { change, pageCalled, siteFrom, TextStore } from '#core/testing'
import { type Arrangement, checkSite, defaultScheme, type Site } from '#core/site'
import { checkOwnName, checkOwnNameOf, namesOf } from './index'

const store = new TextStore()
const own = (site: Site, label: string, value: string | null) =>
  change(site, store, {
    kind: 'setPageText',
    pageId: pageCalled(site, label).id,
    field: 'ownName',
    value,
    was: pageCalled(site, label).ownName,
  })
const pathOf = (site: Site, label: string) => namesOf(site).pages.get(pageCalled(site, label).id)!.path
const under = (site: Site, arrangement: Arrangement): Site => ({
  ...site,
  scheme: { ...site.scheme, arrangement },
})
const ways: Arrangement[] = [
  { kind: 'together' },
  { kind: 'one-folder', folder: 'pages' },
  { kind: 'sections', sectionPage: 'inside' },
  { kind: 'sections', sectionPage: 'beside' },
  { kind: 'folder-a-page' },
]

test('a file with a path of its own stands there under every scheme, told apart from others as hosts do', () => {
  const labels = ['/papers/Report.PDF', 'Report.pdf', '/Papers/report.pdf', '/.htaccess', '/a.b/logo.min.js', '/../x.png', '/.trial/y.png', '/about']
  const made = siteFrom('Home\n  About', store)
  const files = labels.map((label, index) => ({ id: `f${index}`, kind: 'document' as const, label, seq: 100 + index, hash: store.put('x'), sizeBytes: 1 }))
  for (const arrangement of ways) {
    const site = { ...under(made, arrangement), files }
    site.scheme = { ...site.scheme, folders: { ...site.scheme.folders, document: 'papers' } }
    const names = namesOf(site).files
    expect(labels.slice(0, 6).map((_, index) => names.get(`f${index}`))).toEqual([
      'papers/Report.PDF', 'papers/report-3.pdf', 'Papers/report-2.pdf', '.htaccess', 'a.b/logo.min.js', expect.stringMatching(/^papers\/.*png$/),
    ])
    // What is no path, or none of a site's, is a name like others.
    expect(names.get('f6')).toMatch(/^papers\/.*png$/)
    const isFolder = [...namesOf(site).pages.values()].some(({ path }) => path.startsWith('about/'))
    expect(names.get('f7')).toBe(isFolder ? 'about-2' : 'about')
  }
}) // prettier-ignore

describe('a path of its own', () => {
  const plan = 'Home\n  Visit\n    Terns\n  News\n    Regatta\n  About'

  test('is where its page stands under every scheme, and wherever it is in the plan', () => {
    let site = own(siteFrom(plan, store), 'Regatta', '/old/news/regatta')
    site = own(site, 'About', '/about/')
    for (const arrangement of ways) {
      const there = under(site, arrangement)
      expect([pathOf(there, 'Regatta'), pathOf(there, 'About')]).toEqual([
        'old/news/regatta.html',
        'about/index.html',
      ])
    }
    const regatta = pageCalled(site, 'Regatta')
    const moved = change(site, store, {
      kind: 'movePages',
      pageIds: [regatta.id],
      parentId: pageCalled(site, 'Visit').id,
      after: null,
    })
    expect(pathOf(moved, 'Regatta')).toBe('old/news/regatta.html')
    expect(pathOf(own(moved, 'Regatta', null), 'Regatta')).toBe('visit/regatta.html')
  })

  test('stands before names by the scheme, and what is below it stands in its folder', () => {
    let site = own(siteFrom(plan, store), 'News', '/paper/')
    expect(pathOf(site, 'Regatta')).toBe('paper/regatta.html')
    site = own(siteFrom(plan, store), 'News', '/old/paper')
    expect([pathOf(site, 'News'), pathOf(site, 'Regatta')]).toEqual([
      'old/paper.html',
      'old/paper/regatta.html',
    ])
    // Of a plan that is taken over as a whole nobody is asked.
    const terns = pageCalled(site, 'Terns')
    const taken: Site = {
      ...site,
      pages: site.pages.map((page) => (page.label === 'About' ? { ...page, ownName: '/visit/terns' } : page)),
    }
    expect(namesOf(taken).pages.get(terns.id)!.path).toBe('visit/terns-2.html')
    expect(pathOf(taken, 'About')).toBe('visit/terns.html')
  })

  test('that two sections share gives each page below them a name', () => {
    let site = siteFrom('Home\n  A\n    Terns\n  B\n    Terns', store)
    site = own(own(site, 'A', '/x'), 'B', '/x/')
    const paths = [...namesOf(site).pages.values()].map(({ path }) => path)
    expect(paths.sort()).toEqual(['index.html', 'x.html', 'x/index.html', 'x/terns-2.html', 'x/terns.html'])
    expect(checkSite(site)).toEqual([])
  })

  test('has the ending that it says, beside one with another', () => {
    let site = siteFrom(plan, store)
    for (const [label, path] of [['Regatta', '/old/TERNS.HTM'], ['Terns', '/old/terns'], ['News', '/old/Terns.shtml']])
      site = own(site, label!, path!) // prettier-ignore
    const files = ['Regatta', 'Terns', 'News']
    for (const arrangement of ways)
      expect(files.map((label) => pathOf(under(site, arrangement), label))).toEqual([
        'old/TERNS.HTM',
        'old/terns.html',
        'old/Terns.shtml',
      ])
    // Where the scheme's is the same, two want one place: the one that was there first has it.
    const short = { ...site, scheme: { ...site.scheme, extension: '.htm' as const } }
    expect(files.map((label) => pathOf(short, label))).toEqual(['old/TERNS-2.HTM', 'old/terns.htm', 'old/Terns.shtml'])
    const check = (path: string) => checkOwnNameOf(site, pageCalled(site, 'About').id, path)
    expect(check('/old/terns.HTML')).toMatchObject({ proposal: '/old/terns-2.HTML' })
    expect([check('/old/terns-3.html'), check('/index.htm'), check('/x.SHTML')]).toEqual([null, null, null])
    expect(checkOwnName('/Old news/Ä b.HTM', defaultScheme, 'en')!.proposal).toMatch(/^\/old-news\/.*\.HTM$/)
    expect(checkSite(site)).toEqual([])
  }) // prettier-ignore

  test('is refused where another page stands, and where a step of it is no name', () => {
    const site = own(siteFrom(plan, store), 'About', '/about/')
    const check = (label: string, path: string) => checkOwnNameOf(site, pageCalled(site, label).id, path)
    expect(check('Terns', '/about/')).toMatchObject({ reason: expect.stringContaining('“About” already') })
    expect(check('Terns', '/about')).toBeNull()
    expect(check('About', '/visit/terns')).toMatchObject({
      reason: expect.stringContaining('“Terns” already'),
    })
    expect(check('About', '/visit/TERNS')).not.toBeNull()
    expect(check('Regatta', 'about')).toBeNull()
    for (const path of ['/', '//', '/a//b', '/../x', '/a b', '/index', '/x/index', '/.trial/x', '/con', '/index.html', '/.htm', '/a b.htm', '/x.html/', `/${'x/'.repeat(200)}`])
      expect([path, checkOwnName(path, defaultScheme, 'en') === null]).toEqual([path, false]) // prettier-ignore
    const proposal = checkOwnName('/Old news/Ä b.html', defaultScheme, 'en')!.proposal
    expect(checkOwnName(proposal, defaultScheme, 'en')).toBeNull()
  })
})
