import {
  checkSite,
  composeDiffs,
  contentsOfDiff,
  defaultScheme,
  type Page,
  type Site,
  type SiteDiff,
  type SiteFile,
  type Template,
} from '#core/site'
import { log } from '../log'
import { Problem } from '../problem'
import { markAddresses } from './addresses'
import { many, maybeOne, type Queryable } from './pool'

/** A site at one revision. */
export interface StoredSite {
  readonly site: Site
  readonly revision: number
}

interface SiteRow {
  id: string
  revision: number
  name: string
  language: string
  titlePattern: string
  homeId: string
  scheme: Site['scheme']
  nextSeq: number
}

const siteColumns = `id, revision, name, language, title_pattern AS "titlePattern", home_id AS "homeId", scheme, next_seq AS "nextSeq"`
const pageColumns = `id, parent_id AS "parentId", position AS "order", seq, label, own_name AS "ownName",
  kept_name AS "keptName", title, description, trial, in_menus AS "inMenus", dated, date, addresses, content`
const fileColumns = 'id, kind, label, seq, hash, size_bytes AS "sizeBytes"'

/** States of sites lately read, by revision: a site at a revision never changes. */
const recent = new Map<string, StoredSite>()
const recentLimit = 24

/** Keeps a state in reach for the next request. Only for what has been committed. */
export function remember(stored: StoredSite): StoredSite {
  const { id } = stored.site
  recent.delete(id)
  recent.set(id, stored)
  if (recent.size > recentLimit) recent.delete(recent.keys().next().value!)
  return stored
}

/**
 * Loads an account's site, or null when there is none or it is another's.
 * @param lock keeps others from changing it until the transaction ends
 */
export async function loadSite(
  db: Queryable,
  siteId: string,
  accountId: string,
  lock = false,
): Promise<StoredSite | null> {
  const row = await maybeOne<SiteRow>(
    db,
    `SELECT ${siteColumns} FROM sites WHERE id = $1 AND account_id = $2 ${lock ? 'FOR UPDATE' : ''}`,
    [siteId, accountId],
  )
  if (!row) return null
  const { revision, ...settings } = row
  const known = recent.get(siteId)
  if (known?.revision === revision) return remember(known)
  const pages = await many<Page>(db, `SELECT ${pageColumns} FROM pages WHERE site_id = $1 ORDER BY seq, id`, [
    siteId,
  ])
  const files = await many<SiteFile>(
    db,
    `SELECT ${fileColumns} FROM site_files WHERE site_id = $1 ORDER BY seq, id`,
    [siteId],
  )
  const templates = await many<Template>(
    db,
    'SELECT id, name, source FROM templates WHERE site_id = $1 ORDER BY id',
    [siteId],
  )
  // A scheme stored before a setting was invented has that setting's default.
  const scheme = { ...defaultScheme, ...settings.scheme }
  const stored = { site: { ...settings, scheme, pages, files, templates }, revision }
  // Rows read without a lock may be of a later revision than the first statement saw.
  if (!lock) {
    const now = await maybeOne<{ revision: number }>(db, 'SELECT revision FROM sites WHERE id = $1', [siteId])
    if (now?.revision !== revision) return loadSite(db, siteId, accountId)
  }
  // Inside a transaction nothing is remembered: it may yet be rolled back.
  return lock ? stored : remember(stored)
}

/** Where a site stands; null when it is not there. */
export async function revisionOf(db: Queryable, siteId: string): Promise<number | null> {
  const row = await maybeOne<{ revision: number }>(db, 'SELECT revision FROM sites WHERE id = $1', [siteId])
  return row?.revision ?? null
}

/** One line of an account's list of sites. */
export interface SiteSummary {
  readonly id: string
  readonly name: string
  readonly pageCount: number
  readonly changedAt: Date
}

export const listSites = (db: Queryable, accountId: string): Promise<SiteSummary[]> =>
  many<SiteSummary>(
    db,
    `SELECT s.id, s.name, s.changed_at AS "changedAt",
       (SELECT count(*) FROM pages p WHERE p.site_id = s.id AND NOT p.trial) AS "pageCount"
     FROM sites s WHERE account_id = $1 ORDER BY s.changed_at DESC, s.id`,
    [accountId],
  )

/** Writes a site that is new. */
export async function insertSite(db: Queryable, site: Site, accountId: string): Promise<void> {
  await db.query(
    `INSERT INTO sites (id, account_id, name, language, title_pattern, home_id, scheme, next_seq)
     VALUES ($1, $2, $3, $4, $5, $6, $7, $8)`,
    [
      site.id,
      accountId,
      site.name,
      site.language,
      site.titlePattern,
      site.homeId,
      JSON.stringify(site.scheme),
      site.nextSeq,
    ],
  )
  refuseBroken(site)
  await putPages(db, site.id, site.pages)
  await putFiles(db, site.id, site.files)
  await putTemplates(db, site.id, site.templates)
}

