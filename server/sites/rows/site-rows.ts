import {
  checkSite,
  defaultScheme,
  emptyHash,
  mainSlot,
  type Page,
  type Right,
  type Role,
  type Site,
  type SiteDiff,
  type SiteFile,
  type Template,
  textsOfPage,
} from '#core/site'
import { Problem } from '#core/problems'
import { nameOf } from '#server/accounts'
import { requireRoom, requireRoomForPages } from './room'
import { requireRight, roleIn } from '../people/access'
import { log, many, maybeOne, type Queryable } from '#server/platform'

/** A site at one revision. */
export interface StoredSite {
  readonly site: Site
  readonly revision: number
}

/** A site as somebody who may do something with it has it. */
export interface SiteOfSomebody extends StoredSite {
  readonly role: Role
  readonly ownerId: string
}

export interface LoadOptions {
  /** What has to be allowed; to look, if nothing is said. */
  readonly right?: Right
  /** Keeps others from changing it until the transaction ends. */
  readonly lock?: boolean
}

interface SiteRow {
  id: string
  revision: number
  name: string
  language: string
  titlePattern: string
  homeTitlePattern: string
  publicAddress: string
  homeId: string
  templateId: string
  output: Site['output']
  checking: Site['checking']
  ownWords: Site['ownWords']
  scheme: Site['scheme']
  nextSeq: number
}

const siteColumns = `id, revision, name, language, title_pattern AS "titlePattern",
  home_title_pattern AS "homeTitlePattern", public_address AS "publicAddress", home_id AS "homeId", template_id AS "templateId", output, checking, own_words AS "ownWords", scheme, next_seq AS "nextSeq"`
const pageColumns = `id, parent_id AS "parentId", position AS "order", seq, label, own_name AS "ownName",
  kept_name AS "keptName", title, title_alone AS "titleAlone", description, trial, in_menus AS "inMenus", dated, date, language, translation_set AS "translationSet", addresses,
  template_id AS "templateId", below_template_id AS "belowTemplateId", content`
const fileColumns = 'id, kind, label, seq, hash, size_bytes AS "sizeBytes"'

/** States of sites lately read, by revision: a site at a revision never changes. */
const recent = new Map<string, StoredSite>()
/**
 * Pages of them, in all: about a kilobyte each with the names and the order that follow from them. The sites that a
 * class or an office works on at the same time.
 */
const recentPages = 50_000
let pagesKept = 0

function forget(siteId: string): void {
  pagesKept -= recent.get(siteId)?.site.pages.length ?? 0
  recent.delete(siteId)
}

/** Keeps a state in reach for the next request. Only for what has been committed. */
export function remember(stored: StoredSite): StoredSite {
  const { id, pages } = stored.site
  forget(id)
  recent.set(id, stored)
  pagesKept += pages.length
  // The one asked for last stays, however large.
  while (pagesKept > recentPages && recent.size > 1) forget(recent.keys().next().value!)
  return stored
}

/**
 * Loads a site for an account that takes part in it, or null when there is none or the account has nothing to do with it.
 * @throws Problem `no-right` for an account that may do less than asked
 */
export async function loadSite(
  db: Queryable,
  siteId: string,
  accountId: string,
  { right = 'look', lock = false }: LoadOptions = {},
): Promise<SiteOfSomebody | null> {
  const row = await maybeOne<SiteRow & { role: Role | null; ownerId: string }>(
    db,
    `SELECT ${siteColumns}, role_in_site(id, $2) AS role, account_id AS "ownerId" FROM sites WHERE id = $1 ${lock ? 'FOR UPDATE' : ''}`,
    [siteId, accountId],
  )
  if (!row?.role) return null
  const { revision, role, ownerId, ...settings } = row
  requireRight(role, right)
  const known = recent.get(siteId)
  if (known?.revision === revision) return { ...remember(known), role, ownerId }
  const pages = await loadPages(db, siteId)
  const files = await many<SiteFile>(
    db,
    `SELECT ${fileColumns} FROM site_files WHERE site_id = $1 ORDER BY seq, id`,
    [siteId],
  )
  const templates = await many<Template>(
    db,
    'SELECT id, name, source, based_on AS "basedOn" FROM templates WHERE site_id = $1 ORDER BY position, id',
    [siteId],
  )
  // A scheme stored before a setting was invented has that setting's default.
  const scheme = { ...defaultScheme, ...settings.scheme }
  const stored = { site: { ...settings, scheme, pages, files, templates }, revision }
  // Rows read without a lock may be of a later revision than the first statement saw.
  if (!lock) {
    const now = await maybeOne<{ revision: number }>(db, 'SELECT revision FROM sites WHERE id = $1', [siteId])
    if (now?.revision !== revision) return loadSite(db, siteId, accountId, { right })
  }
  // Inside a transaction nothing is remembered: it may yet be rolled back.
  return { ...(lock ? stored : remember(stored)), role, ownerId }
}

