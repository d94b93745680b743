import type { OwnedText, ReplaceWords } from '#core/change'
import { finderOf, type FoundLine, foundLines, type TextKind, type Wanted } from '#core/find'
import { fileSyntaxOf } from '#core/markup'
import { Problem } from '#core/problems'
import { type Hash, mainSlot, type Site, textsOfPage } from '#core/site'
import { findWords, getTexts, putBlobs, readAhead, replaceWords, textFrom } from '#server/contents'
import { pool } from '#server/platform'
import { readTemplateAhead } from './changes/change-request'
import { changeSite, type Saved } from './changes/changes'

/** Where words were found: in a text of the site, or in what its plan says of a page. */
export type FoundOwner = OwnedText | { readonly kind: 'page'; readonly id: string; readonly field: PlanField }
type PlanField = 'label' | 'title' | 'description'
const planFields = ['label', 'title', 'description'] as const

export interface FoundInSite {
  readonly owner: FoundOwner
  readonly count: number
  /** The first of them. */
  readonly lines: readonly FoundLine[]
}

/** Owners that are told, and lines of each; all are counted. */
export const mostFoundTold = 500
const mostLines = 5
/** Files that are looked through, in bytes: what is longer nobody wrote by hand. */
const longest = 4_000_000
/** Texts that are looked through at once: any may have some megabytes. */
const atOnce = 25

interface Held {
  readonly owner: OwnedText
  readonly is: TextKind
  /** Of a file: as many bytes as its text has to come to, or it is in another encoding. */
  readonly sizeBytes?: number
}

/** Where words stand in a site: in its plan, its pages, its templates, and in files that are text. */
export async function findInSite(
  site: Site,
  wanted: Wanted,
  signal: AbortSignal,
): Promise<{ readonly found: FoundInSite[]; readonly placeCount: number; readonly ownerCount: number }> {
  const all = inPlan(site, wanted)
  await eachBatch(heldBy(site), signal, async (some, texts) => {
    const told = await findWords(texts, wanted, mostLines, signal)
    for (const [index, one] of told.entries())
      if (one.count > 0) all.push({ owner: some[index]!.owner, ...one })
  })
  return {
    found: all.slice(0, mostFoundTold),
    placeCount: all.reduce((sum, { count }) => sum + count, 0),
    ownerCount: all.length,
  }
}

/**
 * Puts something else in the place of words in some texts of a site, as one change.
 * @param chosen texts as they were seen
 * @throws Problem `changed-elsewhere`, `too-heavy`, `template-too-heavy`, and those of `changeSite`
 */
export async function replaceInSite(
  site: Site,
  accountId: string,
  {
    wanted,
    by,
    chosen,
    seen,
    requestId,
  }: {
    readonly wanted: Wanted
    readonly by: string
    readonly chosen: readonly OwnedText[]
    readonly seen: number
    readonly requestId: string
  },
  signal: AbortSignal,
): Promise<Saved> {
  const keyOf = ({ kind, id, slot = mainSlot }: OwnedText) => `${kind} ${id} ${slot}`
  const known = new Map(heldBy(site).map((held) => [keyOf(held.owner), held]))
  const held = chosen.map((one) => {
    const now = known.get(keyOf(one))
    if (now?.owner.was !== one.was)
      throw new Problem('changed-elsewhere', {
        why: 'A text was changed in the meantime. Look for the words again.',
      })
    return now
  })
  const texts: ReplaceWords['texts'][number][] = []
  await eachBatch(held, signal, async (some, before) => {
    const made = await replaceWords(before, wanted, by, signal)
    const written: { readonly owner: OwnedText; readonly text: string }[] = []
    for (const [index, text] of made.entries()) {
      const { owner, is } = some[index]!
      if (text === before[index]!.text) continue
      // What cannot be read is never stored.
      if (owner.kind === 'template') await readTemplateAhead(text)
      else if (owner.kind === 'page') await readAhead('html', text)
      else if (is === 'source' && /\.css$/i.test(labelOf(site, owner.id))) await readAhead('css', text)
      written.push({ owner, text })
    }
    // Stored a few at a time, so that no more are held than are looked through; what no site names is collected later.
    const hashes = await putBlobs(pool(), written.map(({ text }) => text)) // prettier-ignore
    for (const [index, { owner, text }] of written.entries())
      texts.push({ ...owner, content: hashes[index]!, sizeBytes: Buffer.byteLength(text) })
  })
  return changeSite(
    site.id,
    accountId,
    seen,
    () => ({ kind: 'replaceWords', words: wanted.words, by, texts }),
    true,
    requestId,
  )
}

const labelOf = (site: Site, id: string): string => site.files.find((file) => file.id === id)?.label ?? ''

/** Goes through texts a few at a time; files in another encoding than UTF-8 are left out. */
async function eachBatch(
  all: readonly Held[],
  signal: AbortSignal,
  work: (
    some: readonly Held[],
    texts: readonly { readonly text: string; readonly is: TextKind }[],
  ) => Promise<void>,
): Promise<void> {
  for (let at = 0; at < all.length; at += atOnce) {
    signal.throwIfAborted()
    const batch = all.slice(at, at + atOnce)
    const textOf = textFrom(await getTexts(pool(), batch.map(({ owner }) => owner.was))) // prettier-ignore
    const some = batch.filter(
      ({ owner, sizeBytes }) => sizeBytes === undefined || Buffer.byteLength(textOf(owner.was)) === sizeBytes,
    )
    await work(some, some.map(({ owner, is }) => ({ text: textOf(owner.was), is }))) // prettier-ignore
  }
}

/** Every text of a site, and of which kind it is. */
function heldBy(site: Site): Held[] {
  const of = (kind: OwnedText['kind'], id: string, was: Hash, slot?: string): OwnedText => ({
    kind,
    id,
    was,
    ...(slot !== undefined && slot !== mainSlot && { slot }),
  })
  return [
    ...site.pages.flatMap((page) =>
      textsOfPage(page).map(({ slot, hash }) => ({
        owner: of('page', page.id, hash, slot),
        is: 'html' as const,
      })),
    ),
    ...site.templates.map(({ id, source }) => ({ owner: of('template', id, source), is: 'html' as const })),
    ...site.files.flatMap(({ id, label, hash, sizeBytes }): Held[] => {
      const isWords = /\.(?:txt|csv|md)$/i.test(label)
      if (sizeBytes > longest || !(isWords || fileSyntaxOf(label, sizeBytes) !== null)) return []
      return [{ owner: of('file', id, hash), is: isWords ? 'words' : 'source', sizeBytes }]
    }),
  ]
}

/** What the plan says of pages. */
function inPlan(site: Site, wanted: Wanted): FoundInSite[] {
  const find = finderOf(wanted)
  if (!find) return []
  return site.pages.flatMap((page) =>
    planFields.flatMap((field) => {
      const text = page[field] ?? ''
      const places = find(text)
      if (places.length === 0) return []
      const owner = { kind: 'page' as const, id: page.id, field }
      return [{ owner, count: places.length, lines: foundLines(text, places.slice(0, mostLines)) }]
    }),
  )
}
