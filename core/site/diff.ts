import deepEqual from 'fast-deep-equal'
import {
  contentsOfPages,
  type Page,
  type Site,
  type SiteFile,
  type SiteSettings,
  type Template,
} from './document'

/** One row's change: null stands for "did not exist", else only the fields that differ. */
export interface RowDiff<T> {
  readonly before: Partial<T> | null
  readonly after: Partial<T> | null
}

/** The difference between two states of one site, as plain data. Can be reversed and applied. */
export interface SiteDiff {
  readonly settings: RowDiff<SiteSettings> | null
  readonly pages: Readonly<Record<string, RowDiff<Page>>>
  readonly files: Readonly<Record<string, RowDiff<SiteFile>>>
  readonly templates: Readonly<Record<string, RowDiff<Template>>>
}

const settingNames = [
  'name',
  'language',
  'titlePattern',
  'homeTitlePattern',
  'publicAddress',
  'homeId',
  'templateId',
  'output',
  'checking',
  'ownWords',
  'scheme',
  'nextSeq',
] as const

/** What rows of differences lack that were kept before these fields were invented. */
const laterFields: Readonly<Record<string, object>> = {
  pages: {
    titleAlone: false,
    language: null,
    translationSet: null,
    translatedFrom: null,
    templateId: null,
    belowTemplateId: null,
    slots: {},
  } satisfies Partial<Page>,
  templates: { basedOn: null } satisfies Partial<Template>,
}

// Not by their JSON: a database gives an object's keys back in an order of its own.
const same = (a: unknown, b: unknown): boolean => deepEqual(a, b)

function diffFields<T extends object>(before: T, after: T, names: readonly (keyof T)[]): RowDiff<T> | null {
  const was: Partial<T> = {}
  const is: Partial<T> = {}
  let differs = false
  for (const name of names) {
    if (same(before[name], after[name])) continue
    was[name] = before[name]
    is[name] = after[name]
    differs = true
  }
  return differs ? { before: was, after: is } : null
}

function diffRows<T extends { id: string }>(before: readonly T[], after: readonly T[]) {
  const rows: Record<string, RowDiff<T>> = {}
  if (before === after) return rows
  const old = new Map(before.map((row) => [row.id, row]))
  for (const row of after) {
    const was = old.get(row.id)
    old.delete(row.id)
    if (was === row) continue
    if (!was) rows[row.id] = { before: null, after: row }
    else {
      const fields = diffFields(was, row, Object.keys(row) as (keyof T)[])
      if (fields) rows[row.id] = fields
    }
  }
  for (const [id, row] of old) rows[id] = { before: row, after: null }
  return rows
}

/** What changed from `before` to `after`. */
export function diffSites(before: Site, after: Site): SiteDiff {
  return {
    settings: diffFields<SiteSettings>(before, after, settingNames),
    pages: diffRows(before.pages, after.pages),
    files: diffRows(before.files, after.files),
    templates: diffRows(before.templates, after.templates),
  }
}

/** True when the difference changes nothing. */
export function isEmptyDiff(diff: SiteDiff): boolean {
  return (
    !diff.settings && [diff.pages, diff.files, diff.templates].every((rows) => Object.keys(rows).length === 0)
  )
}

const reverseRows = <T>(rows: Readonly<Record<string, RowDiff<T>>>) =>
  Object.fromEntries(
    Object.entries(rows).map(([id, row]) => [id, { before: row.after, after: row.before }]),
  ) as Record<string, RowDiff<T>>

/** The difference that leads back. */
export function reverseDiff(diff: SiteDiff): SiteDiff {
  return {
    settings: diff.settings && { before: diff.settings.after, after: diff.settings.before },
    pages: reverseRows(diff.pages),
    files: reverseRows(diff.files),
    templates: reverseRows(diff.templates),
  }
}

/** Where a difference does not fit: the row (null for the settings) and the field, if it still exists. */
export interface DiffConflict {
  readonly table: 'settings' | 'pages' | 'files' | 'templates'
  readonly id: string | null
  readonly field: string | null
}

/** Fields that are sets: what one step put in or took out says nothing of the rest, and no other step. */
const knownSets: ReadonlySet<string> = new Set<keyof Page | keyof SiteSettings>(['addresses', 'ownWords'])

const listIn = (fields: object, name: string) =>
  ((fields as Record<string, unknown>)[name] ?? []) as readonly string[]

/** The row with a difference's fields; of known sets, what the difference added and took away. */
function withFields<T extends object>(row: T, before: Partial<T>, after: Partial<T>): T {
  const next: Record<string, unknown> = { ...row, ...after }
  for (const name of knownSets) {
    if (!(name in after)) continue
    const [had, has] = [listIn(before, name), listIn(after, name)]
    const left = listIn(row, name).filter((one) => has.includes(one) || !had.includes(one))
    next[name] = [...left, ...has.filter((one) => !had.includes(one) && !left.includes(one))]
  }
  return next as T
}

function fieldsFit<T extends object>(current: T, expected: Partial<T>): string | null {
  for (const name of Object.keys(expected) as (keyof T)[])
    // A page made later took its number honestly; giving it back would let two pages share one.
    if (name !== 'nextSeq' && !knownSets.has(String(name)) && !same(current[name], expected[name]))
      return String(name)
  return null
}

