import { Problem } from '#core/problems'
import { composeDiffs, composeFollowing, contentsOfDiff, type Site, type SiteDiff } from '#core/site'
import { many, maybeOne, type Queryable } from '#server/platform'
import { markAddresses } from './address-rows'
import { writeRows } from './site-rows'

/** What is written beside the rows when a site goes to its next revision. */
export interface HistoryEntry {
  readonly kind: 'change' | 'undo' | 'redo'
  readonly title: string
  readonly diff: SiteDiff
  /** Who did it; null for what nobody did by hand. */
  readonly by: string | null
  /** Whether undo can reach it; what a delivery notes it cannot. */
  readonly undoable?: boolean
  /** What it is a part of: changes of one act that follow one another are one step of undo. */
  readonly actId?: string | null
}

/**
 * Writes the rows a difference alters, the next revision and its history row.
 * The caller holds the site's lock and owns the transaction.
 * @returns the new revision
 */
export async function saveRevision(db: Queryable, after: Site, entry: HistoryEntry): Promise<number> {
  const { diff } = entry
  await writeRows(db, after, diff)
  // One statement: each is a way to the database and back while others wait for the site.
  const { rows } = await db.query<{ revision: number }>(
    `WITH next AS (
       UPDATE sites SET revision = revision + 1, changed_at = now(), name = $2, language = $3, title_pattern = $4,
         home_id = $5, scheme = $6, next_seq = $7, home_title_pattern = $8, template_id = $9, output = $10, checking = $11,
         public_address = $18, own_words = $19
       WHERE id = $1 RETURNING revision
     ), passed AS (
       -- Nothing that was taken back is made again after another change.
       UPDATE history SET state = 'passed'
       WHERE site_id = $1 AND made_by = $16::uuid AND kind = 'change' AND state = 'undone' AND $12::text = 'change'
     ), step AS (
       INSERT INTO history (site_id, revision, kind, title, diff, state, made_by, act_id, step_begun)
       SELECT $1, revision, $12, $13, $14::jsonb, $15, $16::uuid, $20::uuid, CASE WHEN $20::uuid IS NOT NULL THEN coalesce((
         SELECT step_begun FROM (
           SELECT act_id, step_begun FROM history
           WHERE site_id = $1 AND made_by = $16::uuid AND kind = 'change' AND state = 'done'
           ORDER BY history.revision DESC LIMIT 1
         ) latest WHERE act_id = $20::uuid
       ), revision) END FROM next
     ), named AS (
       INSERT INTO history_contents (site_id, revision, hash) SELECT $1, revision, unnest($17::text[]) FROM next
     )
     SELECT revision FROM next`,
    [
      after.id,
      after.name,
      after.language,
      after.titlePattern,
      after.homeId,
      JSON.stringify(after.scheme),
      after.nextSeq,
      after.homeTitlePattern,
      after.templateId,
      JSON.stringify(after.output),
      JSON.stringify(after.checking),
      entry.kind,
      entry.title,
      JSON.stringify(diff),
      entry.undoable === false ? 'passed' : 'done',
      entry.by,
      [...contentsOfDiff(diff)],
      after.publicAddress,
      after.ownWords,
      entry.actId ?? null,
    ],
  )
  const { revision } = rows[0]!
  await markAddresses(db, after.id, addressesOf(diff, 'before', 'after'), true)
  await markAddresses(db, after.id, addressesOf(diff, 'after', 'before'), false)
  return revision
}

/** Addresses that one side of a difference has and the other has not, of pages that are on both. */
function addressesOf(diff: SiteDiff, here: 'before' | 'after', there: 'before' | 'after') {
  return Object.entries(diff.pages).flatMap(([pageId, row]) => {
    if (!row[here] || !row[there]) return []
    const gone = new Set(row[there].addresses)
    return (row[here].addresses ?? []).filter((path) => !gone.has(path)).map((path) => ({ pageId, path }))
  })
}

/** A text that was another one until a moment, of a site that comes from an archive. */
export interface BroughtVersion {
  readonly diff: SiteDiff
  readonly title: string
  readonly until: string
}

