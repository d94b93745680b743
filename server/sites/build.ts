import { setImmediate } from 'node:timers/promises'
import {
  type Build,
  buildSite,
  type BuiltEntry,
  type LineOrigin,
  originsOfLine,
  slotOffset,
} from '#core/build'
import type { ManifestFile } from '#core/delivery'
import { contentsOfPages, type Hash, type Site } from '#core/site'
import {
  bytesFrom,
  getBlobs,
  getTexts,
  hashOf,
  loadFacts,
  loadStyles,
  missing,
  portionBytes,
  PostgresContents,
  textFrom,
} from '#server/contents'
import { Problem } from '#core/problems'
import { type Queryable } from '#server/platform'

/** Pages whose texts are in reach at a time. */
const batchSize = 50
/** How long pages are made before anybody else has a turn. */
const turnMs = 25
const thisYear = () => new Date().getFullYear()

const sharedTexts = (site: Site): Hash[] => [
  ...site.templates.map((template) => template.source),
  ...site.files.filter((file) => file.kind === 'style').map((file) => file.hash),
]

/** The sources of a build in which the shared texts and those of some pages are in reach. */
async function sourcesFor(db: Queryable, site: Site, contents: readonly Hash[], texts: Map<Hash, string>) {
  const styles = site.files.filter((file) => file.kind === 'style').map((file) => file.hash)
  const [factsOf, styleOf] = [await loadFacts(db, contents), await loadStyles(db, styles)]
  const cssOf = (hash: Hash) => styleOf(hash).references
  return { textOf: textFrom(texts), factsOf, cssOf, digest: hashOf, year: thisYear() }
}

/** The build's own refusal as a Problem, before anything is made. */
function refuseTooLarge(build: Build): void {
  const refusal = build.refusal()
  if (refusal !== null) throw new Problem('too-large', { why: refusal })
}

/** A build in which one page and the style sheets can be made. */
export async function buildForPage(db: Queryable, site: Site, pageId: string): Promise<Build> {
  const hashes = contentsOfPages(site.pages.filter((page) => page.id === pageId))
  const texts = await getTexts(db, [...sharedTexts(site), ...hashes])
  const build = buildSite(site, await sourcesFor(db, site, hashes, texts))
  refuseTooLarge(build)
  return build
}

/** A file that is made of the whole site, of what reading its texts told, and of those that it holds. */
export async function textOfWhole(db: Queryable, site: Site, id: string): Promise<string> {
  const real = contentsOfPages(site.pages.filter((page) => !page.trial))
  const texts = await getTexts(db, sharedTexts(site))
  const build = buildSite(site, await sourcesFor(db, site, real, texts))
  for (const [hash, text] of await getTexts(db, build.readsOf(id))) texts.set(hash, text)
  return build.textOf(id)
}

/** What wrote a line of a finished page; null where the page has no such line. */
export async function lineOrigins(
  db: Queryable,
  site: Site,
  pageId: string,
  line: number,
): Promise<LineOrigin[] | null> {
  const trace = (await buildForPage(db, site, pageId)).traceOf(pageId)
  const sources = await getTexts(
    db,
    site.templates.map((template) => template.source),
  )
  return originsOfLine(trace, line, site, textFrom(sources))
}

/** How far the lines of a slot stand below where they stand in its own text; null where it is not shown. */
export async function slotLines(
  db: Queryable,
  site: Site,
  pageId: string,
  slot: string,
): Promise<number | null> {
  return slotOffset((await buildForPage(db, site, pageId)).traceOf(pageId), slot)
}

/** What was made of each page when a site's manifest was last asked for, by signature. */
interface Made {
  readonly signature: Hash
  readonly hash: Hash
  readonly sizeBytes: number
}
const manifests = new Map<string, Map<string, Made>>()
const manifestLimit = 8

