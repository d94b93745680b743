import { emptyHash, type Hash, mainSlot } from '#core/site'
import { nameOf } from '#server/accounts'
import { many, maybeOne, pool } from '#server/platform'

/** Which text: a page's content, a template, a style sheet. */
export type VersionedKind = 'content' | 'template' | 'file'

/** A text as it was, and from when to when. */
export interface Version {
  readonly hash: Hash
  /** When it was written; null for what was there from the beginning, or before what history keeps. */
  readonly writtenAt: Date | null
  /** What whoever wrote it is known by; null where nobody is. */
  readonly by: string | null
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
/** Saves of one person that follow one another like this are one sitting, and its end is the version. */
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
  const steps = await many<{ was: Hash | null; madeAt: Date; by: string | null }>(
    pool(),
    `SELECT ${of('before')} AS was, made_at AS "madeAt", ${nameOf('a')} AS by
     FROM history LEFT JOIN accounts a ON a.id = made_by
     WHERE site_id = $1 AND diff->$2 ? $3 AND diff->$2->$3->'after' ? $4
       AND ${of('before')} IS DISTINCT FROM ${of('after')}
     ORDER BY revision DESC LIMIT ${mostSteps}`,
    slot === mainSlot ? [siteId, table, id, field] : [siteId, table, id, 'slots', slot],
  )
  const versions = steps.flatMap(({ was, madeAt: until, by: next }, index) => {
    // What it was before it was made, and before anything was written in it, is nothing.
    if (was === null || was === emptyHash) return []
    const { madeAt: writtenAt = null, by = null } = steps[index + 1] ?? {}
    const version: Version = { hash: was, writtenAt, by, until }
    // One that was written over at once, by the same person, was on the way to another.
    const isEnd = next !== by || writtenAt === null || until.getTime() - writtenAt.getTime() >= sittingMs
    return [{ version, isEnd }]
  })
  const ends = versions.filter(({ isEnd }) => isEnd)
  // All in one sitting, the first of it is left.
  return (ends.length > 0 ? ends : versions.slice(-1)).map(({ version }) => version)
}

/** Whether a site's history names a text: it may be read by whoever may read the site. */
export const isInHistory = async (siteId: string, hash: Hash): Promise<boolean> =>
  (await maybeOne(pool(), 'SELECT 1 FROM history_contents WHERE site_id = $1 AND hash = $2 LIMIT 1', [
    siteId,
    hash,
  ])) !== null