function patchRows<T extends { id: string }>(
  table: string,
  rows: readonly T[],
  patch: Readonly<Record<string, RowDiff<T>>>,
): { rows: readonly T[] } | { id: string; field: string | null } {
  const ids = Object.keys(patch)
  if (ids.length === 0) return { rows }
  const left = new Set(ids)
  const result: T[] = []
  for (const row of rows) {
    const change = patch[row.id]
    if (!change) {
      result.push(row)
      continue
    }
    left.delete(row.id)
    if (!change.before) return { id: row.id, field: null }
    const misfit = fieldsFit(row, change.before)
    if (misfit) return { id: row.id, field: misfit }
    if (change.after) result.push(withFields(row, change.before, change.after))
  }
  for (const id of left) {
    const change = patch[id]!
    if (change.before || !change.after) return { id, field: null }
    result.push({ ...laterFields[table], ...change.after } as T)
  }
  return { rows: result }
}

/**
 * The site with the difference applied, or the first place where the site is no longer
 * what the difference was made from. Nothing is ever overwritten silently.
 */
export function applyDiff(site: Site, diff: SiteDiff): { site: Site } | { conflict: DiffConflict } {
  let settings: SiteSettings = site
  if (diff.settings) {
    const misfit = fieldsFit<SiteSettings>(site, diff.settings.before!)
    if (misfit) return { conflict: { table: 'settings', id: null, field: misfit } }
    const { before, after } = diff.settings as { before: Partial<SiteSettings>; after: Partial<SiteSettings> }
    settings = withFields(settings, before, after)
    settings = { ...settings, nextSeq: Math.max(site.nextSeq, settings.nextSeq) }
  }
  const pages = patchRows('pages', site.pages, diff.pages)
  if (!('rows' in pages)) return { conflict: { table: 'pages', ...pages } }
  const files = patchRows('files', site.files, diff.files)
  if (!('rows' in files)) return { conflict: { table: 'files', ...files } }
  const templates = patchRows('templates', site.templates, diff.templates)
  if (!('rows' in templates)) return { conflict: { table: 'templates', ...templates } }
  return {
    site: { ...site, ...settings, pages: pages.rows, files: files.rows, templates: templates.rows },
  }
}

/** The site with differences applied one after the other; null where one does not fit. */
export function applyDiffs(site: Site, diffs: readonly SiteDiff[]): Site | null {
  for (const diff of diffs) {
    const applied = applyDiff(site, diff)
    if (!('site' in applied)) return null
    site = applied.site
  }
  return site
}

const composeRow = <T>(first: RowDiff<T> | null | undefined, then: RowDiff<T>): RowDiff<T> | null => {
  if (!first) return then
  // Made and changed is made; changed and removed is removed as it was first.
  const before =
    first.before === null ? null : then.before === null ? first.before : { ...then.before, ...first.before }
  const after =
    then.after === null ? null : first.after === null ? then.after : { ...first.after, ...then.after }
  if (before === null && after === null) return null
  if (before === null || after === null) return { before, after }
  const names = (Object.keys({ ...before, ...after }) as (keyof T)[]).filter(
    (name) => !same(before[name], after[name]),
  )
  if (names.length === 0) return null
  const only = (fields: Partial<T>) =>
    Object.fromEntries(names.map((name) => [name, fields[name]])) as Partial<T>
  return { before: only(before), after: only(after) }
}

type Rows<T> = Record<string, RowDiff<T>>

/** Whether a row's change goes on from what the one before it left. */
function rowFollows<T>(first: RowDiff<T> | null | undefined, then: RowDiff<T>): boolean {
  if (!first) return true
  const [left, found] = [first.after, then.before]
  if (!left || !found) return left === found
  // Numbers of pages follow whatever there is.
  return (Object.keys(found) as (keyof T & string)[]).every(
    (name) => name === 'nextSeq' || !(name in left) || same(found[name], left[name]),
  )
}

/** Each row is taken up once for each difference that touches it, so that thousands of differences take no more than their rows. */
function compose(diffs: readonly SiteDiff[], mustFollow: boolean): SiteDiff | null {
  let settings: SiteDiff['settings'] = null
  const pages: Rows<Page> = {}
  const files: Rows<SiteFile> = {}
  const templates: Rows<Template> = {}
  const takeUp = <T>(all: Rows<T>, rows: Readonly<Rows<T>>): boolean =>
    Object.entries(rows).every(([id, row]) => {
      if (mustFollow && !rowFollows(all[id], row)) return false
      const composed = composeRow(all[id], row)
      if (composed) all[id] = composed
      else delete all[id]
      return true
    })
  for (const diff of diffs) {
    if (diff.settings) {
      if (mustFollow && !rowFollows(settings, diff.settings)) return null
      settings = composeRow(settings, diff.settings)
    }
    const isTaken =
      takeUp(pages, diff.pages) && takeUp(files, diff.files) && takeUp(templates, diff.templates)
    if (!isTaken) return null
  }
  return { settings, pages, files, templates }
}

/** Differences, made one after the other, as one. */
export const composeDiffs = (diffs: readonly SiteDiff[]): SiteDiff => compose(diffs, false)!

/** The same, or null where one does not go on from what an earlier one left: somebody changed that between them. */
export const composeFollowing = (diffs: readonly SiteDiff[]): SiteDiff | null => compose(diffs, true)

/** Contents that either state of a difference names. */
export function contentsOfDiff(diff: SiteDiff): Set<string> {
  const hashes = new Set<string>()
  const add = (hash: string | undefined) => void (hash !== undefined && hashes.add(hash))
  for (const row of Object.values(diff.pages))
    for (const one of [row.before, row.after]) {
      add(one?.content)
      Object.values(one?.slots ?? {}).forEach(add)
      if (one?.translatedFrom) contentsOfPages([one.translatedFrom]).forEach(add)
    }
  for (const row of Object.values(diff.files)) [row.before, row.after].forEach((one) => add(one?.hash))
  for (const row of Object.values(diff.templates)) [row.before, row.after].forEach((one) => add(one?.source))
  return hashes
}
