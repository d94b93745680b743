import { randomUUID } from 'node:crypto'
import { type Hash, mainSlot, type Site, textsOfPage } from '#core/site'
import { Problem } from '#core/problems'
import {
  getTexts,
  missing,
  type Pieces,
  PostgresContents,
  lookedThrough,
  putBlobs,
  readAhead,
  readFilesAhead,
  type StoredContent,
  unpack,
} from '#server/contents'
import { bringNotes, listNotes } from '#server/notes'
import { eachOf, noteRequest, pool, requestMade, transaction } from '#server/platform'
import {
  bringAddresses,
  bringHistory,
  type BroughtVersion,
  fileKindOf,
  insertSite,
  readTemplateAhead,
  tellingBytes,
  versionsOf,
  inTurn,
  zipFiles,
} from '#server/sites'
import { type ArchivedNote, layOut, type Manifest, manifestName, type VersionToKeep } from './layout'
import { type Content, readManifest, siteFrom } from './read'

/** What is taken of an archive: as much as a site may hold, with its earlier versions. */
const limits = { packedBytes: 2_200_000_000, bytes: 4_000_000_000, files: 300_000 }
/** Texts that are read at a time. */
const atOnce = 4
const portion = 200
/** Largest text, in UTF-16 code units, as windows may write it. */
const longestText = 4_000_000

/** Earlier versions of every text of a site. */
async function versionsToKeep(site: Site, signal: AbortSignal): Promise<VersionToKeep[]> {
  const texts = [
    ...site.pages.flatMap((page) =>
      textsOfPage(page).map(({ slot }) => ({ of: 'content' as const, id: page.id, slot })),
    ),
    ...site.templates.map(({ id }) => ({ of: 'template' as const, id, slot: null })),
    ...site.files
      .filter(({ kind }) => kind === 'style' || kind === 'script')
      .map(({ id }) => ({ of: 'file' as const, id, slot: null })),
  ]
  const kept: VersionToKeep[] = []
  await eachOf(texts, atOnce, async ({ of, id, slot }) => {
    signal.throwIfAborted()
    for (const { hash, until, by } of await versionsOf(site.id, of, id, slot ?? mainSlot))
      kept.push({ of, id, slot, hash, until: until.toISOString(), by })
  })
  const key = (one: VersionToKeep) => `${one.until} ${one.id} ${one.slot ?? ''}`
  return kept.sort((a, b) => (key(a) < key(b) ? -1 : 1))
}

const notesToKeep = async (siteId: string): Promise<ArchivedNote[]> =>
  (await listNotes(siteId)).map(({ pageId, place, author, text, madeAt, settled, answers }) => ({
    pageId,
    place,
    author,
    text,
    madeAt: madeAt.toISOString(),
    settled: settled && { ...settled, at: settled.at.toISOString() },
    answers: answers.map((one) => ({
      author: one.author,
      text: one.text,
      madeAt: one.madeAt.toISOString(),
    })),
  }))

/**
 * A whole site as a ZIP, from which any server can make it again; equal sites give equal bytes. Destinations are not in it:
 * what opens them is its owner's alone.
 */
export async function archiveSite(
  site: Site,
  { withVersions }: { withVersions: boolean },
  signal: AbortSignal,
): Promise<ReadableStream<Uint8Array>> {
  const versions = withVersions ? await versionsToKeep(site, signal) : []
  const { manifest, plan, contents } = layOut(site, versions, await notesToKeep(site.id))
  const told = new Map([
    [manifestName, manifest],
    ['plan.txt', plan],
  ])
  const store = new PostgresContents(pool())
  const piecesAt = async (path: string): Promise<Pieces> => {
    const text = told.get(path)
    if (text !== undefined) return [Buffer.from(text)]
    const content = await store.get(contents.get(path)!)
    if (!content) throw missing()
    return content.pieces
  }
  return zipFiles(inTurn([...told.keys(), ...contents.keys()], piecesAt))
}

