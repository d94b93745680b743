import { describe, expect, test } from '@jest/globals'
import type { Change } from '#core/change'
import { namesOf } from '#core/naming'
import type { Site } from '#core/site'
import { buildAll, change, pageCalled, siteFrom, write } from '#core/testing'
import { adviseOnPlan } from './index'
import { by, mended, store, withTemplate, written } from '../testing/by-rule'

describe('what a template says of every page', () => {
  const head =
    '<!DOCTYPE html>\n<html lang="en">\n<head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>{title}</title></head>\n<body><a href="/">Home</a><h1>{page}</h1><slot name="content"></slot></body></html>\n'
  test.each([
    ['no-doctype', head.replace('<!DOCTYPE html>\n', '')],
    ['no-doctype', head.replace('<!DOCTYPE html>', '<!DOCTYPE HTML PUBLIC "-//W3C//DTD HTML 3.2//EN">')],
    ['no-language', head.replace(' lang="en"', '')],
    ['no-direction', head.replace('lang="en"', 'lang="he"')],
    ['charset', head.replace('<meta charset="utf-8">', '')],
    ['charset', head.replace('utf-8', 'windows-1252')],
    ['charset', head.replace('<meta charset="utf-8">', `<!-- ${'x'.repeat(1_024)} --><meta charset="utf-8">`)],
    ['viewport', head.replace(/<meta name="viewport"[^>]*>/, '')],
    ['viewport', head.replace('width=device-width', 'width=device-width, user-scalable=no')],
    ['same-title', head.replace('{title}', 'Saltpan')],
    ['same-title', head.replace('<title>{title}</title>', '')],
    ['header-home', head.replace('href="/"', 'href="/visit.html"')],
    ['page-headings', head.replace(/<h1>.*<\/h1>/, '')],
  ])('%s', (rule, source) => {
    expect(by(rule, withTemplate(head))).toEqual([])
    const site = withTemplate(source)
    const [finding] = by(rule, site)
    expect(finding).toBeDefined()
    const after = mended(finding!)
    if (after !== null) expect(by(rule, withTemplate(after))).toEqual([])
    // What only some pages have to be looked at for has no way that is sure.
    else expect(['header-home', 'page-headings']).toContain(rule)
  }) // prettier-ignore

  test.each([
    ['charset', '<meta charset="utf-8">', '<meta http-equiv=Content-Type content="text/html; charset=utf-8">'],
    ['viewport', /<meta name="viewport"[^>]*>/, '<meta name="viewport" content="width=device-width">'],
    ['same-title', '<title>{title}</title>', '<title>Tides</title>'],
  ])('%s is not lacking where each page says it in the head, and told with how many do not', (rule, without, said) => {
    let site = withTemplate(head.replace(without, '<slot name="head"></slot>'))
    expect(by(rule, site)[0]!.mends[0]!.isOther).toBeUndefined()
    const pages = site.pages.map(({ id }) => id)
    for (const [at, pageId] of pages.entries()) {
      site = change(site, store, { kind: 'setContent', pageId, slot: 'head', content: store.put(said), was: store.put('') })
      const found = by(rule, site)
      if (at === pages.length - 1) expect(found).toEqual([])
      else expect([found[0]!.mends[0]!.isOther, found[0]!.what]).toEqual([true, expect.stringContaining(`${pages.length - 1 - at} page`)])
    }
  }) // prettier-ignore

  test('a page that only sends on, or shows others in frames, needs no heading of its own', () => {
    const whole = (head: string, body: string) => `<!doctype html><html><head><title>x</title>${head}</head>${body}</html>`
    const found = (text: string) => {
      const site = write(withTemplate('<slot name="content"></slot>\n'), store, 'Visit', text)
      return by('page-headings', site).filter(({ place }) => JSON.stringify(place).includes(pageCalled(site, 'Visit').id)).length
    }
    expect(found(whole('<meta http-equiv="refresh" content="0; url=/tides.html">', '<body><p>It is <a href="/tides.html">here</a> now.</p></body>'))).toBe(0)
    expect(found(whole('', '<frameset><frame src="/tides.html"></frameset>'))).toBe(0)
    expect(found(whole('<meta http-equiv="refresh" content="600; url=/visit.html">', `<body><p>${'word '.repeat(60)}</p></body>`))).toBe(1)
    expect(found(whole('<meta name="x" content="/tides.html">', '<body><p>Few words.</p></body>'))).toBe(1)
  }) // prettier-ignore

  test('of one that gives out what pages hold as whole documents nothing is said', () => {
    const whole = '<!doctype html><html><head><title>x</title></head><body><h1>x</h1></body></html>'
    const site = write(withTemplate('<slot name="content"></slot>\n'), store, 'Visit', whole)
    expect(
      ['no-doctype', 'charset', 'viewport', 'same-title', 'page-in-page'].flatMap((rule) => by(rule, site)),
    ).toEqual([])
  })
})

