import { createHash } from 'node:crypto'
import fc from 'fast-check'
import { buildSite } from '#core/build'
import { mergePath, splitReference } from '#core/links'
import { applyEdits, type FileFacts, fileSyntaxOf, readFile, readHtml, referencesOfFile } from '#core/markup'
import {
  type Change,
  edit,
  type Edited,
  findRewrites,
  newSite,
  toldOfTexts,
  withRewritten,
} from '#core/change'
import { plainKit } from '#core/kit'
import { type OutlineNode, planSite, readOutline, writeOutline } from '#core/plan'
import {
  type Arrangement,
  checkSite,
  defaultScheme,
  type Hash,
  type Scheme,
  type Site,
  type SiteFile,
} from '#core/site'
import { starterStyle } from '#core/style'
import { defaultTemplate } from '#core/template'
import { anySign } from './signs'

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
  readonly fileFactsOf = ({ label, sizeBytes, hash }: SiteFile): FileFacts => {
    const syntax = fileSyntaxOf(label, sizeBytes)
    return syntax === null ? { references: [] } : readFile(this.textOf(hash), syntax)
  }
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
    kit: plainKit({
      template: store.put(defaultTemplate),
      style: { hash: store.put(starterStyle()), sizeBytes: starterStyle().length },
    }),
  })
}

export const pageCalled = (site: Site, label: string) => {
  const page = site.pages.find((one) => one.label === label)
  if (!page) throw new Error(`No page ${label}`)
  return page
}

/** Applies a change as the server does: the structure, then every reference it makes wrong. */
export function change(site: Site, store: TextStore, what: Change): Site {
  const edited = editWhole(site, what)
  if ('refusal' in edited) throw new Error(edited.refusal.message)
  return mend(site, edited.site, store, what)
}

/** Writes a page's content, as its author would. */
export function write(site: Site, store: TextStore, label: string, html: string): Site {
  const page = pageCalled(site, label)
  return change(site, store, {
    kind: 'setContent',
    pageId: page.id,
    content: store.put(html),
    was: page.content,
  })
}

/** `edit`, and the site it leaves held against `checkSite`: what tests use in its place. */
export function editWhole(site: Site, what: Change): Edited {
  const edited = edit(site, what)
  if ('site' in edited) {
    const faults = checkSite(edited.site)
    if (faults.length > 0)
      throw new Error(`After ${what.kind} the site is not whole: ${JSON.stringify(faults)}`)
  }
  return edited
}

/** The later site with its references mended. */
export function mend(before: Site, after: Site, store: TextStore, what?: Change): Site {
  const rewrites = findRewrites(before, after, store, what && toldOfTexts(what, before))
  return withRewritten(
    after,
    rewrites.map(({ owner, hash, edits }) => {
      const text = applyEdits(store.textOf(hash), edits)
      return { owner, hash: store.put(text), sizeBytes: text.length }
    }),
  )
}

/** The whole built site as path → text. */
export function buildAll(
  site: Site,
  store: TextStore,
  publicPath: string | null = null,
): Map<string, string> {
  const build = buildSite(site, {
    textOf: store.textOf,
    factsOf: store.factsOf,
    year: store.year,
    publicPath,
  })
  return new Map(build.entries.map((entry) => [entry.path, build.textOf(entry.id)]))
}

/** Every reference of a built site, in pages, forwarders and files, that leads to no file of it. */
export function brokenReferences(files: Map<string, string>): string[] {
  return [...files].flatMap(([path, text]) => {
    const isPage = /\.html?$/i.test(path) && text.startsWith('<!DOCTYPE')
    const syntax = fileSyntaxOf(path, text.length)
    const references = isPage ? readHtml(text, true).references : syntax ? referencesOfFile(text, syntax) : []
    return references.flatMap(({ href, ifThere }) => {
      // Words, where nothing stands there.
      if (ifThere) return []
      const { path: to } = splitReference(href)
      const folder = path.slice(0, path.lastIndexOf('/') + 1)
      const at = decodeURIComponent(mergePath(folder, to))
      // A folder stands for its home file.
      const isThere = files.has(at === '' || at.endsWith('/') ? `${at}index.html` : at)
      return to === '' || isThere ? [] : [`${path}: ${href}`]
    })
  })
}

