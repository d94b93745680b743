import { type PlanToken, resolveAll } from '#core/links'
import type { FileFacts, HtmlFacts, Reference } from '#core/markup'
import { type Hash, type Page, type SiteFile, textsOfPage } from '#core/site'
import { homeFileOf, type SiteContext, type SiteTemplates } from '#core/template'

/** Kinds of what a page needs, in the order in which a browser meets them. */
export const weightKinds = ['source', 'styles', 'scripts', 'pictures', 'fonts', 'other'] as const
export type WeightKind = (typeof weightKinds)[number]

/** What a page needs before all of it is shown. */
export interface PageWeight {
  readonly pageId: string
  /** Bytes of each kind, not packed: what is packed on its way depends on the host. */
  readonly bytes: Readonly<Record<WeightKind, number>>
  readonly total: number
  /** Files that it needs, by their ids, each once. */
  readonly files: readonly string[]
}

export interface WeighingSources {
  readonly templates: SiteTemplates
  readonly factsOf: (hash: Hash) => HtmlFacts
  readonly fileFactsOf: (file: SiteFile) => FileFacts
  /** Bytes of a page's own source as it comes out. */
  readonly sourceBytesOf: (page: Page) => number
  /** Lets what references lead to be kept from one time to the next (`resolveAll`). */
  readonly plan?: PlanToken | null
}

/** Kinds of files that ask for others as soon as they are there (CSS Cascade 5 §2; HTML §8.1.4). */
const bringing: ReadonlySet<SiteFile['kind']> = new Set(['style', 'script'])

const fontName = /\.(woff2?|ttf|otf|eot)$/i

export function kindOfFile({ kind, label }: Pick<SiteFile, 'kind' | 'label'>): WeightKind {
  if (fontName.test(label)) return 'fonts'
  if (kind === 'style') return 'styles'
  if (kind === 'script') return 'scripts'
  return kind === 'image' ? 'pictures' : 'other'
}

/** Whether a browser fetches what a reference names without anybody's asking (HTML §4.2.4, §4.8). */
function isFetched(holder: string, file: SiteFile): boolean {
  if (
    /^(img (?!longdesc)|script|embed|object|i?frame src|image|feimage|use|input src|bgsound)|\bbackground$|^video poster$|^url\(\)$|^@import$/.test(
      holder,
    )
  )
    return true
  // Of a link only what it is for tells; a document is never part of the page.
  if (holder.startsWith('link ')) return file.kind !== 'document' && file.kind !== 'other'
  return false
}

/** A file by what names it. */
interface NamedFile {
  readonly fileId: string
  readonly reference: Reference
}

/** The files that a text names, as long as all of them stand where they did. */
const known = new WeakMap<
  readonly Reference[],
  { readonly plan: PlanToken; readonly from: string; readonly found: readonly NamedFile[] }
>()

/**
 * What each page needs: its source, and the files that it, its template and their style sheets ask for. Of
 * several sizes of a picture the one in `src` counts, of several formats of a typeface the smallest.
 */