async function putPages(db: Queryable, siteId: string, pages: readonly Page[]): Promise<void> {
  if (pages.length === 0) return
  await db.query(
    `INSERT INTO pages (site_id, id, parent_id, position, seq, label, own_name, kept_name, title, description, trial, in_menus, dated, date, addresses, content)
     SELECT $1, id, "parentId", "order", seq, label, "ownName", "keptName", title, description, trial, "inMenus", dated, date,
       ARRAY(SELECT jsonb_array_elements_text(addresses)), content
     FROM jsonb_to_recordset($2) AS t(id uuid, "parentId" uuid, "order" text, seq int, label text, "ownName" text,
       "keptName" text, title text, description text, trial boolean, "inMenus" boolean, dated boolean, date text, addresses jsonb, content text)
     ON CONFLICT (site_id, id) DO UPDATE SET parent_id = excluded.parent_id, position = excluded.position,
       label = excluded.label, own_name = excluded.own_name, kept_name = excluded.kept_name, title = excluded.title,
       description = excluded.description, trial = excluded.trial, in_menus = excluded.in_menus,
       dated = excluded.dated, date = excluded.date, addresses = excluded.addresses, content = excluded.content`,
    [siteId, JSON.stringify(pages)],
  )
}

async function putFiles(db: Queryable, siteId: string, files: readonly SiteFile[]): Promise<void> {
  if (files.length === 0) return
  await db.query(
    `INSERT INTO site_files (site_id, id, kind, label, seq, hash, size_bytes)
     SELECT $1, id, kind, label, seq, hash, "sizeBytes"
     FROM jsonb_to_recordset($2) AS t(id uuid, kind text, label text, seq int, hash text, "sizeBytes" bigint)
     ON CONFLICT (site_id, id) DO UPDATE SET kind = excluded.kind, label = excluded.label, hash = excluded.hash,
       size_bytes = excluded.size_bytes`,
    [siteId, JSON.stringify(files)],
  )
}

async function putTemplates(db: Queryable, siteId: string, templates: readonly Template[]): Promise<void> {
  if (templates.length === 0) return
  await db.query(
    `INSERT INTO templates (site_id, id, name, source)
     SELECT $1, id, name, source FROM jsonb_to_recordset($2) AS t(id uuid, name text, source text)
     ON CONFLICT (site_id, id) DO UPDATE SET name = excluded.name, source = excluded.source`,
    [siteId, JSON.stringify(templates)],
  )
}

/** What is written beside the rows when a site goes to its next revision. */
export interface HistoryEntry {
  readonly kind: 'change' | 'undo' | 'redo'
  readonly title: string
  readonly diff: SiteDiff
  /** Whether undo can reach it; what a delivery notes it cannot. */
  readonly undoable?: boolean
}

/**
 * Writes the rows a difference alters, the next revision and its history row.
 * The caller holds the site's lock and owns the transaction.
 * @returns the new revision
 */
