import { relativeReference, resolveReference } from '#core/links'
import {
  encodePath,
  findCssReferences,
  type HtmlFacts,
  type Reference,
  type TextEdit,
  writeReference,
} from '#core/markup'
import { type Names, namesOf } from '#core/naming'
import { realPlaces, treeOf } from '#core/plan'
import type { Hash, Site, TextOf } from '#core/site'
import { compileTemplate, homeFileOf } from '#core/template'

/** A text whose references have to follow a change. */
export interface Rewrite {
  readonly owner: { readonly kind: 'page' | 'file' | 'template'; readonly id: string }
  /** The text as it is after the change, before its references are mended. */
  readonly hash: Hash
  readonly edits: readonly (TextEdit & { readonly was: string })[]
}

/** What parsing yields, by hash; see `readHtml`. */
export interface RewriteSources {
  readonly factsOf: (hash: Hash) => HtmlFacts
  readonly textOf: TextOf
}

/** A page or file that stands elsewhere after a change. */
export interface Moved {
  readonly kind: 'page' | 'file'
  readonly id: string
  readonly from: string
  readonly to: string
}

/** Every page and file that is there before and after, and whose path differs. */
export function findMoved(before: Site, after: Site): Moved[] {
  const were = namesOf(before)
  const become = namesOf(after)
  const moved: Moved[] = []
  for (const [id, { path: from }] of were.pages) {
    const to = become.pages.get(id)?.path
    if (to !== undefined && to !== from) moved.push({ kind: 'page', id, from, to })
  }
  for (const [id, from] of were.files) {
    const to = become.files.get(id)
    if (to !== undefined && to !== from) moved.push({ kind: 'file', id, from, to })
  }
  return moved
}

/**
 * Finds the references that a change makes wrong: those whose target moved, and relative ones in
 * a page that moved itself. A reference to something that was not there before is left alone.
 */
export function findRewrites(before: Site, after: Site, sources: RewriteSources): Rewrite[] {
  if (findMoved(before, after).length === 0) return []
  const were = namesOf(before)
  const become = namesOf(after)
  const homeBefore = homeFileOf(before)
  const rewrites: Rewrite[] = []

  const mend = (
    owner: Rewrite['owner'],
    hash: Hash,
    references: readonly Reference[],
    from: string,
    to: string,
  ) => {
    const edits = references.flatMap((reference) => {
      const href = mendedReference(reference, from, to, were, become, homeBefore)
      if (href === null) return []
      const text = writeReference(reference, href)
      return [{ start: reference.start, end: reference.end, text, was: reference.href }]
    })
    if (edits.length > 0) rewrites.push({ owner, hash, edits })
  }
  for (const page of after.pages) {
    const from = were.pages.get(page.id)?.path
    const to = become.pages.get(page.id)?.path
    if (from === undefined || to === undefined) continue
    mend({ kind: 'page', id: page.id }, page.content, sources.factsOf(page.content).references, from, to)
  }
  for (const template of after.templates) {
    const { references } = compileTemplate(sources.textOf(template.source))
    mend({ kind: 'template', id: template.id }, template.source, references, '', '')
  }
  for (const file of after.files) {
    const from = were.files.get(file.id)
    const to = become.files.get(file.id)
    if (file.kind !== 'style' || from === undefined || to === undefined) continue
    mend({ kind: 'file', id: file.id }, file.hash, findCssReferences(sources.textOf(file.hash)), from, to)
  }
  return rewrites
}

function mendedReference(
  reference: Reference,
  from: string,
  to: string,
  were: Names,
  become: Names,
  homeBefore: string,
): string | null {
  const { href } = reference
  const target = resolveReference(href, from, were, homeBefore)
  if (target.kind !== 'page' && target.kind !== 'file') return null
  const path = target.kind === 'page' ? become.pages.get(target.id)?.path : become.files.get(target.id)
  // Gone altogether: the reference is reported as broken, not bent to something else.
  if (path === undefined) return null
  const rooted = href.startsWith('/')
  if (path === target.path && (rooted || from === to)) return null
  // Written for a folder, and still one: "/birds/" stays without its file name.
  const bare = href.slice(0, href.length - target.suffix.length)
  const homeAfter = path.slice(path.lastIndexOf('/') + 1)
  const asFolder = bare.endsWith('/') && homeAfter === homeBefore
  const next = rooted ? `/${encodePath(path)}` : relativeReference(to, path)
  const shown = asFolder ? next.slice(0, next.length - homeAfter.length) || './' : next
  return shown === bare ? null : shown + target.suffix
}

/** How many references in the remaining pages lead to something that the change takes out of the site. */
export function countBroken(before: Site, after: Site, factsOf: RewriteSources['factsOf']): number {
  const were = namesOf(before)
  const become = namesOf(after)
  const home = homeFileOf(before)
  const real = new Set(realPlaces(treeOf(after)).map(({ page }) => page.id))
  const wasReal = new Set(realPlaces(treeOf(before)).map(({ page }) => page.id))
  let broken = 0
  for (const page of after.pages) {
    const from = were.pages.get(page.id)?.path
    if (from === undefined || !real.has(page.id)) continue
    for (const { href } of factsOf(page.content).references) {
      const target = resolveReference(href, from, were, home)
      if (target.kind === 'page' && wasReal.has(target.id) && !real.has(target.id)) broken += 1
      if (target.kind === 'file' && !become.files.has(target.id)) broken += 1
    }
  }
  return broken
}
