import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { namesOf } from '#core/naming'
import { translationsOf, treeOf } from '#core/plan'
import { checkSite, emptyHash, type Site } from '#core/site'
import {
  brokenReferences,
  buildAll,
  change,
  pageCalled,
  siteFrom,
  sites,
  testId,
  TextStore,
  write,
} from '#core/testing'
import { type BroughtFile, type Into, isPageName, type Joined, joinSite } from '../index' // prettier-ignore

const kindOf = (path: string): BroughtFile['kind'] =>
  isPageName(path) ? 'page' : path.endsWith('.css') ? 'style' : /\.(png|gif)$/.test(path) ? 'image' : 'other'

const usual = { parentId: null, same: 'leave', frame: 'own', names: 'kept', generates: true } as const

function join(
  site: Site,
  files: Record<string, string>,
  store: TextStore,
  how: Partial<Omit<Into, 'site'>> = {},
): Joined {
  const brought = Object.entries(files).map(([path, text]): BroughtFile => {
    const kind = kindOf(path)
    const told = { path, kind, hash: store.put(text), sizeBytes: text.length }
    return /page|style/.test(kind) ? { ...told, text } : told
  })
  const tools = { newId: testId, put: (text: string) => store.put(text), sizeOf: (text: string) => text.length }
  const joined = joinSite(brought, 'ferry', { ...usual, ...how, site }, tools, store)
  if ('refusal' in joined) throw new Error(joined.refusal)
  expect(checkSite(joined.site)).toEqual([])
  // What is made of it is what was shown: nothing of what was brought is rewritten after it.
  const made = change(site, store, { kind: 'bringIn', ...joined.change })
  const came = new Set(joined.comes.map(({ id }) => id))
  for (const page of joined.site.pages) if (came.has(page.id)) expect(made.pages).toContainEqual(page)
  return { ...joined, site: made }
} // prettier-ignore

const planOf = ({ site }: Joined) =>
  treeOf(site).places.map(({ page, depth }) => '  '.repeat(depth) + page.label)
const page = (title: string, main: string) => `<!DOCTYPE html>
<html lang="en">
<head><meta charset="utf-8"><title>${title} | Ferry</title><link rel="stylesheet" href="ferry.css"></head>
<body>
<div id="head">Ferry</div>
<div id="main">
${main}
</div>
</body>
</html>
` // prettier-ignore
const ferry = {
  'ferry/index.html': page('Home', '<h1>Ferry</h1>\n<p><a href="times.html">Times</a>, <a href="fares.html#old">fares</a></p>'),
  'ferry/times.html': page('Times', '<h1>Times</h1>\n<p>At nine. <img src="boat.gif" alt="Boat"></p>'),
  'ferry/fares.html': page('Fares', '<h1>Fares</h1>\n<p id="old">Two. <a href="../visit/">Visit</a> <a href="gone.html">x</a></p>'),
  'ferry/ferry.css': 'body { background: url(boat.gif) }\n',
  'ferry/boat.gif': 'GIF89a',
} // prettier-ignore

