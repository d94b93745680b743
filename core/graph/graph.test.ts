import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { realPlaces, treeOf } from '#core/plan'
import { contextOf, SiteTemplates } from '#core/template'
import { change, pageCalled, siteFrom, TextStore, write } from '#core/testing'
import type { Site } from '#core/site'
import { linkGraph } from './index'

const graphOf = (site: Site, store: TextStore) => {
  const pages = realPlaces(treeOf(site)).map(({ page }) => page)
  const graph = linkGraph(contextOf(site), pages, { templates: new SiteTemplates(site, store.textOf), factsOf: store.factsOf }) // prettier-ignore
  const label = (id: string) => site.pages.find((page) => page.id === id)!.label
  return Object.fromEntries(
    graph.nodes.map(({ id, steps, to, from, isListed }) => [
      label(id),
      { steps, to: to.map(label), from: from.map(label), isListed },
    ]),
  )
}
const bare = (site: Site, store: TextStore, source = '<slot name="content"></slot>') => {
  const [template] = site.templates
  return change(site, store, { kind: 'setTemplate', templateId: template!.id, source: store.put(source), was: template!.source }) // prettier-ignore
}

describe('the link graph', () => {
  test('steps count clicks through texts and menus alike', () => {
    const store = new TextStore()
    const site = siteFrom('Home\n  Birds\n    Terns\n  Visit', store)
    const graph = graphOf(write(site, store, 'Terns', '<a href="/visit.html">x</a><a href="/visit.html#a">y</a>'), store)
    expect(graph.Home).toMatchObject({ steps: 0 })
    expect(graph.Birds).toMatchObject({ steps: 1, isListed: true })
    expect(graph.Terns).toMatchObject({ steps: 2, to: ['Visit'], isListed: true })
    expect(graph.Visit).toMatchObject({ steps: 1, from: ['Terns'] })
  }) // prettier-ignore

  test('an island is led to and not reached; a trial page, a picture and a link to oneself are no links', () => {
    const store = new TextStore()
    let site = bare(siteFrom('Home\n  A\n  B\n  C\n  Sketch', store), store)
    site = write(site, store, 'A', '<a href="/b.html">b</a><a href="/a.html">self</a>')
    site = write(site, store, 'B', '<a href="/a.html">a</a><img src="/c.html"><a href="/sketch.html">s</a>')
    const sketch = pageCalled(site, 'Sketch').id
    site = change(site, store, { kind: 'setPageFlag', pageIds: [sketch], flag: 'trial', value: true })
    expect(graphOf(site, store)).toEqual({
      Home: { steps: 0, to: [], from: [], isListed: false },
      A: { steps: null, to: ['B'], from: ['B'], isListed: false },
      B: { steps: null, to: ['A'], from: ['A'], isListed: false },
      C: { steps: null, to: [], from: [], isListed: false },
    })
  })

  test('frames, jump menus and scripts lead on; quotations, what is told to others and mere words do not', () => {
    const store = new TextStore()
    const site = bare(siteFrom('Home\n  A\n  B\n  C\n  D\n  E\n  F', store), store)
    const home = `<meta http-equiv="refresh" content="9; url=a.html"><meta property="og:url" content="e.html"><blockquote cite="f.html">x</blockquote>
<select><option value="b.html">B</select><script>go('c.html')</script>`
    const graph = graphOf(
      write(write(site, store, 'Home', home), store, 'A', '<iframe src="d.html"></iframe>'),
      store,
    )
    expect(graph.Home!.to).toEqual(['A', 'B', 'C'])
    expect(graph.D!.steps).toBe(2)
    const frames = '<html><frameset><frame src="a.html"><frame src="b.html"></frameset></html>'
    expect(graphOf(write(site, store, 'Home', frames), store).Home!.to).toEqual(['A', 'B'])
  })

  test('a page whose only list is its own trail is not listed by it', () => {
    const store = new TextStore()
    const site = bare(siteFrom('Home\n  A', store), store, '<site-trail></site-trail><slot name="content"></slot>')
    expect(graphOf(site, store)).toMatchObject({ Home: { isListed: true }, A: { isListed: false, steps: null } })
  }) // prettier-ignore

  test('steps are those of a search over every single link', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(7), fc.nat(7)), { maxLength: 20 }), (links) => {
        const store = new TextStore()
        let site = bare(siteFrom('Home\n  P1\n  P2\n  P3\n  P4\n  P5\n  P6\n  P7', store), store)
        const file = (index: number) => (index === 0 ? 'index' : `p${index}`)
        for (let index = 0; index < 8; index++) {
          const own = links.filter(([from]) => from === index)
          const html = own.map(([, to]) => `<a href="/${file(to)}.html">x</a>`).join('')
          site = write(site, store, index === 0 ? 'Home' : `P${index}`, html)
        }
        const steps: (number | null)[] = [0, ...Array<null>(7).fill(null)]
        for (let round = 0; round < 8; round++)
          for (const [from, to] of links)
            if (steps[from] !== null) steps[to] = Math.min(steps[to] ?? Infinity, steps[from]! + 1)
        expect(Object.values(graphOf(site, store)).map((node) => node.steps)).toEqual(steps)
      }),
      { numRuns: 60 },
    )
  })

  test('a menu of every page on every page is kept once', () => {
    const store = new TextStore()
    const plan = `Home\n${Array.from({ length: 3_000 }, (_, at) => `  Page ${at}`).join('\n')}`
    const site = siteFrom(plan, store)
    const nodes = Object.values(graphOf(site, store))
    expect(nodes.every(({ steps }) => steps !== null && steps < 2)).toBe(true)
    // With a link each it would be nine million.
    expect(nodes.reduce((sum, { to, from }) => sum + to.length + from.length, 0)).toBe(0)
  })
})