describe('dates', () => {
  const dated = (site: Site): Site => {
    const pageIds = [pageCalled(site, 'Birds').id]
    const address = { kind: 'setSetting', field: 'publicAddress', value: 'https://saltpan.example/', was: '' } as const
    const placed = change(site, store, address)
    return change(placed, store, { kind: 'setPageFlag', pageIds, flag: 'dated', value: true })
  }
  const dateOf = (site: Site, label: string, value: string): Site =>
    change(site, store, { kind: 'setPageText', pageId: pageCalled(site, label).id, field: 'date', value, was: null })

  test('a page without one among those that carry one is told, until it has one', () => {
    expect(by('undated-page', written)).toEqual([])
    let site = dated(written)
    expect(by('undated-page', site).map(({ place }) => place.id)).toEqual(['Terns', 'Gulls'].map((label) => pageCalled(site, label).id))
    site = dateOf(site, 'Terns', '2031-05')
    const { id: pageId } = pageCalled(site, 'Gulls')
    site = change(site, store, { kind: 'setPageText', pageId, field: 'label', value: 'Gulls, May 2031', was: 'Gulls' })
    expect(by('undated-page', site)).toEqual([])
  })

  test('a section whose pages have dates in their labels is told that they could carry them', () => {
    const site = siteFrom('Home\n  News\n    Gale, 3 March 2031\n    Regatta, July 2031\n    About\n  Rooms\n    Room 12\n    Keepers, 1871–1983\n    Report 2030\n  Old (trial page)\n    1 May 2030\n    2 May 2030', store)
    const [finding, ...others] = adviseOnPlan(site).filter(({ rule }) => rule === 'datable-section')
    expect(others).toEqual([])
    expect([finding!.place.id, finding!.what]).toEqual([pageCalled(site, 'News').id, expect.stringMatching(/^2 pages of 3 below “News” have a date in their labels\./)])
    const [way] = finding!.mends
    const after = change(site, store, (way as { change: Change }).change)
    expect(namesOf(after).pages.get(pageCalled(after, 'Regatta, July 2031').id)!.path).toBe('news/2031-07-regatta.html')
    expect(adviseOnPlan(after).filter(({ rule }) => rule === 'datable-section')).toEqual([])
  })

  test('a feed that no page names is told with the line that does, and that is left out where there is none', () => {
    const before = dateOf(dated(written), 'Terns', '2031-05')
    expect(by('unnamed-feed', before)).toEqual([])
    const site = change(before, store, { kind: 'setOutput', output: { ...before.output, feed: true }, was: before.output })
    const [finding, ...others] = by('unnamed-feed', site)
    expect(others).toEqual([])
    const after = mended(finding!)!
    expect(after).toContain('    <link rel="alternate" type="application/atom+xml" title="{site}" href="{feed}">\n')
    const { id: templateId, source: was } = site.templates[0]!
    const named = change(site, store, { kind: 'setTemplate', templateId, source: store.put(after), was })
    expect(by('unnamed-feed', named)).toEqual([])
    expect(buildAll(named, store).get('index.html')).toContain('title="Saltpan Chapel" href="https://saltpan.example/feed.xml">')
    expect(buildAll({ ...named, publicAddress: '' }, store).get('index.html')).not.toContain('atom')
    // One that its author keeps may be meant, and gives way only where that is asked for.
    const own = store.put(store.textOf(was).replace('</title>', '</title><link rel=alternate type="application/rss+xml" href="https://elsewhere.example/">'))
    const [other] = by('unnamed-feed', change(site, store, { kind: 'setTemplate', templateId, source: own, was }))
    expect([other!.what.endsWith('name another.'), other!.mends[0]!.isOther]).toEqual([true, true])
    expect(mended(other!)).not.toContain('elsewhere.example')
  })
}) // prettier-ignore