describe('pages of elsewhere join a site', () => {
  const store = new TextStore()
  const site = siteFrom('Home\n  Visit\n    The pier\n  Birds', store)
  const { id: visitId } = pageCalled(site, 'Visit')

  test('whose site stands in a folder of its host are understood from the host’s top', () => {
    const seen = change(site, store, {
      kind: 'setSetting',
      field: 'publicAddress',
      value: 'https://host.example/~anna/',
      was: '',
    })
    const main =
      '<p><a href="/~anna/old/times.html">Times</a> <a href="/~anna/old/fares.html">Fares</a> <a href="/~anna/old/boats.html">Boats</a> <a href="/~anna/visit/">Visit</a> <a href="/club/">Club</a></p>'
    const files = {
      'old/boats.html': page('Boats', main),
      'old/times.html': page('Times', '<p>At nine.</p>'),
      'old/fares.html': page('Fares', '<p>Two.</p>'),
    }
    const built = buildAll(join(seen, files, store).site, store)
    expect(built.get('boats.html')).toContain(
      '<p><a href="times.html">Times</a> <a href="fares.html">Fares</a> <a href="boats.html">Boats</a> <a href="visit/index.html">Visit</a> <a href="https://host.example/club/">Club</a></p>',
    )
  })

  test('in two languages, each page stays the one that it is in the other', () => {
    const to = (path: string, name: string) => `<p><a href="${path}">${name}</a></p>`
    const two = {
      'f/index.html': page('Home', to('de.html', 'Deutsch')),
      'f/times.html': page('Times', to('zeiten.html', 'DE')),
      'f/de.html': page('Anfang', to('index.html', 'English')).replace('"en"', '"de"'),
      'f/zeiten.html': page('Zeiten', to('times.html', 'EN')).replace('"en"', '"de"'),
    }
    const { site: joined } = join(site, two, store, { parentId: visitId })
    const same = (label: string) => translationsOf(joined).of(pageCalled(joined, label)).map((one) => one.label)
    expect([same('Times'), same('Zeiten')]).toEqual([['Times', 'Zeiten'], ['Times', 'Zeiten']])
    expect(translationsOf(joined).of(pageCalled(joined, 'The pier'))).toEqual([])
  }) // prettier-ignore

  test('under a page, as a branch with the frame they share, leading to each other and to what was there', () => {
    const joined = join(site, ferry, store, { parentId: pageCalled(site, 'Birds').id })
    expect(planOf(joined)).toEqual(['Home', 'Visit', '  The pier', 'Birds', '  Ferry', '    Times', '    Fares'])
    expect(joined.change.templates.map(({ name }) => name)).toEqual(['Template of Ferry'])
    expect(joined.site.templateId).toBe(site.templateId)
    // Its front page is no page of this site, though it would stand where that has one.
    expect(join(site, ferry, store, { parentId: visitId }).same).toEqual([])
    const built = buildAll(joined.site, store)
    // What led nowhere leads nowhere still; the rest leads on.
    expect(brokenReferences(built).map((line) => line.replace(/.*: /, ''))).toEqual(['gone.html'])
    const { path } = namesOf(joined.site).pages.get(pageCalled(joined.site, 'Times').id)!
    expect(built.get(path)).toContain('<title>Times | Ferry</title>')
    // Beside the page, as it was where it came from.
    expect(built.get(path)).toContain('href="ferry.css"')
    expect(namesOf(joined.site).byPath.get(path.replace(/[^/]+$/, 'ferry.css'))).toMatchObject({ kind: 'file' })
  }) // prettier-ignore

  test('in the template of their place, without what surrounded them', () => {
    const joined = join(site, ferry, store, { parentId: visitId, frame: 'site', names: 'scheme' })
    expect(joined.change.templates).toEqual([])
    const times = pageCalled(joined.site, 'Times')
    // The heading is what the template writes by itself.
    expect(store.textOf(times.content)).toMatch(/^<div id="head">Ferry<\/div>\n<div id="main">\n<h1>/)
    const mine = (label: string, text: string) => {
      const built = buildAll(write(site, store, 'The pier', '<p>Old.</p>\n'), store)
      return built.get('visit/the-pier.html')!.replaceAll('The pier', label).replace('<p>Old.</p>', text)
    }
    // One that was made of a page of this site, by hand.
    const copy = join(site, { 'visit/slip.html': mine('The slip', '<h2>Here</h2>\n<p><a href="../birds.html">b</a></p>') }, store, { frame: 'site' }) // prettier-ignore
    const slip = pageCalled(copy.site, 'The slip')
    expect(slip).toMatchObject({ parentId: visitId, title: null, ownName: 'slip' })
    expect(store.textOf(slip.content)).toBe('<h2>Here</h2>\n<p><a href="../birds.html">b</a></p>\n')
    expect(namesOf(copy.site).pages.get(slip.id)!.path).toBe('visit/slip.html')
  })

  test('titles that have what this site’s have, or what most of theirs have, are parted from it; others are whole', () => {
    const retitled = (name: string, title: string) =>
      page(name, `<h1>${name}</h1>\n<p>${name}</p>`).replace(`${name} | Ferry`, title)
    const here = site.titlePattern.replace('{site}', site.name)
    const { site: joined } = join(site, { ...ferry, 'ferry/slip.html': retitled('Slip', here.replace('{page}', 'The old slip')), 'ferry/crew.html': retitled('Crew', 'Who sails') }, store, { parentId: visitId, frame: 'site' })
    const titled = ['Times', 'Slip', 'Crew'].map((label) => pageCalled(joined, label))
    expect(titled.map(({ title, titleAlone }) => [title, titleAlone])).toEqual([[null, false], ['The old slip', false], ['Who sails', true]])
    const paths = namesOf(joined).pages
    const built = buildAll(joined, store)
    expect(titled.map(({ id }) => /<title>(.*)<\/title>/.exec(built.get(paths.get(id)!.path)!)![1])).toEqual([here.replace('{page}', 'Times'), here.replace('{page}', 'The old slip'), 'Who sails'])
  }) // prettier-ignore

  test('the same page again is left, replaced, or put beside', () => {
    const built = buildAll(write(site, store, 'Birds', '<p>Many.</p>\n'), store)
    const changed = { ...Object.fromEntries(built), 'birds.html': built.get('birds.html')!.replace('Many', 'Fewer') }
    const left = join(site, changed, store)
    expect(left.same.filter(({ kind }) => kind === 'page')).toHaveLength(4)
    expect(left.change).toMatchObject({ pages: [], anew: [], files: [] })
    const replaced = join(site, changed, store, { same: 'replace', frame: 'site' })
    expect(replaced.site.pages).toHaveLength(4)
    expect(store.textOf(pageCalled(replaced.site, 'Birds').content)).toBe('<p>Fewer.</p>\n')
    expect(pageCalled(replaced.site, 'Birds')).toMatchObject({ title: null, templateId: null })
    expect(pageCalled(replaced.site, 'The pier').content).toBe(emptyHash)
    const beside = join(site, { 'birds.html': changed['birds.html'] }, store, { same: 'beside', frame: 'site' })
    expect(planOf(beside)).toEqual(['Home', 'Visit', '  The pier', 'Birds', 'Birds'])
    expect(store.textOf(pageCalled(beside.site, 'Birds').content)).toBe('')
  }) // prettier-ignore

  test('a file that is there to the byte is used, one of another content is asked about', () => {
    const first = join(site, ferry, store, { parentId: visitId })
    const again = join(first.site, { 'f/new.html': page('New', '<p><img src="pics/boat.gif"></p>'), 'f/pics/boat.gif': 'GIF89a' }, store) // prettier-ignore
    expect(again.change.files).toEqual([])
    expect(brokenReferences(buildAll(again.site, store)).filter((line) => line.includes('boat'))).toEqual([])
  })

  test('names that are kept are kept to the byte, in folders without a home page too; a place that is taken is not taken away', () => {
    const tides = { 'old/log/1994.html': page('1994', '<p><a href="/papers/Report.PDF">r</a></p>'), 'Log/1995.html': page('1995', '<p><a href="../old/log/1994.html">b</a></p>'),
      'papers/Report.PDF': 'pdf', 'visit/THE-PIER.html': page('Pier', '<p>Other.</p>'), 'about/index.html': page('About', '<p>We.</p>') }
    const joined = join(site, tides, store)
    const paths = [...namesOf(joined.site).byPath.keys()]
    expect(paths).toEqual(expect.arrayContaining(['old/log/1994.html', 'Log/1995.html', 'papers/Report.PDF', 'about/index.html', 'visit/the-pier.html']))
    expect(paths.filter((path) => path.endsWith('.html'))).toHaveLength(site.pages.length + 4)
    expect(brokenReferences(buildAll(joined.site, store)).filter((line) => /: .*(199|Report)/.test(line))).toEqual([])
    for (const { ownName, addresses } of joined.change.pages.filter(({ ownName }) => ownName?.startsWith('/')))
      expect([ownName, addresses]).toEqual([ownName, []])
  }) // prettier-ignore

  test('many at the top level leave the menus as they are, and it is said; a few stand in them', () => {
    const some = (count: number) => Object.fromEntries(Array.from({ length: count }, (_, nth) => [`tide-${nth + 1}.html`, page(`Tide ${nth + 1}`, '<p>High.</p>')])) // prettier-ignore
    const inMenus = ({ site: made, change: { pages } }: Joined) =>
      made.pages.filter(({ id, inMenus: isIn }) => isIn && pages.some((one) => one.id === id)).length
    const many = join(site, some(9), store)
    expect([inMenus(many), many.remarks.filter(({ why }) => why.includes('left out of menus'))]).toEqual([1, [expect.anything()]]) // prettier-ignore
    const few = join(site, some(4), store)
    expect([inMenus(few), few.remarks]).toEqual([4, []])
    expect(inMenus(join(site, some(9), store, { parentId: visitId }))).toBe(9)
  })

  test('what is no page, or goes deeper than a plan may, is refused', () => {
    expect(joinSite([], '', { ...usual, site }, { newId: testId, put: store.put.bind(store), sizeOf: () => 0 }, store))
      .toHaveProperty('refusal') // prettier-ignore
  })
})