export function weighPages(
  context: SiteContext,
  pages: readonly Page[],
  { templates, factsOf, fileFactsOf, sourceBytesOf, plan = null }: WeighingSources,
): PageWeight[] {
  const { site, names } = context
  const homeFile = homeFileOf(site)
  const files = new Map(site.files.map((file) => [file.id, file]))
  const named = (references: readonly Reference[], from: string): readonly NamedFile[] => {
    const before = plan && known.get(references)
    if (before && before.plan === plan && before.from === from) return before.found
    const found: NamedFile[] = []
    const targets = resolveAll(references, from, names, homeFile, plan)
    // Most of very many lead to pages.
    for (let at = 0; at < targets.length; at++) {
      const target = targets[at]!
      if (target.kind === 'file') found.push({ fileId: target.id, reference: references[at]! })
    }
    if (plan) known.set(references, { plan, from, found })
    return found
  }
  /** Files that references name, with what holds them. */
  const filesOf = (references: readonly Reference[], from: string) =>
    named(references, from).flatMap(({ fileId, reference }) => {
      const file = files.get(fileId)
      return file ? [{ file, reference }] : []
    })
  /** Files that a style sheet or a script brings with it, those of the ones it imports too. */
  const ofFile = new Map<string, readonly SiteFile[]>()
  const neededBy = (by: SiteFile): readonly SiteFile[] => {
    const known = ofFile.get(by.id)
    if (known) return known
    // Those that ask for one another in a circle are there once.
    ofFile.set(by.id, [])
    const all = new Set<SiteFile>()
    for (const { file, reference } of filesOf(fileFactsOf(by).references, names.files.get(by.id)!)) {
      if (file === by || (by.kind === 'script' && reference.holder !== 'import')) continue
      all.add(file)
      if (bringing.has(file.kind)) neededBy(file).forEach((one) => all.add(one))
    }
    const needed = smallestFonts([...all])
    ofFile.set(by.id, needed)
    return needed
  }
  const fetched = (references: readonly Reference[], from: string) =>
    filesOf(references, from).flatMap(({ file, reference: { holder, syntax } }) => {
      if (syntax === 'srcset' || !isFetched(holder, file)) return []
      return bringing.has(file.kind) ? [file, ...neededBy(file)] : [file]
    })
  const ofTemplate = new Map<string, readonly SiteFile[]>()
  const byTemplate = (id: string) => {
    let known = ofTemplate.get(id)
    if (!known) ofTemplate.set(id, (known = fetched(templates.compiled(id).references, '')))
    return known
  }
  return pages.map((page) => {
    const path = names.pages.get(page.id)!.path
    const needed = new Set(byTemplate(templates.idOf(page)))
    for (const { hash } of textsOfPage(page))
      for (const file of fetched(factsOf(hash).references, path)) needed.add(file)
    const bytes: Record<WeightKind, number> = { source: sourceBytesOf(page), styles: 0, scripts: 0, pictures: 0, fonts: 0, other: 0 } // prettier-ignore
    let total = bytes.source
    for (const file of needed) {
      bytes[kindOfFile(file)] += file.sizeBytes
      total += file.sizeBytes
    }
    return { pageId: page.id, bytes, total, files: [...needed].map(({ id }) => id) }
  })
}

/** Of one typeface in several formats a browser takes one: the smallest counts. */
function smallestFonts(needed: readonly SiteFile[]): SiteFile[] {
  const fonts = new Map<string, SiteFile>()
  const others: SiteFile[] = []
  for (const file of needed) {
    if (!fontName.test(file.label)) {
      others.push(file)
      continue
    }
    const face = file.label.replace(fontName, '').toLowerCase()
    const known = fonts.get(face)
    if (!known || file.sizeBytes < known.sizeBytes) fonts.set(face, file)
  }
  return [...others, ...fonts.values()]
}

/** A line on which a page travels. */
export interface Line {
  readonly name: string
  readonly bytesPerSecond: number
  /** There and back. */
  readonly roundTripSeconds: number
}

/** A telephone far from its mast, and a wire at home. */
export const lines = {
  slow: { name: 'a slow line', bytesPerSecond: 50_000, roundTripSeconds: 0.4 },
  fast: { name: 'a fast line', bytesPerSecond: 2_500_000, roundTripSeconds: 0.04 },
} as const satisfies Record<string, Line>

/**
 * About how long a page takes on a line until all of it is there. Round trips: its name, the connection, TLS
 * (RFC 8446 §2), the source; one more for what the source asks for.
 */
export const secondsOn = ({ bytesPerSecond, roundTripSeconds }: Line, { total, files }: PageWeight): number =>
  roundTripSeconds * (files.length > 0 ? 5 : 4) + total / bytesPerSecond