interface Unpacked extends StoredContent {
  readonly head: Buffer
}

/** Everything an archive holds, stored. Nothing names it yet: what is not taken in the end is collected. */
async function storeAll(body: Pieces): Promise<Map<string, Unpacked>> {
  const store = new PostgresContents(pool())
  const files = new Map<string, Unpacked>()
  for await (const { path, pieces } of unpack(body, limits)) {
    let head = Buffer.alloc(0)
    async function* headed() {
      for await (const piece of pieces()) {
        if (head.length < tellingBytes) head = Buffer.concat([head, piece.subarray(0, tellingBytes)])
        yield piece
      }
    }
    files.set(path, { ...(await store.put(lookedThrough(headed(), path))), head })
  }
  return files
}

/** Which texts a manifest names, by what they are to be read as. */
function textsIn({ pages, templates, versions }: Manifest): Map<string, 'html' | 'template' | null> {
  const texts = new Map<string, 'html' | 'template' | null>()
  for (const { texts: of, translatedFrom } of pages)
    for (const file of [...Object.values(of), ...Object.values(translatedFrom?.texts ?? {})])
      texts.set(file, 'html')
  for (const { file } of templates) texts.set(file, 'template')
  for (const { file } of versions) if (!texts.has(file)) texts.set(file, null)
  return texts
}

/**
 * Makes a site of an archive, whichever server it is from. What is in it is read as anything that comes from outside; its
 * folder may stand in another one.
 * @param requestId made by the window: asked for again since the answer was lost, it makes one site
 * @returns the new site's id
 * @throws Problem `bad-archive`, `not-an-archive`, `archive-too-large`, `too-heavy`, `template-too-heavy`, and those of
 *   `lookedThrough`
 */
export async function takeArchive(accountId: string, body: Pieces, requestId: string): Promise<string> {
  const madeBefore = async () => (await requestMade(pool(), accountId, requestId))?.result ?? null
  const made = await madeBefore()
  if (made !== null) return made
  try {
    return await makeSite(accountId, body, requestId)
  } catch (error) {
    // What it was to be made of may have been let go of by the one that was asked before.
    const meanwhile = await madeBefore()
    if (meanwhile === null) throw error
    return meanwhile
  }
}

async function makeSite(accountId: string, body: Pieces, requestId: string): Promise<string> {
  const unpacked = await storeAll(body)
  const manifestPath = [...unpacked.keys()]
    .filter((path) => path === manifestName || path.endsWith(`/${manifestName}`))
    .sort((a, b) => a.length - b.length)[0]
  if (manifestPath === undefined)
    throw new Problem('bad-archive', { why: `There is no ${manifestName} in it.` })
  const folder = manifestPath.slice(0, -manifestName.length)
  const at = (path: string): Unpacked => {
    const found = unpacked.get(folder + path)
    if (!found) throw new Problem('bad-archive', { why: `There is no “${path}” in it.` })
    return found
  }
  const { hash } = unpacked.get(manifestPath)!
  const manifest = readManifest((await getTexts(pool(), [hash])).get(hash)!)
  const texts = await readTexts(textsIn(manifest), at)
  for (const { kind, label, file } of manifest.files) {
    const told = await fileKindOf(label, at(file).head)
    if (told.kind !== kind || told.label !== label)
      throw new Problem('bad-archive', {
        why: `“${file}” is not what it is called; it would be “${told.label}”.`,
      })
  }
  const siteId = randomUUID()
  const textAt = (path: string): Content => texts.get(path)!
  const site = siteFrom(manifest, siteId, textAt, at)
  await readFilesAhead(site.files)
  const pageIds = new Set(site.pages.map(({ id }) => id))
  return transaction(async (client) => {
    const noted = await noteRequest(client, accountId, requestId, siteId)
    if (noted !== 'new') return noted.result!
    await insertSite(client, site, accountId)
    await bringAddresses(
      client,
      siteId,
      site.pages.flatMap(({ id, addresses }) => addresses.map((path) => ({ pageId: id, path }))),
    )
    await bringHistory(
      client,
      siteId,
      historyOf(manifest, site, (path) => textAt(path).hash),
    )
    await bringNotes(
      client,
      siteId,
      manifest.notes.filter(({ pageId }) => pageId === null || pageIds.has(pageId)),
    )
    return siteId
  })
}