/** The finished site in memory terms: a list of files, and their bytes on demand. */
export interface SiteFiles {
  readonly manifest: readonly ManifestFile[]
  /** Bytes of some of the files, by path; asked for in portions. Those that are large are left out. */
  bytesOf(paths: readonly string[]): Promise<Map<string, Buffer>>
  /** Bytes of a file that is large, in pieces; null for one that `bytesOf` holds whole. */
  piecesOf(path: string): Promise<AsyncIterable<Buffer> | null>
}

/**
 * Every file of the finished site with its hash. Pages that cannot have changed since the last
 * time are not made again. Gives way to other work between batches.
 * @param publicPath the folder that visitors see it in, from `/` to `/`, where that is known
 */
export async function filesOfSite(
  db: Queryable,
  site: Site,
  signal?: AbortSignal,
  publicPath: string | null = null,
): Promise<SiteFiles> {
  const texts = await getTexts(db, sharedTexts(site))
  const real = contentsOfPages(site.pages.filter((page) => !page.trial))
  const build = buildSite(site, { ...(await sourcesFor(db, site, real, texts)), publicPath })
  refuseTooLarge(build)
  const known = manifests.get(site.id)
  const made = new Map<string, Made>()
  const byPath = new Map(build.entries.map((entry) => [entry.path, entry]))

  const contentsOf = (ids: readonly string[]) =>
    getTexts(
      db,
      ids.flatMap((id) => build.readsOf(id)),
    )
  const shared = new Set(sharedTexts(site))
  /**
   * Puts a batch's contents in reach, and lets go of the batch before. Two that are made at once of one
   * site each have texts of their own.
   */
  const reach = (batch: ReadonlyMap<Hash, string>) => {
    for (const hash of texts.keys()) if (!shared.has(hash)) texts.delete(hash)
    for (const [hash, text] of batch) texts.set(hash, text)
  }

  let turn = performance.now()
  const manifest: ManifestFile[] = []
  for (let at = 0; at < build.entries.length; at += batchSize) {
    const batch = build.entries.slice(at, at + batchSize).filter((entry) => entry.stored === null)
    const signatures = new Map(batch.map((entry) => [entry.id, hashOf(build.signatureOf(entry.id))]))
    const stale = batch.filter((entry) => known?.get(entry.id)?.signature !== signatures.get(entry.id))
    if (stale.length > 0) reach(await contentsOf(stale.map((entry) => entry.id)))
    for (const { id } of batch) {
      if (performance.now() - turn > turnMs) {
        await setImmediate()
        turn = performance.now()
      }
      signal?.throwIfAborted()
      const signature = signatures.get(id)!
      const old = known?.get(id)
      if (old?.signature === signature) {
        made.set(id, old)
        continue
      }
      const bytes = Buffer.from(build.textOf(id))
      made.set(id, { signature, hash: hashOf(bytes), sizeBytes: bytes.length })
    }
  }
  for (const { path, kind, isHome, id, stored } of build.entries) {
    const { hash, sizeBytes } = stored ?? made.get(id)!
    manifest.push({ path, kind, isHome, hash, sizeBytes })
  }
  manifests.delete(site.id)
  manifests.set(site.id, made)
  if (manifests.size > manifestLimit) manifests.delete(manifests.keys().next().value!)

  const store = new PostgresContents(db)
  const isLarge = ({ stored }: BuiltEntry) => stored !== null && stored.sizeBytes > portionBytes
  return {
    manifest,
    async piecesOf(path) {
      const entry = byPath.get(path)
      if (!entry?.stored || !isLarge(entry)) return null
      const content = await store.get(entry.stored.hash)
      if (!content) throw missing()
      return content.pieces
    },
    async bytesOf(paths) {
      const entries = paths.flatMap((path) => byPath.get(path) ?? []).filter((entry) => !isLarge(entry))
      const blobs = await getBlobs(
        db,
        entries.flatMap((entry) => entry.stored?.hash ?? []),
      )
      reach(await contentsOf(entries.map((entry) => entry.id)))
      return new Map(
        entries.map((entry) => [
          entry.path,
          entry.stored ? bytesFrom(blobs, entry.stored.hash) : Buffer.from(build.textOf(entry.id)),
        ]),
      )
    },
  }
}
