import {
  applyDiff,
  type DiffConflict,
  type Hash,
  mainSlot,
  type Page,
  type Site,
  type SiteDiff,
  slotOf,
  textsOfPage,
} from '#core/site'
import type { Rewrite } from './rewrites'

/** A text that a step changes and somebody else changed since: `wanted` was made of `base`, as theirs was. */
export interface TextToMerge {
  readonly owner: Rewrite['owner']
  readonly base: Hash
  readonly wanted: Hash
}

/** A site after a step of history, all but the texts that have to be put together with what others wrote since. */
export interface SteppedSite {
  readonly site: Site
  readonly toMerge: readonly TextToMerge[]
  /** Pages, files and templates whose texts are as the step says, written for the site as it is after it. */
  readonly written: readonly string[]
}

type RowOf<T extends 'pages' | 'files' | 'templates'> = SiteDiff[T][string]

/** The texts of a page's row in which a step changes something, by slot: as they were, and as they are to be. */
function textsOfRow({ before, after }: RowOf<'pages'>): Map<string, { base: Hash; wanted: Hash }> {
  const texts = new Map<string, { base: Hash; wanted: Hash }>()
  if (!before || !after) return texts
  if (before.content !== undefined && after.content !== undefined)
    texts.set(mainSlot, { base: before.content, wanted: after.content })
  const [were, are] = [before.slots ?? {}, after.slots ?? {}]
  for (const slot of new Set([...Object.keys(were), ...Object.keys(are)])) {
    const side = (slots: Page['slots']) => slotOf({ content: '', slots }, slot)
    if (side(were) !== side(are)) texts.set(slot, { base: side(were), wanted: side(are) })
  }
  return texts
}

/** A row without some of its fields; null when none is left. */
function without<T extends object>(
  row: { readonly before: Partial<T> | null; readonly after: Partial<T> | null },
  fields: readonly (keyof T)[],
) {
  const strip = (side: Partial<T> | null) =>
    side &&
    (Object.fromEntries(
      Object.entries(side).filter(([name]) => !fields.includes(name as keyof T)),
    ) as Partial<T>)
  const [before, after] = [strip(row.before), strip(row.after)]
  return before && after && Object.keys(before).length === 0 ? null : { before, after }
}

/**
 * Takes a step of history with a site that others may have gone on changing. A text that they changed too is left as it
 * is, and told, so that both can be put together; anything else that they changed is a conflict.
 */
export function takeStep(site: Site, diff: SiteDiff): SteppedSite | { readonly conflict: DiffConflict } {
  const toMerge: TextToMerge[] = []
  const written: string[] = []
  const pages: Record<string, RowOf<'pages'>> = {}
  const now = new Map(site.pages.map((page) => [page.id, page]))
  for (const [id, row] of Object.entries(diff.pages)) {
    const page = now.get(id)
    const texts = page ? [...textsOfRow(row)] : []
    const isChanged = texts.some(([slot, { base }]) => slotOf(page!, slot) !== base)
    if (!isChanged) {
      pages[id] = row
      written.push(id)
      continue
    }
    toMerge.push(...texts.map(([slot, text]) => ({ owner: { kind: 'page' as const, id, slot }, ...text })))
    const left = without<Page>(row, ['content', 'slots'])
    if (left) pages[id] = left
  }
  const files: Record<string, RowOf<'files'>> = {}
  const fileNow = new Map(site.files.map((file) => [file.id, file]))
  for (const [id, row] of Object.entries(diff.files)) {
    const { before, after } = row
    const file = fileNow.get(id)
    const isText = file?.kind === 'style' || file?.kind === 'script'
    if (!isText || before?.hash === undefined || after?.hash === undefined || file.hash === before.hash) {
      files[id] = row
      written.push(id)
      continue
    }
    toMerge.push({ owner: { kind: 'file', id }, base: before.hash, wanted: after.hash })
    const left = without<Site['files'][number]>(row, ['hash', 'sizeBytes'])
    if (left) files[id] = left
  }
  const templates: Record<string, RowOf<'templates'>> = {}
  const templateNow = new Map(site.templates.map((one) => [one.id, one]))
  for (const [id, row] of Object.entries(diff.templates)) {
    const { before, after } = row
    const template = templateNow.get(id)
    if (
      !template ||
      before?.source === undefined ||
      after?.source === undefined ||
      template.source === before.source
    ) {
      templates[id] = row
      written.push(id)
      continue
    }
    toMerge.push({ owner: { kind: 'template', id }, base: before.source, wanted: after.source })
    const left = without<Site['templates'][number]>(row, ['source'])
    if (left) templates[id] = left
  }
  const applied = applyDiff(site, { ...diff, pages, files, templates })
  return 'conflict' in applied ? applied : { site: applied.site, toMerge, written }
}

/** What the site holds of a text now; null when whose it is has gone. */
export function textNow(site: Site, { kind, id, slot }: Rewrite['owner']): Hash | null {
  if (kind === 'page') {
    const page = site.pages.find((one) => one.id === id)
    return page ? (textsOfPage(page).find((one) => one.slot === slot)?.hash ?? slotOf(page, slot!)) : null
  }
  if (kind === 'file') return site.files.find((one) => one.id === id)?.hash ?? null
  return site.templates.find((one) => one.id === id)?.source ?? null
}