export async function saveRevision(db: Queryable, after: Site, entry: HistoryEntry): Promise<number> {
  const { diff } = entry
  refuseBroken(after)
  const changed = <T extends { id: string }>(
    rows: readonly T[],
    patch: SiteDiff['pages' | 'files' | 'templates'],
  ) => rows.filter((row) => patch[row.id]?.after)
  const removed = (patch: SiteDiff['pages' | 'files' | 'templates']) =>
    Object.keys(patch).filter((id) => !patch[id]!.after)
  await putPages(db, after.id, changed(after.pages, diff.pages))
  await putFiles(db, after.id, changed(after.files, diff.files))
  await putTemplates(db, after.id, changed(after.templates, diff.templates))
  for (const [table, patch] of [
    ['pages', diff.pages],
    ['site_files', diff.files],
    ['templates', diff.templates],
  ] as const) {
    const ids = removed(patch)
    if (ids.length > 0)
      await db.query(`DELETE FROM ${table} WHERE site_id = $1 AND id = ANY($2)`, [after.id, ids])
  }
  const { rows } = await db.query<{ revision: number }>(
    `UPDATE sites SET revision = revision + 1, changed_at = now(), name = $2, language = $3, title_pattern = $4,
       home_id = $5, scheme = $6, next_seq = $7 WHERE id = $1 RETURNING revision`,
    [
      after.id,
      after.name,
      after.language,
      after.titlePattern,
      after.homeId,
      JSON.stringify(after.scheme),
      after.nextSeq,
    ],
  )
  const { revision } = rows[0]!
  await db.query(
    `INSERT INTO history (site_id, revision, kind, title, diff, state) VALUES ($1, $2, $3, $4, $5, $6)`,
    [
      after.id,
      revision,
      entry.kind,
      entry.title,
      JSON.stringify(diff),
      entry.undoable === false ? 'passed' : 'done',
    ],
  )
  await db.query('INSERT INTO history_contents (site_id, revision, hash) SELECT $1, $2, unnest($3::text[])', [
    after.id,
    revision,
    [...contentsOfDiff(diff)],
  ])
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

/** What is not whole is never stored, whoever made it: it is told in the log, and the change is refused. */
function refuseBroken(site: Site): void {
  const faults = checkSite(site)
  if (faults.length === 0) return
  log.error({ siteId: site.id, faults: faults.slice(0, 20), faultCount: faults.length }, 'site not whole')
  throw new Problem(
    'not-whole',
    'This change would leave the site in disorder, so it was not made. Load the page again, and try it another way.',
    422,
  )
}

/** A change that can be taken back or made again. */
export interface HistoryStep {
  readonly revision: number
  readonly title: string
  readonly diff: SiteDiff
}

/** The change that undo would take back next, or null. */
export const stepToUndo = (db: Queryable, siteId: string): Promise<HistoryStep | null> =>
  maybeOne<HistoryStep>(
    db,
    `SELECT revision, title, diff FROM history WHERE site_id = $1 AND kind = 'change' AND state = 'done'
     ORDER BY revision DESC LIMIT 1`,
    [siteId],
  )

/** The change that redo would make again next, or null. */
export const stepToRedo = (db: Queryable, siteId: string): Promise<HistoryStep | null> =>
  maybeOne<HistoryStep>(
    db,
    `SELECT revision, title, diff FROM history WHERE site_id = $1 AND kind = 'change' AND state = 'undone'
     ORDER BY revision LIMIT 1`,
    [siteId],
  )

export async function markStep(
  db: Queryable,
  siteId: string,
  revision: number,
  state: 'done' | 'undone',
): Promise<void> {
  await db.query('UPDATE history SET state = $3 WHERE site_id = $1 AND revision = $2', [
    siteId,
    revision,
    state,
  ])
}

/** A new change makes the ones taken back before it unreachable for redo. */
export async function passUndone(db: Queryable, siteId: string): Promise<void> {
  await db.query(
    `UPDATE history SET state = 'passed' WHERE site_id = $1 AND kind = 'change' AND state = 'undone'`,
    [siteId],
  )
}

/** Makes what was done so far the ground that undo does not go below. */
export async function passAll(db: Queryable, siteId: string): Promise<void> {
  await db.query(`UPDATE history SET state = 'passed' WHERE site_id = $1 AND kind = 'change'`, [siteId])
}

/** Titles of what undo and redo would do; the differences themselves may be large and stay where they are. */
export async function undoTitles(
  db: Queryable,
  siteId: string,
): Promise<{ undo: string | null; redo: string | null }> {
  const { rows } = await db.query<{ undo: string | null; redo: string | null }>(
    `SELECT
       (SELECT title FROM history WHERE site_id = $1 AND kind = 'change' AND state = 'done'
        ORDER BY revision DESC LIMIT 1) AS undo,
       (SELECT title FROM history WHERE site_id = $1 AND kind = 'change' AND state = 'undone'
        ORDER BY revision LIMIT 1) AS redo`,
    [siteId],
  )
  return rows[0]!
}

/** Differences after a revision, oldest first: what a window that saw it has missed. */
export async function diffsSince(db: Queryable, siteId: string, revision: number): Promise<SiteDiff[]> {
  const rows = await many<{ diff: SiteDiff }>(
    db,
    'SELECT diff FROM history WHERE site_id = $1 AND revision > $2 ORDER BY revision',
    [siteId, revision],
  )
  return rows.map((row) => row.diff)
}

/** Removes a site with all that belongs to it. */
export async function deleteSite(db: Queryable, siteId: string, accountId: string): Promise<boolean> {
  const result = await db.query('DELETE FROM sites WHERE id = $1 AND account_id = $2', [siteId, accountId])
  return (result.rowCount ?? 0) > 0
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
  const steps = await many<{ revision: number; kind: string; state: string; diff: SiteDiff; title: string }>(
    db,
    `SELECT revision, kind, state, diff, title FROM history h WHERE site_id = $1 AND made_at::date = $2::date
       AND revision <= (SELECT revision FROM sites WHERE id = $1) - ${latestSteps} ORDER BY revision`,
    [siteId, day],
  )
  const last = steps[steps.length - 1]
  if (!last || steps.length < 2) return
  const diff = steps.map((step) => step.diff).reduce(composeDiffs)
  // Undo can go through the day as one where nothing of it has been taken back or passed by.
  const isDone = steps.every((step) => step.kind === 'change' && step.state === 'done')
  const earlier = steps.slice(0, -1).map((step) => step.revision)
  await db.query('DELETE FROM history WHERE site_id = $1 AND revision = ANY($2)', [siteId, earlier])
  await db.query(
    `UPDATE history SET kind = 'change', state = $3, title = $4, diff = $5 WHERE site_id = $1 AND revision = $2`,
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