const noSlots = {}

async function loadPages(db: Queryable, siteId: string): Promise<Page[]> {
  const pages = await many<Omit<Page, 'slots' | 'translatedFrom'>>(
    db,
    `SELECT ${pageColumns} FROM pages WHERE site_id = $1 ORDER BY seq, id`,
    [siteId],
  )
  const slots = await many<{ pageId: string; slots: Page['slots'] }>(
    db,
    `SELECT page_id AS "pageId", jsonb_object_agg(name, content ORDER BY name) AS slots FROM page_slots
     WHERE site_id = $1 GROUP BY page_id`,
    [siteId],
  )
  const originals = await many<{ pageId: string; ofId: string; texts: Page['slots'] }>(
    db,
    `SELECT page_id AS "pageId", of_id AS "ofId", jsonb_object_agg(slot, content ORDER BY slot) AS texts FROM translated_texts
     WHERE site_id = $1 GROUP BY page_id, of_id`,
    [siteId],
  )
  const byPage = new Map(slots.map((one) => [one.pageId, one.slots]))
  const originalOf = new Map(
    originals.map(({ pageId, ofId, texts: { [mainSlot]: content = emptyHash, ...slots } }) => [
      pageId,
      { ofId, content, slots },
    ]),
  )
  return pages.map((page) => ({
    ...page,
    translatedFrom: originalOf.get(page.id) ?? null,
    slots: byPage.get(page.id) ?? noSlots,
  }))
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
  readonly role: Role
  /** What its owner is known by. */
  readonly owner: string
}

/** Sites that an account takes part in, those changed last in front; copies that others took of one are with that one. */
export const listSites = (db: Queryable, accountId: string): Promise<SiteSummary[]> =>
  many<SiteSummary>(
    db,
    `SELECT s.id, s.name, s.changed_at AS "changedAt", role_in_site(s.id, $1) AS role, ${nameOf('a')} AS owner,
       (SELECT count(*) FROM pages p WHERE p.site_id = s.id AND NOT p.trial) AS "pageCount"
     FROM sites s JOIN accounts a ON a.id = s.account_id
     WHERE s.account_id = $1 OR s.id IN (
       SELECT site_id FROM site_people WHERE account_id = $1
       EXCEPT SELECT h.copy_id FROM handed_out h JOIN invitations i ON i.id = h.invitation_id WHERE i.made_by = $1)
     ORDER BY s.changed_at DESC, s.id`,
    [accountId],
  )

/** Writes a site that is new. @throws Problem `too-many-sites`, `account-full` */
export async function insertSite(db: Queryable, site: Site, accountId: string): Promise<void> {
  await db.query(
    `INSERT INTO sites (id, account_id, name, language, title_pattern, home_id, scheme, next_seq,
       home_title_pattern, template_id, output, checking, public_address, own_words)
     VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14)`,
    [
      site.id,
      accountId,
      site.name,
      site.language,
      site.titlePattern,
      site.homeId,
      JSON.stringify(site.scheme),
      site.nextSeq,
      site.homeTitlePattern,
      site.templateId,
      JSON.stringify(site.output),
      JSON.stringify(site.checking),
      site.publicAddress,
      site.ownWords,
    ],
  )
  refuseBroken(site)
  await putTemplates(db, site.id, site.templates)
  await putPages(db, site.id, site.pages)
  await putOriginals(
    db,
    site.id,
    site.pages.filter((page) => page.translatedFrom),
  )
  await putFiles(db, site.id, site.files)
  await requireRoom(db, accountId)
}

async function putPages(db: Queryable, siteId: string, pages: readonly Page[]): Promise<void> {
  if (pages.length === 0) return
  await db.query(
    `INSERT INTO pages (site_id, id, parent_id, position, seq, label, own_name, kept_name, title, title_alone, description, trial, in_menus, dated, date, language, translation_set, addresses,
       template_id, below_template_id, content)
     SELECT $1, id, "parentId", "order", seq, label, "ownName", "keptName", title, coalesce("titleAlone", false), description, trial, "inMenus", dated, date, language, "translationSet",
       ARRAY(SELECT jsonb_array_elements_text(addresses)), "templateId", "belowTemplateId", content
     FROM jsonb_to_recordset($2) AS t(id uuid, "parentId" uuid, "order" text, seq int, label text, "ownName" text,
       "keptName" text, title text, "titleAlone" boolean, description text, trial boolean, "inMenus" boolean, dated boolean, date text, language text, "translationSet" text, addresses jsonb,
       "templateId" uuid, "belowTemplateId" uuid, content text)
     ON CONFLICT (site_id, id) DO UPDATE SET parent_id = excluded.parent_id, position = excluded.position,
       label = excluded.label, own_name = excluded.own_name, kept_name = excluded.kept_name, title = excluded.title, title_alone = excluded.title_alone,
       description = excluded.description, trial = excluded.trial, in_menus = excluded.in_menus,
       dated = excluded.dated, date = excluded.date, language = excluded.language, translation_set = excluded.translation_set,
       addresses = excluded.addresses, content = excluded.content,
       template_id = excluded.template_id, below_template_id = excluded.below_template_id`,
    [siteId, JSON.stringify(pages)],
  )
  await putSlots(db, siteId, pages)
}

