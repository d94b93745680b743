import { readdir, readFile } from 'node:fs/promises'
import path from 'node:path'
import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { type ConfigData, HtmlValidate, type ResolvedConfig, StaticConfigLoader } from 'html-validate'
import { nameLabel } from '#core/naming'
import { writeOutline } from '#core/plan'
import { parseHtml } from '#core/markup'
import { buildAll, outlines, siteFrom, TextStore } from '#core/testing'
import { defaultScheme } from '#core/site'

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
          ...images.map((label, index) => ({
            id: label,
            kind: 'image' as const,
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

  test('and a page that is not is told', async () => {
    expect(
      await complaintsOf(
        '<!DOCTYPE html>\n<html lang="en"><head><title>x</title></head><body><img src="a.png"></body></html>\n',
        'x.html',
      ),
    ).not.toEqual([])
  })
})
