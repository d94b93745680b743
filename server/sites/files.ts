import { resolveReference } from '#core/links'
import { namesOf } from '#core/naming'
import { blankPlace, placeBytes } from '#core/pictures'
import { realPlaces, treeOf } from '#core/plan'
import { Problem } from '#core/problems'
import { contentsOfPages, type Site, type SiteFile, textsOfPage } from '#core/site'
import { compileTemplate, homeFileOf } from '#core/template'
import { getTexts, loadFacts, loadStyles, PostgresContents, textFrom } from '#server/contents'
import { pool } from '#server/platform'
import { changeSite, type Saved } from './changes/changes'
import { fileKindOf, tellingBytes } from './file-kind'

/** Largest file, and all files of a site together, in bytes. */
const mostFileBytes = 200_000_000
const mostSiteBytes = 2_000_000_000
const inMegabytes = (bytes: number) => `${Math.round(bytes / 1_000_000).toLocaleString('en')} MB`

/** What a window says of a file that it sends. */
export interface SentFile {
  /** Chosen by the window: sent again because the answer was lost, it is added once. */
  readonly id: string
  readonly name: string
  /** A file that this one takes the place of. */
  readonly replaces: string | null
}

/**
 * Takes a file as it comes, never whole in memory, and adds it to the site or puts it in the place of another.
 * @throws Problem `file-too-large`, `site-too-large`
 */
export async function takeFile(
  site: Site,
  accountId: string,
  seen: number,
  { id, name, replaces }: SentFile,
  body: AsyncIterable<Uint8Array>,
): Promise<Saved> {
  const room = mostSiteBytes - site.files.reduce((sum, file) => sum + file.sizeBytes, 0)
  let head = Buffer.alloc(0)
  let size = 0
  async function* counted() {
    for await (const piece of body) {
      size += piece.byteLength
      if (size > mostFileBytes) throw new Problem('file-too-large', { most: inMegabytes(mostFileBytes) })
      if (size > room) throw new Problem('site-too-large', { most: inMegabytes(mostSiteBytes) })
      if (head.length < tellingBytes) head = Buffer.concat([head, piece.subarray(0, tellingBytes)])
      yield piece
    }
  }
  const { hash, sizeBytes } = await new PostgresContents(pool()).put(withoutPlace(counted()))
  const { kind, label } = await fileKindOf(name, head)
  const old = replaces === null ? undefined : site.files.find((file) => file.id === replaces)
  // Under the old name, whose extension says what it is, hosts would send it as what it is not.
  if (old && (await fileKindOf(old.label, head)).label !== old.label)
    throw new Problem('other-kind', { name, old: old.label })
  return changeSite(
    site.id,
    accountId,
    seen,
    () =>
      old
        ? { kind: 'setFile', fileId: old.id, hash, sizeBytes, was: old.hash }
        : { kind: 'addFile', id, fileKind: kind, label, hash, sizeBytes },
    true,
    id,
  )
}

/** A file as it comes; of a photograph, what says where it was taken is blank. */
async function* withoutPlace(pieces: AsyncIterable<Uint8Array>): AsyncGenerator<Uint8Array> {
  let front: Uint8Array[] | null = []
  let size = 0
  const ofFront = () => {
    const bytes = Buffer.concat(front!)
    front = null
    blankPlace(bytes)
    return bytes
  }
  for await (const piece of pieces) {
    if (!front) {
      yield piece
      continue
    }
    front.push(piece)
    size += piece.byteLength
    if (size >= placeBytes) yield ofFront()
  }
  if (front) yield ofFront()
}

/** Who refers to a file, and how often. */
export interface FileUse {
  readonly kind: 'page' | 'template' | 'file'
  readonly id: string
  readonly count: number
}

/** Where each file of a site is used, by its id: in pages, templates and style sheets. */
export async function usesOfFiles(site: Site): Promise<Record<string, FileUse[]>> {
  const names = namesOf(site)
  const home = homeFileOf(site)
  const uses: Record<string, FileUse[]> = {}
  const note = (
    references: readonly { readonly href: string }[],
    from: string,
    kind: FileUse['kind'],
    id: string,
  ) => {
    const counts = new Map<string, number>()
    for (const { href } of references) {
      const target = resolveReference(href, from, names, home)
      if (target.kind === 'file') counts.set(target.id, (counts.get(target.id) ?? 0) + 1)
    }
    for (const [file, count] of counts) (uses[file] ??= []).push({ kind, id, count })
  }
  const styles = site.files.filter((file) => file.kind === 'style')
  const pages = realPlaces(treeOf(site)).map(({ page }) => page)
  const templates = site.templates.map((template) => template.source)
  const [factsOf, cssOf, texts] = [
    await loadFacts(pool(), contentsOfPages(pages)),
    await loadStyles(pool(), styles.map((file) => file.hash)),
    await getTexts(pool(), templates),
  ] // prettier-ignore
  for (const page of pages)
    for (const { hash } of textsOfPage(page))
      note(factsOf(hash).references, names.pages.get(page.id)!.path, 'page', page.id)
  for (const { id, source } of site.templates)
    note(compileTemplate(textFrom(texts)(source)).references, '', 'template', id)
  for (const { id, hash } of styles) note(cssOf(hash), names.files.get(id)!, 'file', id)
  return uses
}

/** A file's bytes in pieces, for showing it. */
export const openFile = ({ hash }: SiteFile) => new PostgresContents(pool()).get(hash)