/** Labels that people type, and some that only a test would. */
export const labels = fc.oneof(
  { weight: 6, arbitrary: fc.constantFrom('Visit', 'visit', 'Tides & ferries', 'Café', 'CAFE', 'Index', 'Images', 'con', 'The light', '1999–2004', 'Über uns', '東京', 'ß', 'SS', 'Straße', 'Keeper’s cottage', '...', '😀', '../../etc', '.htaccess', '404', 'Not found', 'a%20b', 'שלום', 'e\u0301tude') },
  { weight: 3, arbitrary: fc.string({ unit: 'grapheme', minLength: 1, maxLength: 24 }) },
  { weight: 1, arbitrary: fc.string({ unit: anySign, minLength: 1, maxLength: 12 }) },
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

export const arrangements: Arrangement[] = [
  { kind: 'together' },
  { kind: 'sections', sectionPage: 'inside' },
  { kind: 'sections', sectionPage: 'beside' },
  { kind: 'one-folder', folder: 'pages' },
  { kind: 'folder-a-page' },
]

export const schemes: fc.Arbitrary<Scheme> = fc
  .record({
    letterCase: fc.constantFrom('lower' as const, 'as-typed' as const),
    gap: fc.constantFrom('-' as const, '_' as const, '' as const),
    letters: fc.constantFrom('ascii' as const, 'kept' as const),
    longest: fc.constantFrom(3, 8, 12, 26, 60),
    leaveOut: fc.constantFrom([], ['the', 'and']),
    shortForms: fc.constantFrom([], [{ word: 'visit', short: 'v' }]),
    extension: fc.constantFrom('.html' as const, '.htm' as const),
    homeName: fc.constantFrom('index', 'start'),
    numbered: fc.boolean(),
    arrangement: fc.constantFrom(...arrangements),
    folders: fc.constantFrom(
      defaultScheme.folders,
      // Everything in the top folder, beside the pages; and folders that a section may want to be called.
      { image: '', style: '', script: '', document: '', other: '' },
      { image: 'visit', style: 'visit', script: 'styles', document: 'pages', other: 'the-light' },
    ),
  })
  .map((some) => ({ ...defaultScheme, ...some }))

/** What a plan alone does not say: own names, dated sections, files. Picked pages are counted round the site. */
const extras = fc.record({
  ownNames: fc.array(fc.record({ pick: fc.nat(40), name: fc.constantFrom('visit', 'Visit', 'keepers-cottage', 'keepers-club', 'terns-2', '/visit/', '/visit', '/old/terns', '/visit/terns', '/Old/terns/', '/old/Terns.HTM', '/visit.htm', '/terns.html') }), { maxLength: 4 }),
  dated: fc.array(fc.nat(40), { maxLength: 3 }),
  languages: fc.array(fc.record({ pick: fc.nat(40), language: fc.constantFrom('de', 'cy', 'ar', 'pt-BR') }), { maxLength: 2 }),
  files: fc.array(fc.record({ kind: fc.constantFrom('image' as const, 'document' as const, 'other' as const), label: fc.constantFrom('Pier.jpeg', 'pier.jpe', 'PIER.JPEG', 'Tide table.pdf', 'tide-table.PDF', 'visit.html', 'Visit.htm', 'notes', 'Notes', '/old/Paper.PDF', '/Old/paper.pdf', '/visit', '/visit/terns.html', '/.htaccess', '/../x', '/.trial/x.png') }), { maxLength: 8 }),
}) // prettier-ignore

/** Sites with all that the scheme has to deal with; a function, since texts go into the test's own store. */
export const sites: fc.Arbitrary<(store: TextStore) => Site> = fc
  .record({ outline: outlines, scheme: schemes, extra: extras })
  .map(({ outline, scheme, extra }) => (store) => {
    const site = siteFrom(writeOutline(outline), store)
    const at = (pick: number) => site.pages[pick % site.pages.length]!.id
    const own = new Map(extra.ownNames.map(({ pick, name }) => [at(pick), name]))
    const dated = new Set(extra.dated.map(at))
    const languages = new Map(extra.languages.map(({ pick, language }) => [at(pick), language]))
    const hash = store.put('x')
    const files = extra.files.map(({ kind, label }, index) => {
      return { id: testId(), kind, label, seq: site.nextSeq + index, hash, sizeBytes: 1 }
    })
    const dressed = {
      ...site,
      scheme,
      nextSeq: site.nextSeq + files.length,
      files: [...site.files, ...files],
      pages: site.pages.map((page) => ({
        ...page,
        ownName: page.id === site.homeId ? null : (own.get(page.id) ?? null),
        dated: dated.has(page.id),
        language: languages.get(page.id) ?? null,
      })),
    }
    // The template's references follow the scheme.
    return mend(site, dressed, store)
  })