/** The slots of pages, beside the one that is in their rows. */
async function putSlots(db: Queryable, siteId: string, pages: readonly Page[]): Promise<void> {
  const slots = pages.flatMap(({ id, slots: held }) =>
    Object.entries(held).map(([name, content]) => ({ id, name, content })),
  )
  await db.query('DELETE FROM page_slots WHERE site_id = $1 AND page_id = ANY($2)', [
    siteId,
    pages.map(({ id }) => id),
  ])
  if (slots.length === 0) return
  await db.query(
    `INSERT INTO page_slots (site_id, page_id, name, content)
     SELECT $1, id, name, content FROM jsonb_to_recordset($2) AS t(id uuid, name text, content text)`,
    [siteId, JSON.stringify(slots)],
  )
}

/** What pages are held against of those that they are translations of; where they are against none, nothing. */
async function putOriginals(db: Queryable, siteId: string, pages: readonly Page[]): Promise<void> {
  if (pages.length === 0) return
  const texts = pages.flatMap(({ id, translatedFrom: from }) =>
    from ? textsOfPage(from).map(({ slot, hash }) => ({ id, ofId: from.ofId, slot, content: hash })) : [],
  )
  await db.query(
    `WITH held AS (
       SELECT * FROM jsonb_to_recordset($3) AS t(id uuid, "ofId" uuid, slot text, content text)
     ), gone AS (
       DELETE FROM translated_texts t WHERE site_id = $1 AND page_id = ANY($2)
         AND NOT EXISTS (SELECT 1 FROM held WHERE held.id = t.page_id AND held.slot = t.slot)
     )
     INSERT INTO translated_texts (site_id, page_id, of_id, slot, content)
     SELECT $1, id, "ofId", slot, content FROM held
     ON CONFLICT (site_id, page_id, slot) DO UPDATE SET of_id = excluded.of_id, content = excluded.content`,
    [siteId, pages.map(({ id }) => id), JSON.stringify(texts)],
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
    `INSERT INTO templates (site_id, id, name, source, based_on)
     SELECT $1, id, name, source, "basedOn"
     FROM jsonb_to_recordset($2) AS t(id uuid, name text, source text, "basedOn" uuid)
     ON CONFLICT (site_id, id) DO UPDATE SET name = excluded.name, source = excluded.source,
       based_on = excluded.based_on`,
    [siteId, JSON.stringify(templates)],
  )
}

/** Writes the rows that a difference alters. */
export async function writeRows(db: Queryable, after: Site, diff: SiteDiff): Promise<void> {
  refuseBroken(after)
  const changed = <T extends { id: string }>(
    rows: readonly T[],
    patch: SiteDiff['pages' | 'files' | 'templates'],
  ) => rows.filter((row) => patch[row.id]?.after)
  const removed = (patch: SiteDiff['pages' | 'files' | 'templates']) =>
    Object.keys(patch).filter((id) => !patch[id]!.after)
  await putTemplates(db, after.id, changed(after.templates, diff.templates))
  await putPages(db, after.id, changed(after.pages, diff.pages))
  const isHeldOtherwise = ({ id }: Page) => {
    const row = diff.pages[id]
    return Boolean(row?.before?.translatedFrom ?? row?.after?.translatedFrom)
  }
  await putOriginals(db, after.id, after.pages.filter(isHeldOtherwise))
  await putFiles(db, after.id, changed(after.files, diff.files))
  for (const [table, patch] of [
    ['pages', diff.pages],
    ['site_files', diff.files],
    ['templates', diff.templates],
  ] as const) {
    const ids = removed(patch)
    if (ids.length > 0)
      await db.query(`DELETE FROM ${table} WHERE site_id = $1 AND id = ANY($2)`, [after.id, ids])
  }
  if (Object.values(diff.pages).some((row) => !row.before)) await requireRoomForPages(db, after.id)
}

/** What is not whole is never stored, whoever made it: it is told in the log, and the change is refused. */
function refuseBroken(site: Site): void {
  const faults = checkSite(site)
  if (faults.length === 0) return
  log.error({ siteId: site.id, faults: faults.slice(0, 20), faultCount: faults.length }, 'site not whole')
  throw new Problem('not-whole')
}

/** Removes a site with all that belongs to it. @throws Problem `no-right` */
export async function deleteSite(db: Queryable, siteId: string, accountId: string): Promise<boolean> {
  const role = await roleIn(db, siteId, accountId)
  if (!role) return false
  requireRight(role, 'remove')
  const result = await db.query('DELETE FROM sites WHERE id = $1', [siteId])
  return (result.rowCount ?? 0) > 0
}
