import { expect, test } from '@jest/globals'
import { realPlaces, treeOf } from '#core/plan'
import type { FileKind, Site, SiteFile } from '#core/site'
import { contextOf, SiteTemplates } from '#core/template'
import { pageCalled, siteFrom, TextStore, write } from '#core/testing'
import { lines, secondsOn, weighPages } from './index'

const store = new TextStore()
const plain = siteFrom('Home\n  Visit', store)
const file = (id: string, kind: FileKind, label: string, sizeBytes: number, text = label): SiteFile => ({
  id,
  kind,
  label,
  sizeBytes,
  seq: plain.nextSeq + Number(id),
  hash: store.put(text),
})
const withFiles = (files: readonly SiteFile[]): Site => ({
  ...plain,
  nextSeq: plain.nextSeq + 20,
  files: [...plain.files, ...files],
})
const weigh = (site: Site, label: string) => {
  const weights = weighPages(
    contextOf(site),
    realPlaces(treeOf(site)).map(({ page }) => page),
    {
      templates: new SiteTemplates(site, store.textOf),
      factsOf: store.factsOf,
      fileFactsOf: store.fileFactsOf,
      sourceBytesOf: () => 1_000,
    },
  )
  return weights.find(({ pageId }) => pageId === pageCalled(site, label).id)!
}
const ownStyle = plain.files.find(({ kind }) => kind === 'style')!.sizeBytes

test('what a page shows and its template asks for, each once; not what it only leads to', () => {
  const site = withFiles([
    file('1', 'image', 'tern.jpg', 50_000),
    file('2', 'document', 'tides.pdf', 900_000),
    file('3', 'image', 'tern-800.jpg', 20_000),
  ])
  const html =
    '<img src="/images/tern.jpg" srcset="/images/tern-800.jpg 800w"><img src="/images/tern.jpg"><a href="/documents/tides.pdf">x</a>'
  const weight = weigh(write(site, store, 'Visit', html), 'Visit')
  expect(weight.bytes).toMatchObject({ source: 1_000, styles: ownStyle, pictures: 50_000, other: 0 })
  expect(weight.total).toBe(1_000 + ownStyle + 50_000)
  expect(weigh(site, 'Home').total).toBe(1_000 + ownStyle)
})

test('what a style sheet brings: sheets it imports, once in a circle, pictures, the smallest of a typeface', () => {
  const css = '@import "more.css"; @font-face { src: url("../fonts/a.woff2"), url("../fonts/a.ttf") }'
  const more = '@import "base.css"; a { background: url(../images/sand.png) }'
  const site = withFiles([
    file('1', 'style', 'base.css', 100, css),
    file('2', 'style', 'more.css', 200, more),
    file('3', 'other', 'a.woff2', 20_000),
    file('4', 'other', 'a.ttf', 60_000),
    file('5', 'image', 'sand.png', 3_000),
  ])
  const site2: Site = { ...site, scheme: { ...site.scheme, folders: { ...site.scheme.folders, other: 'fonts' } } }
  const weight = weigh(write(site2, store, 'Visit', '<link rel="stylesheet" href="/styles/base.css">'), 'Visit')
  expect(weight.bytes).toMatchObject({ styles: ownStyle + 300, fonts: 20_000, pictures: 3_000 })
}) // prettier-ignore

test('seconds grow with bytes and with what has to be asked for', () => {
  const weight = weigh(plain, 'Home')
  const twice = { ...weight, total: weight.total + 50_000 }
  expect(secondsOn(lines.slow, twice) - secondsOn(lines.slow, weight)).toBeCloseTo(1)
  expect(secondsOn(lines.slow, { ...weight, files: [] })).toBeLessThan(secondsOn(lines.slow, weight))
})
