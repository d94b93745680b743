import { buildSite } from '#core/build'
import { newSite } from '#core/change'
import type { Kit } from '#core/kit'
import { resolveReference } from '#core/links'
import { applyEdits, findCssReferences, readHtml, type Reference, writeReference } from '#core/markup'
import { namesOf } from '#core/naming'
import { planSite, readOutline } from '#core/plan'
import { type Hash, mainSlot, type Site } from '#core/site'
import { homeFileOf, SiteTemplates } from '#core/template'
import mime from 'mime-types'
import { hashOf } from '#server/contents'
import { sampleAside, samplePage, samplePlan, sampleText } from './sample'

/**
 * A page made with a kit, all it needs in itself, since a sandboxed page is given nothing: style sheets,
 * scripts and pictures stand in it as `data:` addresses (RFC 2397).
 */
export function lookOf(kit: Kit, contents: ReadonlyMap<Hash, Buffer>, year: number): string {
  const texts = new Map<Hash, string>([...contents].map(([hash, bytes]) => [hash, bytes.toString('utf8')]))
  const put = (text: string): Hash => {
    texts.set(hashOf(text), text)
    return hashOf(text)
  }
  let ids = 0
  const empty = newSite({
    id: '0',
    name: 'Saltpan Chapel',
    language: 'en',
    kit,
    plan: planSite(readOutline(samplePlan), 'Saltpan Chapel'),
    newId: () => String(++ids),
    emptyContent: put(''),
  })
  const textOf = (hash: Hash) => texts.get(hash)!
  const shown = empty.pages.find(({ label }) => label === samplePage)!
  const { slots } = new SiteTemplates(empty, textOf).compiled(empty.templateId)
  const site: Site = {
    ...empty,
    pages: empty.pages.map((page) =>
      page !== shown
        ? page
        : {
            ...page,
            content: put(sampleText),
            slots: Object.fromEntries(
              slots.filter(({ name }) => name !== mainSlot).map(({ name }) => [name, put(sampleAside)]),
            ),
          },
    ),
  }
  const build = buildSite(site, {
    textOf,
    factsOf: (hash) => readHtml(textOf(hash)),
    digest: hashOf,
    year,
  })
  const names = namesOf(site)
  const home = homeFileOf(site)
  const fileById = new Map(site.files.map((file) => [file.id, file]))

  const carried = (text: string, path: string, references: readonly Reference[], depth: number): string =>
    applyEdits(
      text,
      references.flatMap((reference) => {
        const target = resolveReference(reference.href, path, names, home)
        const file = target.kind === 'file' ? fileById.get(target.id) : undefined
        if (!file || depth > 4) return []
        let bytes = contents.get(file.hash)!
        if (file.kind === 'style') {
          const css = bytes.toString('utf8')
          bytes = Buffer.from(carried(css, names.files.get(file.id)!, findCssReferences(css), depth + 1))
        }
        const type = mime.lookup(file.label) || 'application/octet-stream'
        const href = `data:${type};base64,${bytes.toString('base64')}`
        return [{ start: reference.start, end: reference.end, text: writeReference(reference, href) }]
      }),
    )
  const html = build.textOf(shown.id)
  return carried(html, names.pages.get(shown.id)!.path, readHtml(html, true).references, 0)
}