/** Writes what is known of earlier texts of a new site; nothing that undo takes back. The oldest come first. */
export async function bringHistory(
  db: Queryable,
  siteId: string,
  versions: readonly BroughtVersion[],
): Promise<void> {
  for (const [index, { diff, title, until }] of versions.entries()) {
    await db.query(
      `INSERT INTO history (site_id, revision, kind, title, diff, state, made_at)
       VALUES ($1, $2, 'change', $3, $4, 'passed', $5)`,
      [siteId, index + 1, title, JSON.stringify(diff), until],
    )
    await db.query(
      'INSERT INTO history_contents (site_id, revision, hash) SELECT $1, $2, unnest($3::text[])',
      [siteId, index + 1, [...contentsOfDiff(diff)]],
    )
  }
  await db.query('UPDATE sites SET revision = $2 WHERE id = $1', [siteId, versions.length])
}

/** A change that can be taken back or made again, or all changes of an act that followed one another. */
export interface HistoryStep {
  /** In order; not all of those between, which are of others. */
  readonly revisions: readonly number[]
  readonly title: string
  readonly diff: SiteDiff
}

/** What a step of several changes is called: by the first. */
const stepTitle = (first: string, count: number) => (count > 1 ? `${first} and ${count - 1} more` : first)

/** The change in `state` that undo or redo would begin with. */
const nextChange = (columns: string, state: 'done' | 'undone') =>
  `SELECT ${columns} FROM history WHERE site_id = $1 AND made_by = $2 AND kind = 'change' AND state = '${state}'
   ORDER BY revision ${state === 'done' ? 'DESC' : ''} LIMIT 1`

/**
 * @throws Problem `cannot-step` where somebody else's change lies between two of the same row, which one difference
 *   would take back with them
 */
async function nextStep(
  db: Queryable,
  siteId: string,
  accountId: string,
  state: 'done' | 'undone',
): Promise<HistoryStep | null> {
  const changes = await many<{ revision: number; title: string; diff: SiteDiff }>(
    db,
    `WITH next AS (${nextChange('revision, step_begun', state)})
     SELECT h.revision, h.title, h.diff FROM history h, next
     WHERE h.site_id = $1 AND h.made_by = $2 AND h.kind = 'change' AND h.state = '${state}'
       AND h.revision >= least(next.step_begun, next.revision)
       AND (h.revision = next.revision OR h.step_begun = next.step_begun)
     ORDER BY h.revision`,
    [siteId, accountId],
  )
  if (changes.length === 0) return null
  const title = stepTitle(changes[0]!.title, changes.length)
  const diff = composeFollowing(changes.map((one) => one.diff))
  if (!diff) throw new Problem('cannot-step', { step: title, direction: state === 'done' ? 'undo' : 'redo' })
  return { revisions: changes.map(({ revision }) => revision), title, diff }
}

/** The change of an account that undo would take back next, or null. */
export const stepToUndo = (db: Queryable, siteId: string, accountId: string): Promise<HistoryStep | null> =>
  nextStep(db, siteId, accountId, 'done')

/** The change of an account that redo would make again next, or null. */
export const stepToRedo = (db: Queryable, siteId: string, accountId: string): Promise<HistoryStep | null> =>
  nextStep(db, siteId, accountId, 'undone')

/** Whether anybody else has changed a site since a revision. */
export const haveOthersChanged = async (
  db: Queryable,
  siteId: string,
  accountId: string,
  since: number,
): Promise<boolean> =>
  (await maybeOne(
    db,
    'SELECT 1 FROM history WHERE site_id = $1 AND revision > $3 AND made_by <> $2 LIMIT 1',
    [siteId, accountId, since],
  )) !== null

export async function markStep(
  db: Queryable,
  siteId: string,
  { revisions }: HistoryStep,
  state: 'done' | 'undone',
): Promise<void> {
  await db.query('UPDATE history SET state = $3 WHERE site_id = $1 AND revision = ANY($2)', [
    siteId,
    revisions,
    state,
  ])
}

/** Makes what was done so far the ground that undo does not go below. */
export async function passAll(db: Queryable, siteId: string): Promise<void> {
  await db.query(`UPDATE history SET state = 'passed' WHERE site_id = $1 AND kind = 'change'`, [siteId])
}

