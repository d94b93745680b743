import { filesNamedIn, targetOf } from '#core/links'
import type { Reference } from '#core/markup'
import { namesOf } from '#core/naming'
import { blankPlace, FilmPlace, isFilm, placeBytes } from '#core/pictures'
import { realPlaces, treeOf } from '#core/plan'
import { Problem } from '#core/problems'
import { contentsOfPages, type FileKind, type Hash, mostFileBytes, type Site, textsOfPage } from '#core/site'
import { compileTemplate, homeFileOf } from '#core/template'
import {
  addPortions,
  dropPartial,
  getTexts,
  lookedThrough,
  loadFacts,
  loadFileFacts,
  readFilesAhead,
  openPartial,
  pendingBytes,
  PostgresContents,
  receivedBytes,
  textFrom,
} from '#server/contents'
import { pool } from '#server/platform'
import { changeSite, type Saved } from './changes/changes'
import { fileKindOf, tellingBytes } from './file-kind'
import { roomOfOwner } from './rows/room'

/** All files of a site together, in bytes. */
const mostSiteBytes = 2_000_000_000
const roomIn = (site: Site) => mostSiteBytes - site.files.reduce((sum, file) => sum + file.sizeBytes, 0)
const inMegabytes = (bytes: number) => `${Math.round(bytes / 1_000_000).toLocaleString('en')} MB`

/** What a window says of a file that it sends. */
export interface SentFile {
  /** Chosen by the window: sent again because the answer was lost, it is added once. */
  readonly id: string
  readonly name: string
  /** A file that this one takes the place of. */
  readonly replaces: string | null
  /** Whether a photograph goes on saying where it was taken. */
  readonly keepsPlace: boolean
  /** What it is added together with, and taken back with; none of one by itself. */
  readonly actId?: string | null
}

/** What has come of a file, and what it is. */
interface StoredFile {
  readonly hash: Hash
  readonly sizeBytes: number
  readonly kind: FileKind
  readonly label: string
  /** Its front. */
  readonly head: Buffer
}

/**
 * Stores a file as it comes, never whole in memory.
 * @throws Problem `file-too-large`, `site-too-large`, `account-full`, and those of `lookedThrough`
 */
export async function storeFile(
  site: Site,
  { name, keepsPlace }: Pick<SentFile, 'name' | 'keepsPlace'>,
  body: AsyncIterable<Uint8Array>,
): Promise<StoredFile> {
  const room = roomIn(site)
  const ofOwner = await roomOfOwner(pool(), site.id)
  let head = Buffer.alloc(0)
  let size = 0
  async function* counted() {
    for await (const piece of body) {
      size += piece.byteLength
      if (size > mostFileBytes) throw new Problem('file-too-large', { most: inMegabytes(mostFileBytes) })
      if (size > room) throw new Problem('site-too-large', { most: inMegabytes(mostSiteBytes) })
      if (size > ofOwner.bytes) throw ofOwner.full()
      if (head.length < tellingBytes) head = Buffer.concat([head, piece.subarray(0, tellingBytes)])
      yield piece
    }
  }
  const { hash, sizeBytes } = await new PostgresContents(pool()).put(
    lookedThrough(keepsPlace ? counted() : withoutPlace(counted()), name),
  )
  return { hash, sizeBytes, head, ...(await fileKindOf(name, head)) }
}

/** Adds a file that was stored. */
export const addStored = (
  site: Site,
  accountId: string,
  seen: number,
  id: string,
  { kind, label, hash, sizeBytes }: Omit<StoredFile, 'head'>,
  actId: string | null = null,
): Promise<Saved> =>
  changeSite(
    site.id,
    accountId,
    seen,
    () => ({ kind: 'addFile', id, fileKind: kind, label, hash, sizeBytes }),
    true,
    id,
    actId,
  )

/**
 * Takes a file as it comes, and adds it to the site or puts it in the place of another. One that the site has already
 * under the same name is not added once more: its author chose it again.
 * @returns the file of the site that it is
 * @throws Problem `other-kind`, and those of `storeFile`
 */
export async function takeFile(
  site: Site,
  accountId: string,
  seen: number,
  { id, name, replaces, keepsPlace, actId = null }: SentFile,
  body: AsyncIterable<Uint8Array>,
): Promise<string> {
  const stored = await storeFile(site, { name, keepsPlace }, body)
  const { hash, sizeBytes, label, head } = stored
  const old = replaces === null ? undefined : site.files.find((file) => file.id === replaces)
  // Under the old name, whose extension says what it is, hosts would send it as what it is not.
  if (old && (await fileKindOf(old.label, head)).label !== old.label)
    throw new Problem('other-kind', { name, old: old.label })
  await readFilesAhead([{ label: old?.label ?? label, sizeBytes, hash }])
  if (!old) {
    const same = site.files.find(
      (file) => file.hash === hash && file.label === label && file.kind === stored.kind,
    )
    if (same) return same.id
    await addStored(site, accountId, seen, id, stored, actId)
    return id
  }
  await changeSite(
    site.id,
    accountId,
    seen,
    () => ({ kind: 'setFile', fileId: old.id, hash, sizeBytes, was: old.hash }),
    true,
    id,
    actId,
  )
  return old.id
}

/**
 * Takes some more of a file that comes in several requests; see `addPortions`.
 * @returns how many bytes of it are here
 * @throws Problem `file-too-large`, `site-too-large`, `account-full`
 */
