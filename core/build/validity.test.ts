import { readdir, readFile } from 'node:fs/promises'
import path from 'node:path'
import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { type ConfigData, HtmlValidate, type ResolvedConfig, StaticConfigLoader } from 'html-validate'
import { nameLabel } from '#core/naming'
import { writeOutline } from '#core/plan'
import { parseHtml, readHtml } from '#core/markup'
import { isErrorPage } from '#core/template'
import {
  arrangements,
  brokenReferences,
  buildAll,
  change,
  outlines,
  siteFrom,
  TextStore,
} from '#core/testing'
import { buildSite } from './index'
import { defaultScheme, type Output, type Site, slotOf } from '#core/site'

/** Resolving the configuration costs more than reading a page, so it is done once. */
class OnceLoader extends StaticConfigLoader {
  #resolved: ResolvedConfig | Promise<ResolvedConfig> | null = null
  override getConfigFor(handle: string, override?: ConfigData) {
    return (this.#resolved ??= super.getConfigFor(handle, override))
  }
}
const validator = new HtmlValidate(
  new OnceLoader({
    extends: ['html-validate:recommended', 'html-validate:document'],
    // Integrity guards what comes from other sites; the site's own files come with it.
    rules: { 'require-sri': ['error', { target: 'crossorigin' }] },
  }),
)

async function complaintsOf(html: string, name: string): Promise<string[]> {
  const report = await validator.validateString(html, name)
  return report.results.flatMap((result) =>
    result.messages.map((one) => `${name}:${one.line} ${one.ruleId}: ${one.message}`),
  )
}

async function complaints(files: Map<string, string>): Promise<string[]> {
  const found: string[] = []
  for (const [name, html] of files) {
    if (!name.endsWith('.html')) continue
    found.push(...parseHtml(html, true).errors.map((error) => `${name}:${error.line} ${error.code}`))
    found.push(...(await complaintsOf(html, name)))
    expect(Buffer.from(html).subarray(0, 1024).includes('<meta charset="utf-8">')).toBe(true)
    expect(html).toMatch(/[^\n]\n$/)
    expect(html).not.toMatch(/[ \t]\n|\r/)
  }
  return found
}

describe('every page is valid by the HTML Standard', () => {
  test('of the demo', async () => {
    const store = new TextStore()
    const site = siteFrom(await readFile('demo/plan.txt', 'utf8'), store, 'Marrow Skerry Light')
    const texts = new Map<string, string>()
    for (const name of await readdir('demo/pages'))
      texts.set(path.parse(name).name, await readFile(path.join('demo/pages', name), 'utf8'))
    const images = await readdir('demo/images')
    const documents = await readdir('demo/documents')
    const files = buildAll(
      {
        ...site,
        pages: site.pages.map((page) => ({
          ...page,
          content: store.put(
            texts.get(nameLabel(page.label, defaultScheme, 'en').name)!.replace(/^<!--.*-->\n/, ''),
          ),
        })),
        files: [
          ...site.files,
          ...[...images, ...documents].map((label, index) => ({
            id: label,
            kind: index < images.length ? ('image' as const) : ('document' as const),
            label,
            seq: 100 + index,
            hash: store.put(label),
            sizeBytes: 1,
          })),
        ],
      },
      store,
    )
    expect([...files.keys()].filter((name) => name.endsWith('.html'))).toHaveLength(21)
    expect(await complaints(files)).toEqual([])
  })

  test('of sites from any plan', async () => {
    await fc.assert(
      fc.asyncProperty(outlines, async (nodes) => {
        const store = new TextStore()
        expect(await complaints(buildAll(siteFrom(writeOutline(nodes), store), store))).toEqual([])
      }),
      { numRuns: 40 },
    )
  })

  /** Templates as an author may put them together: parts in any order, filled or not, on one another. */
  const parts = fc.constantFrom(
    '<site-menu levels="2" aria-label="Main"></site-menu>', '<site-menu of="section" levels="all" own="omit" class="side" aria-label="Section"></site-menu>',
    '<site-trail aria-label="Here"></site-trail>', '<page-children levels="2" aria-label="Below"></page-children>', '<page-neighbours aria-label="Beside"></page-neighbours>',
    '<p>{site}, {year}: {page}</p>', '<slot name="beside"><p>Nothing beside.</p></slot>', '<aside>\n  <slot name="aside"></slot>\n</aside>',
    '<page-latest count="3" descriptions="show" aria-label="Latest"></page-latest>', '<p>Of <time datetime="{datetime}">{date}</time></p>', '<p><page-latest between=" / "></page-latest></p>',
    '<!-- said -->', '<pre>\n  kept\n</pre>', '<p data-note="{description}">x</p>',
  ) // prettier-ignore
  const someParts = fc.uniqueArray(parts, { maxLength: 6 })
  const outputs: fc.Arbitrary<Output> = fc.record({
    indent: fc.constantFrom('as-written', '2', '4', 'tab'),
    lineEnd: fc.constantFrom('lf', 'crlf'),
    comments: fc.boolean(),
    links: fc.constantFrom('files', 'folders'),
  })
  const publicPaths = fc.constantFrom(null, '/', '/skerry/light/')
  const settings = fc.record({
    name: fc.constantFrom('Home', 'A & B', '“x” <y>', '東京'),
    titlePattern: fc.constantFrom('{page} – {site}', '{page}', '{site}: {page} ({year})'),
    homeTitlePattern: fc.constantFrom('', '{site} & co'),
  })

  test('of sites of any templates, slots and settings; the same to the byte when made again', async () => {
    await fc.assert(
      fc.asyncProperty(outlines, someParts, someParts, outputs, settings, fc.constantFrom(...arrangements), publicPaths, async (nodes, above, within, output, said, arrangement, publicPath) => {
        const store = new TextStore()
        const plain = siteFrom(writeOutline(nodes), store)
        let site: Site = { ...plain, ...said, scheme: { ...plain.scheme, arrangement } }
        const own = site.templates[0]!
        // Each part of a kind once, so that no two landmarks are called alike.
        const base = store.textOf(own.source)
          .replace(/ *<(site-menu|site-trail|page-children)[^>]*><\/\1>\n/g, '')
          .replace('    <footer', `    <nav hidden></nav>\n${above.map((part) => `    ${part}\n`).join('')}    <footer`)
          .replace('    <nav hidden></nav>\n', '')
        const filling = `<template slot="content">\n${within.filter((part) => !above.includes(part)).map((part) => `  ${part}\n`).join('')}  <slot name="content"></slot>\n</template>\n`
        site = change(site, store, { kind: 'setTemplate', templateId: own.id, source: store.put(base), was: own.source })
        site = change(site, store, { kind: 'addTemplate', templateId: 'second', name: 'Second', source: store.put(filling), basedOn: own.id })
        const [first] = site.pages.filter((page) => page.id !== site.homeId)
        if (first) site = change(site, store, { kind: 'chooseTemplate', pageIds: [first.id], of: 'below', templateId: 'second' })
        if (first) site = change(site, store, { kind: 'chooseTemplate', pageIds: [first.id], of: 'page', templateId: 'second' })
        for (const page of site.pages.slice(0, 3))
          site = change(site, store, { kind: 'setContent', pageId: page.id, slot: 'aside', content: store.put('<p>Beside.</p>\n<pre>\n x\n</pre>'), was: slotOf(page, 'aside') })
        const sections = site.pages.flatMap(({ parentId }) => parentId ?? [])
        site = change(site, store, { kind: 'setPageFlag', pageIds: [...new Set(sections)], flag: 'dated', value: true })
        for (const page of site.pages.slice(1, 4))
          site = change(site, store, { kind: 'setPageText', pageId: page.id, field: 'date', value: `203${page.label.length % 10}`, was: null })
        site = change(site, store, { kind: 'setOutput', output, was: site.output })
        const sources = { textOf: store.textOf, factsOf: store.factsOf, year: store.year, publicPath }
        const files = buildAll(site, store, publicPath)
        const again = buildAll({ ...site, pages: [...site.pages] }, store, publicPath)
        expect([...again]).toEqual([...files])
        // Whichever page was made before it, and whether it is told what wrote it.
        for (const { id, path } of buildSite(site, sources).entries.toReversed()) {
          const alone = buildSite({ ...site, pages: [...site.pages] }, sources)
          expect(alone.textOf(id)).toBe(files.get(path))
          if (site.pages.some((page) => page.id === id))
            expect(alone.traceOf(id).text).toBe(files.get(path)!.replace(/\r\n/g, '\n'))
        }
        const backwards = buildSite({ ...site, pages: [...site.pages] }, sources)
        for (const { id, path } of backwards.entries.toReversed()) expect(backwards.textOf(id)).toBe(files.get(path))
        const pages = [...files].filter(([name]) => name.endsWith('.html'))
        for (const [, html] of pages) expect(/\r/.test(html)).toBe(output.lineEnd === 'crlf')
        expect(await complaints(new Map(pages.map(([name, html]) => [name, html.replace(/\r\n/g, '\n')])))).toEqual([])
        for (const [, html] of pages) expect(html.match(/<h1[\s>]/g)?.length ?? 0).toBeLessThanOrEqual(1)
        // What a host shows under any address refers to the rest from where visitors see the site.
        for (const [at, html] of pages) {
          const hrefs = readHtml(html, true).references.map(({ href }) => href).filter((href) => !href.startsWith('#'))
          if (isErrorPage(at) && publicPath !== null) {
            expect(hrefs.filter((href) => !href.startsWith(publicPath))).toEqual([])
            files.set(at, html.replaceAll(`"${publicPath}`, '"/'))
          } else expect(hrefs.filter((href) => href.startsWith('/'))).toEqual([])
          const named = hrefs.filter((href) => (output.links === 'folders' ? /(^|\/)index\.html$/ : /\/$/).test(href))
          expect(named).toEqual([])
        }
        expect(brokenReferences(files)).toEqual([])
      }),
      { numRuns: 30 },
    )
  }, 60_000) // prettier-ignore

  test('and a page that is not is told', async () => {
    expect(
      await complaintsOf(
        '<!DOCTYPE html>\n<html lang="en"><head><title>x</title></head><body><img src="a.png"></body></html>\n',
        'x.html',
      ),
    ).not.toEqual([])
  })
})