/** Titles of what undo and redo would do for an account; the differences themselves may be large and stay where they are. */
export async function undoTitles(
  db: Queryable,
  siteId: string,
  accountId: string,
): Promise<{ undo: string | null; redo: string | null }> {
  const rows = await many<{ state: 'done' | 'undone'; title: string; count: number }>(
    db,
    `WITH next AS (
       (${nextChange('state, revision, step_begun, title', 'done')})
       UNION ALL (${nextChange('state, revision, step_begun, title', 'undone')})
     )
     SELECT n.state, coalesce(f.title, n.title) AS title, coalesce(step.count, 1)::int AS count
     FROM next n LEFT JOIN LATERAL (
       SELECT min(h.revision) AS begun, count(*) AS count FROM history h
       WHERE h.site_id = $1 AND h.step_begun = n.step_begun AND h.made_by = $2 AND h.kind = 'change' AND h.state = n.state
     ) step ON n.step_begun IS NOT NULL LEFT JOIN history f ON f.site_id = $1 AND f.revision = step.begun`,
    [siteId, accountId],
  )
  const titleIn = (state: 'done' | 'undone') => {
    const next = rows.find((one) => one.state === state)
    return next ? stepTitle(next.title, next.count) : null
  }
  return { undo: titleIn('done'), redo: titleIn('undone') }
}

/**
 * Differences after one revision, up to another: what others commit between two statements is not for whoever
 * is told that other one.
 */
export async function diffsSince(
  db: Queryable,
  siteId: string,
  seen: number,
  upTo: number,
): Promise<SiteDiff[]> {
  const rows = await many<{ diff: SiteDiff }>(
    db,
    'SELECT diff FROM history WHERE site_id = $1 AND revision > $2 AND revision <= $3 ORDER BY revision',
    [siteId, seen, upTo],
  )
  return rows.map((row) => row.diff)
}

/** Days of which every step is kept. */
const everyStepDays = 30
/** So many of the latest steps are kept whatever their age: they are what undo goes through. */
const latestSteps = 500

/** Days of sites whose steps are due to become one, the oldest first. */
export const daysToThin = (db: Queryable, most: number): Promise<{ siteId: string; day: string }[]> =>
  many(
    db,
    `SELECT h.site_id AS "siteId", h.made_at::date::text AS day FROM history h
     JOIN sites s ON s.id = h.site_id AND h.revision <= s.revision - ${latestSteps}
     WHERE h.made_at < date_trunc('day', now()) - interval '${everyStepDays} days'
     GROUP BY 1, 2 HAVING count(*) > 1 ORDER BY 2 LIMIT $1`,
    [most],
  )

/** Makes one step of all steps of a site's day; the caller owns a transaction. */
export async function thinDay(db: Queryable, siteId: string, day: string): Promise<void> {
  await db.query('SELECT 1 FROM sites WHERE id = $1 FOR UPDATE', [siteId])
  const steps = await many<{
    revision: number
    kind: string
    state: string
    diff: SiteDiff
    title: string
    by: string | null
  }>(
    db,
    `SELECT revision, kind, state, diff, title, made_by AS by FROM history h WHERE site_id = $1 AND made_at::date = $2::date
       AND revision <= (SELECT revision FROM sites WHERE id = $1) - ${latestSteps} ORDER BY revision`,
    [siteId, day],
  )
  const last = steps[steps.length - 1]
  if (!last || steps.length < 2) return
  const diff = composeDiffs(steps.map((step) => step.diff))
  // Undo can go through the day as one where all of it is one person's, and nothing was taken back or passed by.
  const isDone = steps.every((step) => step.kind === 'change' && step.state === 'done' && step.by === last.by)
  const earlier = steps.slice(0, -1).map((step) => step.revision)
  await db.query('DELETE FROM history WHERE site_id = $1 AND revision = ANY($2)', [siteId, earlier])
  await db.query(
    `UPDATE history SET kind = 'change', state = $3, title = $4, diff = $5, act_id = NULL, step_begun = NULL
     WHERE site_id = $1 AND revision = $2`,
    [
      siteId,
      last.revision,
      isDone ? 'done' : 'passed',
      `the ${steps.length} changes of ${day}`,
      JSON.stringify(diff),
    ],
  )
  await db.query('DELETE FROM history_contents WHERE site_id = $1 AND revision = $2', [siteId, last.revision])
  await db.query('INSERT INTO history_contents (site_id, revision, hash) SELECT $1, $2, unnest($3::text[])', [
    siteId,
    last.revision,
    [...contentsOfDiff(diff)],
  ])
}
