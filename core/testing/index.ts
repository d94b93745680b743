import { createHash } from 'node:crypto'
import fc from 'fast-check'
import { buildSite } from '#core/build'
import { applyEdits, readHtml } from '#core/markup'
import { type Change, edit, findRewrites, newSite } from '#core/change'
import { type OutlineNode, planSite, readOutline } from '#core/plan'
import { type Hash, type Site } from '#core/site'
import { defaultTemplate, starterStyle } from '#core/template'

/** Texts by hash, in memory: what the server's store is to the core. */
export class TextStore {
  readonly #texts = new Map<Hash, string>()

  put(text: string): Hash {
    const hash = createHash('sha256').update(text).digest('hex')
    this.#texts.set(hash, text)
    return hash
  }

  readonly textOf = (hash: Hash): string => {
    const text = this.#texts.get(hash)
    if (text === undefined) throw new Error(`No text ${hash}`)
    return text
  }

  readonly factsOf = (hash: Hash) => readHtml(this.textOf(hash))
  readonly year = 2031
}

let ids = 0
export const testId = (): string => `id-${++ids}`

/** A site from a typed plan, with the default template and style sheet. */
export function siteFrom(plan: string, store: TextStore, name = 'Saltpan Chapel'): Site {
  return newSite({
    id: testId(),
    name,
    language: 'en',
    plan: planSite(readOutline(plan), name),
    newId: testId,
    emptyContent: store.put(''),
    template: store.put(defaultTemplate),
    style: { hash: store.put(starterStyle), sizeBytes: starterStyle.length },
  })
}

export const pageCalled = (site: Site, label: string) => {
  const page = site.pages.find((one) => one.label === label)
  if (!page) throw new Error(`No page ${label}`)
  return page
}

/** Applies a change as the server does: the structure, then every reference it makes wrong. */
export function change(site: Site, store: TextStore, what: Change): Site {
  const edited = edit(site, what)
  if ('refusal' in edited) throw new Error(edited.refusal.message)
  return mend(site, edited.site, store)
}

/** The later site with its references mended. */
export function mend(before: Site, after: Site, store: TextStore): Site {
  const rewrites = findRewrites(before, after, store)
  const hashes = new Map(
    rewrites.map(({ owner, hash, edits }) => [owner.id, store.put(applyEdits(store.textOf(hash), edits))]),
  )
  const put = <T extends { id: string }>(rows: readonly T[], field: keyof T) =>
    rows.map((row) => (hashes.has(row.id) ? { ...row, [field]: hashes.get(row.id) } : row))
  return {
    ...after,
    pages: put(after.pages, 'content'),
    templates: put(after.templates, 'source'),
    files: put(after.files, 'hash'),
  }
}

/** The whole built site as path → text. */
export function buildAll(site: Site, store: TextStore): Map<string, string> {
  const build = buildSite(site, store)
  return new Map(build.entries.map((entry) => [entry.path, build.textOf(entry.id)]))
}

/** Labels that people type, and some that only a test would. */
export const labels = fc.oneof(
  { weight: 6, arbitrary: fc.constantFrom('Visit', 'visit', 'Tides & ferries', 'Café', 'CAFE', 'Index', 'Images', 'con', 'The light', '1999–2004', 'Über uns', '東京', 'ß', 'SS', 'Straße', 'Keeper’s cottage', '...', '😀', '../../etc', '.htaccess', 'a%20b', 'שלום', 'e\u0301tude') },
  { weight: 3, arbitrary: fc.string({ unit: 'grapheme', minLength: 1, maxLength: 24 }) },
  { weight: 1, arbitrary: fc.string({ unit: 'binary', minLength: 1, maxLength: 12 }) },
) // prettier-ignore

/** A plan as lines of a depth and a label; depths are brought to at most one deeper than before. */
export const outlines: fc.Arbitrary<OutlineNode[]> = fc
  .array(fc.record({ depth: fc.nat(3), label: labels, trial: fc.boolean() }), { minLength: 1, maxLength: 30 })
  .map((lines) => {
    const roots: OutlineNode[] = []
    const open: OutlineNode[][] = [roots]
    for (const { depth, label, trial } of lines) {
      open.length = Math.min(open.length, depth + 1)
      const children: OutlineNode[] = []
      open[open.length - 1]!.push({ label, trial: trial && depth === 0, inMenus: true, children })
      open.push(children)
    }
    return roots
  })