export async function takePortions(
  site: Site,
  id: string,
  from: number,
  body: AsyncIterable<Uint8Array>,
): Promise<number> {
  const pending = await pendingBytes(pool(), { siteId: site.id })
  const ofOwner = await roomOfOwner(pool(), site.id)
  const own = ofOwner.bytes - pending
  let room = Math.min(roomIn(site) - pending, own)
  const isOwnerFull = own <= room
  async function* counted() {
    let size = from
    for await (const piece of body) {
      size += piece.byteLength
      room -= piece.byteLength
      if (room < 0 && isOwnerFull) throw ofOwner.full()
      if (room < 0) throw new Problem('site-too-large', { most: inMegabytes(mostSiteBytes) })
      if (size > mostFileBytes) throw new Problem('file-too-large', { most: inMegabytes(mostFileBytes) })
      yield piece
    }
  }
  return addPortions(pool(), { siteId: site.id }, id, from, counted())
}

/**
 * Takes a file of which all has come, as `takeFile` does.
 * @returns the file of the site that it is
 * @throws Problem `upload-gone` where some of it is not here any more
 */
export async function takeWhole(
  site: Site,
  accountId: string,
  seen: number,
  file: SentFile,
  sizeBytes: number,
): Promise<string> {
  // Asked for again because the answer was lost: the file is there already.
  const isThere = site.files.some(({ id }) => id === file.id)
  const has = await receivedBytes(pool(), { siteId: site.id }, file.id)
  const pieces = has === sizeBytes ? await openPartial(pool(), { siteId: site.id }, file.id) : null
  if (!pieces && !isThere) throw new Problem('upload-gone')
  const fileId = await takeFile(
    site,
    accountId,
    seen,
    file,
    (pieces ?? []) as AsyncIterable<Uint8Array>,
  ).catch(async (error: unknown) => {
    if (error instanceof Problem && error.code === 'harmful-file')
      await dropPartial(pool(), { siteId: site.id }, file.id)
    throw error
  })
  await dropPartial(pool(), { siteId: site.id }, file.id)
  return fileId
}

/** A file as it comes; of a photograph or a film, what says where it was taken is blank. */
async function* withoutPlace(pieces: AsyncIterable<Uint8Array>): AsyncGenerator<Uint8Array> {
  let front: Uint8Array[] | null = []
  let size = 0
  let film: FilmPlace | null = null
  const ofFront = () => {
    const bytes = Buffer.concat(front!)
    front = null
    if (isFilm(bytes)) film = new FilmPlace()
    else blankPlace(bytes)
    return bytes
  }
  const passed = (piece: Uint8Array) => film?.push(piece) ?? [piece]
  for await (const piece of pieces) {
    if (!front) {
      yield* passed(piece)
      continue
    }
    front.push(piece)
    size += piece.byteLength
    if (size >= placeBytes) yield* passed(ofFront())
  }
  if (front) yield* passed(ofFront())
  yield* (film as FilmPlace | null)?.end() ?? []
}

/** Who refers to a file, and how often. */
export interface FileUse {
  readonly kind: 'page' | 'template' | 'file'
  readonly id: string
  readonly count: number
  /** Whether it only names the file, in a text or a place of it whose references are not known for what they are. */
  readonly isByName?: true
}

/** Where each file of a site is used, by its id: in pages, templates and style sheets. */
export async function usesOfFiles(site: Site): Promise<Record<string, FileUse[]>> {
  const names = namesOf(site)
  const home = homeFileOf(site)
  const uses: Record<string, FileUse[]> = {}
  const note = (references: readonly Reference[], from: string, kind: FileUse['kind'], id: string) => {
    const counts = new Map<string, number>()
    for (const reference of references) {
      const target = targetOf(reference, from, names, home)
      if (target.kind === 'file') counts.set(target.id, (counts.get(target.id) ?? 0) + 1)
    }
    for (const [file, count] of counts) (uses[file] ??= []).push({ kind, id, count })
  }
  const pages = realPlaces(treeOf(site)).map(({ page }) => page)
  const templates = site.templates.map((template) => template.source)
  const [factsOf, fileFactsOf, texts] = [
    await loadFacts(pool(), contentsOfPages(pages)),
    await loadFileFacts(pool(), site.files),
    await getTexts(pool(), templates),
  ] // prettier-ignore
  for (const page of pages)
    for (const { hash } of textsOfPage(page))
      note(factsOf(hash).references, names.pages.get(page.id)!.path, 'page', page.id)
  for (const { id, source } of site.templates)
    note(compileTemplate(textFrom(texts)(source)).references, '', 'template', id)
  for (const file of site.files)
    note(fileFactsOf(file).references, names.files.get(file.id)!, 'file', file.id)
  for (const { id, text } of await namingTexts(site))
    for (const [file, count] of filesNamedIn(text, names.files.get(id)!, names))
      if (file !== id && !uses[file]?.some((one) => one.id === id))
        (uses[file] ??= []).push({ kind: 'file', id, count, isByName: true })
  return uses
}

/** Texts that may name files, however they are read: up to a size of each and of all. */
const naming = /\.(m?js|json|webmanifest|xml|svg|vtt|txt|csv|php|htaccess)$/i
const mostOfNaming = 500_000
const mostNaming = 4_000_000

/** Scripts and data of a site, as texts; what is too large is left out. */
async function namingTexts(site: Site): Promise<{ id: string; text: string }[]> {
  let left = mostNaming
  const read = site.files.filter(
    ({ kind, label, sizeBytes }) =>
      kind !== 'style' && naming.test(label) && sizeBytes <= mostOfNaming && (left -= sizeBytes) >= 0,
  )
  const texts = await getTexts(
    pool(),
    read.map(({ hash }) => hash),
  )
  return read.map(({ id, hash }) => ({ id, text: textFrom(texts)(hash) }))
}