test('whatever joins whatever: pages that were there stay as they are, and no reference is lost', () => {
  const hows = fc.record({
    same: fc.constantFrom('leave' as const, 'replace' as const, 'beside' as const),
    frame: fc.constantFrom('own' as const, 'site' as const),
    names: fc.constantFrom('kept' as const, 'scheme' as const),
    pick: fc.nat(20),
  })
  fc.assert(
    fc.property(sites, sites, hows, (makeOne, makeOther, { pick, ...how }) => {
      const store = new TextStore()
      const site = makeOne(store)
      const brought = Object.fromEntries(buildAll(makeOther(store), store))
      const parentId = [null, ...site.pages.map(({ id }) => id)][pick % (site.pages.length + 1)]!
      const joined = join(site, brought, store, { ...how, parentId })
      const [were, become] = [namesOf(site), namesOf(joined.site)]
      // Files give way to pages, and those without an ending to the folders of pages; to nothing else that comes.
      for (const [id, path] of were.files)
        if (/\.\w+$/.test(path) && !isPageName(path)) expect(become.files.get(id)).toBe(path)
      // Numbers follow the plan, trial pages have no address to keep, and a page with others below it may get a folder; no name is lost to what comes.
      if (!site.scheme.numbered)
        for (const [id, { stem, path }] of were.pages)
          if (!path.startsWith('.trial/')) expect(become.pages.get(id)!.stem).toBe(stem)
      const replaced = new Set(joined.change.anew.map(({ id }) => id))
      for (const one of site.pages)
        if (!replaced.has(one.id))
          expect(joined.site.pages.find(({ id }) => id === one.id)).toMatchObject({
            label: one.label,
            parentId: one.parentId,
            slots: one.slots,
          })
      const under = parentId === site.homeId ? null : parentId
      // Below the page that was chosen, or below one that holds something else now.
      const parents = new Map(joined.site.pages.map(({ id, parentId: above }) => [id, above]))
      for (const { id } of joined.change.pages) {
        let at: string | null = id
        while (at !== null && !replaced.has(at) && at !== under) at = parents.get(at)!
        expect(at !== null || under === null).toBe(true)
      }
      expect(joined.change.pages.length + joined.change.anew.length + (how.same === 'leave' ? joined.same.filter(({ kind }) => kind === 'page').length : 0))
        .toBe(Object.keys(brought).filter(isPageName).length) // prettier-ignore
      if (how.frame === 'own') expect(brokenReferences(buildAll(joined.site, store))).toEqual([])
    }),
    { numRuns: 100 },
  )
})

