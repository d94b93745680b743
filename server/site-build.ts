import { setImmediate } from 'node:timers/promises'
import { type Build, buildSite } from '#core/build'
import type { ManifestFile } from '#core/delivery'
import type { Hash, Site } from '#core/site'
import { bytesFrom, getBlobs, getTexts, hashOf, textFrom } from './database/blobs'
import { loadFacts } from './database/facts'
import type { Queryable } from './database/pool'

/** Pages made between two looks at the event loop. */
const batchSize = 50
const thisYear = () => new Date().getFullYear()

const sharedTexts = (site: Site): Hash[] => [
  ...site.templates.map((template) => template.source),
  ...site.files.filter((file) => file.kind === 'style').map((file) => file.hash),
]

/** A build in which one page and the style sheets can be made. */
export async function buildForPage(db: Queryable, site: Site, pageId: string): Promise<Build> {
  const content = site.pages.find((page) => page.id === pageId)?.content
  const hashes = content ? [content] : []
  const texts = await getTexts(db, [...sharedTexts(site), ...hashes])
  const factsOf = await loadFacts(db, hashes)
  return buildSite(site, { textOf: textFrom(texts), factsOf, year: thisYear() })
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
  /** Bytes of some of the files, by path; asked for in portions. */
  bytesOf(paths: readonly string[]): Promise<Map<string, Buffer>>
}

/**
 * Every file of the finished site with its hash. Pages that cannot have changed since the last
 * time are not made again. Gives way to other work between batches.
 */
export async function filesOfSite(db: Queryable, site: Site, signal?: AbortSignal): Promise<SiteFiles> {
  const factsOf = await loadFacts(
    db,
    site.pages.filter((page) => !page.trial).map((page) => page.content),
  )
  const texts = await getTexts(db, sharedTexts(site))
  const build = buildSite(site, { textOf: textFrom(texts), factsOf, year: thisYear() })
  const contents = new Map(site.pages.map((page) => [page.id, page.content]))
  const known = manifests.get(site.id)
  const made = new Map<string, Made>()
  const byPath = new Map(build.entries.map((entry) => [entry.path, entry]))

  const contentsOf = (ids: readonly string[]) =>
    getTexts(
      db,
      ids.flatMap((id) => contents.get(id) ?? []),
    )
  const shared = new Set(sharedTexts(site))
  /** Puts a batch's contents in reach, and lets go of the batch before. Used up before the next await. */
  const reach = (batch: ReadonlyMap<Hash, string>) => {
    for (const hash of texts.keys()) if (!shared.has(hash)) texts.delete(hash)
    for (const [hash, text] of batch) texts.set(hash, text)
  }

  const manifest: ManifestFile[] = []
  for (let at = 0; at < build.entries.length; at += batchSize) {
    const batch = build.entries.slice(at, at + batchSize).filter((entry) => entry.stored === null)
    const signatures = new Map(batch.map((entry) => [entry.id, hashOf(build.signatureOf(entry.id))]))
    const stale = batch.filter((entry) => known?.get(entry.id)?.signature !== signatures.get(entry.id))
    if (stale.length > 0) reach(await contentsOf(stale.map((entry) => entry.id)))
    for (const { id } of batch) {
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
    await setImmediate()
  }
  for (const { path, kind, isHome, id, stored } of build.entries) {
    const { hash, sizeBytes } = stored ?? made.get(id)!
    manifest.push({ path, kind, isHome, hash, sizeBytes })
  }
  manifests.delete(site.id)
  manifests.set(site.id, made)
  if (manifests.size > manifestLimit) manifests.delete(manifests.keys().next().value!)

  return {
    manifest,
    async bytesOf(paths) {
      const entries = paths.flatMap((path) => byPath.get(path) ?? [])
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
