import { emptyHash, type Hash, mainSlot } from '#core/site'
import { many, maybeOne, pool } from '#server/platform'

/** Which text: a page's content, a template, a style sheet. */
export type VersionedKind = 'content' | 'template' | 'file'

/** A text as it was, and from when to when. */
export interface Version {
  readonly hash: Hash
  /** When it was written; null for what was there from the beginning, or before what history keeps. */
  readonly writtenAt: Date | null
  /** When the next one took its place. */
  readonly until: Date
}

/** Where a difference names a text of each kind: the table, and the field of its rows. */
const places = {
  content: ['pages', 'content'],
  template: ['templates', 'source'],
  file: ['files', 'hash'],
} as const satisfies Record<VersionedKind, readonly [string, string]>

/** Steps that are looked at, at most: each save is one. */
const mostSteps = 5_000
/** Saves that follow one another like this are one sitting, and its end is the version. */
const sittingMs = 5 * 60_000

/** Earlier versions of a text (of a page: of one of its slots), the latest first, as far as history keeps them: one for each sitting. */
export async function versionsOf(
  siteId: string,
  kind: VersionedKind,
  id: string,
  slot = mainSlot,
): Promise<Version[]> {
  const [table, field] = places[kind]
  // A difference tells all slots of a page when one of them differs.
  const of = (state: 'before' | 'after') =>
    slot === mainSlot ? `diff->$2->$3->'${state}'->>$4` : `diff->$2->$3->'${state}'->$4->>$5`
  const steps = await many<{ was: Hash | null; madeAt: Date }>(
    pool(),
    `SELECT ${of('before')} AS was, made_at AS "madeAt" FROM history
     WHERE site_id = $1 AND diff->$2 ? $3 AND diff->$2->$3->'after' ? $4
       AND ${of('before')} IS DISTINCT FROM ${of('after')}
     ORDER BY revision DESC LIMIT ${mostSteps}`,
    slot === mainSlot ? [siteId, table, id, field] : [siteId, table, id, 'slots', slot],
  )
  const versions = steps.flatMap(({ was, madeAt: until }, index): Version[] =>
    // What it was before it was made, and before anything was written in it, is nothing.
    was === null || was === emptyHash
      ? []
      : [{ hash: was, writtenAt: steps[index + 1]?.madeAt ?? null, until }],
  )
  // One that was written over at once was on the way to another; all in one sitting, the first of it is left.
  const ends = versions.filter(
    ({ writtenAt, until }) => writtenAt === null || until.getTime() - writtenAt.getTime() >= sittingMs,
  )
  return ends.length > 0 ? ends : versions.slice(-1)
}

/** Whether a site's history names a text: it may be read by whoever may read the site. */
export const isInHistory = async (siteId: string, hash: Hash): Promise<boolean> =>
  (await maybeOne(pool(), 'SELECT 1 FROM history_contents WHERE site_id = $1 AND hash = $2 LIMIT 1', [
    siteId,
    hash,
  ])) !== null