describe('pages in another language than the place where they come', () => {
  const german = Object.fromEntries(
    Object.entries(ferry).map(([path, text]) => [path, text.replace('lang="en"', 'lang="de"')]),
  )
  const made = (text: string) => /<html.*?>/.exec(text)![0]

  test.each(['own', 'site'] as const)('say it, in the frame that is their %s', (frame) => {
    const store = new TextStore()
    const site = siteFrom('Home\n  Visit', store)
    const joined = join(site, german, store, { frame, parentId: pageCalled(site, 'Visit').id })
    const came = new Set(joined.comes.map(({ id }) => id))
    const built = buildAll(joined.site, store)
    for (const { id } of joined.site.pages)
      expect(made(built.get(namesOf(joined.site).pages.get(id)!.path)!)).toBe(
        `<html lang="${came.has(id) ? 'de' : 'en'}">`,
      )
    // Below the front page of theirs nothing has to say it again.
    expect(joined.site.pages.filter(({ language }) => language !== null)).toHaveLength(1)
  })
})

test('pages that come below a section whose pages carry dates carry those in their names', () => {
  const store = new TextStore()
  let site = siteFrom('Home\n  News\n    Pier, 14 June 2030', store)
  const { id } = pageCalled(site, 'News')
  site = change(site, store, { kind: 'setPageFlag', pageIds: [id], flag: 'dated', value: true })
  const files = { '2031-03-03-gale.html': page('Gale', '<h1>Gale</h1>'), 'about.html': page('About', '<h1>About</h1>') }
  const { site: joined } = join(site, files, store, { parentId: id })
  const dates = ['Gale', 'About'].map((label) => pageCalled(joined, label)).map(({ parentId, date }) => [parentId, date])
  expect(dates).toEqual([[id, '2031-03-03'], [id, null]])
}) // prettier-ignore