/** Texts as a site keeps them: in UTF-8, with line feeds, and none that takes too much to be read again and again. */
async function readTexts(
  kinds: ReadonlyMap<string, 'html' | 'template' | null>,
  at: (path: string) => StoredContent,
): Promise<Map<string, Content>> {
  const read = new Map<string, Content>()
  const paths = [...kinds.keys()]
  for (let from = 0; from < paths.length; from += portion) {
    const some = paths.slice(from, from + portion)
    const stored = some.map(at)
    if (stored.some(({ sizeBytes }) => sizeBytes > 4 * longestText)) throw new Problem('too-heavy')
    const known = await getTexts(
      pool(),
      stored.map(({ hash }) => hash),
    )
    const texts = stored.map(({ hash }) => known.get(hash)!.replace(/\r\n?/g, '\n'))
    await eachOf([...texts.entries()], atOnce, async ([index, text]) => {
      if (text.length > longestText) throw new Problem('too-heavy')
      const kind = kinds.get(some[index]!)!
      if (kind === 'template') await readTemplateAhead(text)
      else if (kind) await readAhead(kind, text)
    })
    const hashes = await putBlobs(pool(), texts)
    for (const [index, path] of some.entries())
      read.set(path, { hash: hashes[index]!, sizeBytes: Buffer.byteLength(texts[index]!) })
  }
  return read
}

/** Earlier versions as steps of history: each text was one, then the next, and in the end what the site holds. */
function historyOf(manifest: Manifest, site: Site, hashAt: (path: string) => Hash): BroughtVersion[] {
  const pages = new Map(site.pages.map((page) => [page.id, page]))
  const nowOf = ({ of, id, slot }: Manifest['versions'][number]): Hash | null => {
    if (of === 'template') return site.templates.find((one) => one.id === id)?.source ?? null
    if (of === 'file') return site.files.find((one) => one.id === id)?.hash ?? null
    const page = pages.get(id)
    return page ? (textsOfPage(page).find((one) => one.slot === (slot ?? mainSlot))?.hash ?? null) : null
  }
  const next = new Map<string, Hash>()
  const steps: BroughtVersion[] = []
  // From the latest back: what follows a version is known then.
  const inTime = [...manifest.versions].sort((a, b) => (a.until < b.until ? 1 : -1))
  for (const version of inTime) {
    const key = `${version.of} ${version.id} ${version.slot ?? mainSlot}`
    const after = next.get(key) ?? nowOf(version)
    const before = hashAt(version.file)
    if (after === null || after === before) continue
    next.set(key, before)
    steps.push({
      diff: stepDiff(version, before, after),
      title: version.by ? `what ${version.by.slice(0, 100)} wrote before` : 'what was written before',
      until: version.until,
    })
  }
  return steps.reverse()
}

function stepDiff(
  { of, id, slot }: Manifest['versions'][number],
  before: Hash,
  after: Hash,
): BroughtVersion['diff'] {
  const none = { settings: null, pages: {}, files: {}, templates: {} }
  if (of === 'template')
    return { ...none, templates: { [id]: { before: { source: before }, after: { source: after } } } }
  if (of === 'file') return { ...none, files: { [id]: { before: { hash: before }, after: { hash: after } } } }
  return slot === null || slot === mainSlot
    ? { ...none, pages: { [id]: { before: { content: before }, after: { content: after } } } }
    : {
        ...none,
        pages: { [id]: { before: { slots: { [slot]: before } }, after: { slots: { [slot]: after } } } },
      }
}
