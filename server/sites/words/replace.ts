import { isSaid, ownerKey, type ReplaceWords, shortened, type WordsOwner } from '#core/change'
import { longestLine, longestSetting } from '#core/change/inputs'
import { plainWords, replaceIn, type Wanted } from '#core/find'
import { Problem } from '#core/problems'
import type { Site } from '#core/site'
import { putBlobs, readAhead, replaceWords } from '#server/contents'
import { pool } from '#server/platform'
import { readTemplateAhead } from '../changes/change-request'
import { changeSite, type Saved } from '../changes/changes'
import { eachBatch } from './batches'
import { linesSaid, type SaidLine, textsHeld } from './owners'

/** What is put in the place of words, and where. */
export interface Replacing {
  readonly wanted: Wanted
  readonly by: string
  /** As they were seen. */
  readonly chosen: readonly WordsOwner[]
  readonly seen: number
  /** Whether what it touches elsewhere has been shown; see `changeSite`. */
  readonly shown: boolean
  readonly requestId: string
}

/**
 * Puts something else in the place of words in what was chosen of a site, as one change.
 * @throws Problem `changed-elsewhere`, `invalid`, `too-heavy`, `template-too-heavy`, and those of `changeSite`
 */
export async function replaceInSite(
  site: Site,
  accountId: string,
  { wanted, by, chosen, seen, shown, requestId }: Replacing,
  signal: AbortSignal,
): Promise<Saved> {
  const said = asSeen(linesSaid(site), chosen.filter(isSaid)).map((line) => ({
    ...line.owner,
    value: saidInstead(line, wanted, by),
  }))
  const texts: ReplaceWords['texts'][number][] = []
  const held = asSeen(textsHeld(site), chosen.filter((owner) => !isSaid(owner))) // prettier-ignore
  await eachBatch(held, signal, async (some, before) => {
    const made = await replaceWords(before, wanted, by, signal)
    const written: { readonly owner: (typeof some)[number]['owner']; readonly text: string }[] = []
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
    () => ({
      kind: 'replaceWords',
      words: wanted.words,
      by,
      texts,
      ofPages: said.flatMap((one) => (one.kind === 'page' ? [{ ...one, pageId: one.id }] : [])),
      ofSite: said.flatMap((one) => (one.kind === 'site' ? [one] : [])),
    }),
    shown,
    requestId,
  )
}

const labelOf = (site: Site, id: string): string => site.files.find((file) => file.id === id)?.label ?? ''

/** Those that were chosen, each as it is in the site: the same as it was when it was chosen. */
function asSeen<H extends { readonly owner: WordsOwner }>(
  all: readonly H[],
  chosen: readonly WordsOwner[],
): H[] {
  const known = new Map(all.map((held) => [ownerKey(held.owner), held]))
  return chosen.map((one) => {
    const now = known.get(ownerKey(one))
    if (now?.owner.was !== one.was)
      throw new Problem('changed-elsewhere', {
        why: 'A text was changed in the meantime. Look for the words again.',
      })
    return now
  })
}

/** What cannot be without words. */
const needed: ReadonlySet<string> = new Set(['label', 'name', 'titlePattern'])
/** What a title may become, in UTF-16 code units, as where it is typed. */
const longestOf = ({ owner: { kind } }: SaidLine) => (kind === 'site' ? longestSetting : longestLine)

/** A line with something else in it, which is words alone, whatever HTML they are typed as. */
function saidInstead(line: SaidLine, wanted: Wanted, by: string): string {
  const { owner, is } = line
  const value = replaceIn(owner.was, is, wanted, plainWords(by), longestOf(line))
  if (value === null)
    throw new Problem('invalid', {
      why: `“${shortened(owner.was)}” would become too long. Leave it out, or put fewer words in.`,
    })
  if (value.trim() === '' && needed.has(owner.field))
    throw new Problem('invalid', {
      why: `Nothing would be left of “${shortened(owner.was)}”, which needs some words. Leave it out, or put others in their place.`,
    })
  return value
}
