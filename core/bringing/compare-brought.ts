import { diffArrays } from 'diff'
import { buildSite, type BuildSources } from '#core/build'
import { applyEdits, parseTree, type Range, type Reference, referencesIn } from '#core/markup'
import { isStanding, resolveReference, type Target } from '#core/links'
import { type Names, namesOf } from '#core/naming'
import { homeFileOf } from '#core/template'
import { treeDigest } from './reading/tree-digest'
import { type OldNames, onHost } from './old-names'
import type { Understood } from './understand'

/** What comes out of a page that was brought in, beside what it was. */
export interface ComparedPage {
  readonly id: string
  readonly path: string
  /**
   * `same`: to the byte, but for how references are written; `spaces`: but for white space, how tags are written, and
   * that it is in UTF-8; `menus`: but for what generated parts make now, too; else otherwise.
   */
  readonly outcome: 'same' | 'spaces' | 'menus' | 'otherwise'
  /** The lines that differ, where it comes out otherwise: each stretch of them as it was, and as it comes out. */
  readonly stretches: readonly Stretch[]
}

/** Lines that stand in the place of others. */
export interface Stretch {
  readonly was: readonly string[]
  readonly becomes: readonly string[]
}

/** Lines that are shown of a page. */
const mostLines = 40
/** Lines up to which two pages may differ to be told stretch by stretch: finding the least that differs takes as long. */
const mostApart = 200

/** A page's text with each reference by what it leads to, and without some stretches, so that two can be compared. */
function byGoals(
  text: string,
  references: Iterable<Reference>,
  goalOf: (reference: Reference) => string,
  without: readonly Range[] = [],
): string {
  const edits = [
    ...without.map(({ start, end }) => ({ start, end, text: '' })),
    ...Array.from(references, (one) => ({ start: one.start, end: one.end, text: goalOf(one) })),
  ].sort((a, b) => a.start - b.start || b.end - a.end)
  let at = 0
  return applyEdits(
    text,
    edits.filter(({ start, end }) => start >= at && ((at = end), true)),
  )
}

/** What a reference is held to be: what it leads to, or where nothing is. */
function goalOf(target: Target, reference: Reference): string {
  const { href } = reference
  if (!isStanding(reference, target)) return href
  if ('id' in target) return target.id + target.suffix
  return target.kind === 'missing' ? `/${target.path}${target.suffix}` : href
}

const withoutSpaces = (text: string) => text.replace(/\s+/g, '')
/** Everything goes out as UTF-8, and says so. */
const withoutCharset = (text: string) => text.replace(/(<meta[^<>]*charset\s*=\s*["']?)[\w-]+/gi, '$1utf-8')

/** Whether two texts, their references by what they lead to, are one tree: however tags and values of it are written. */
function isOneTree(a: string, b: string): boolean {
  return treeDigest(parseTree(a)) === treeDigest(parseTree(b))
}

const linesOf = (text: string) => text.trim().split('\n')

/**
 * Where two texts differ, line by line and the white space around each aside.
 * @param shown the two as they are written, line for line what they are compared by
 */
function differing(shown: readonly [string, string], compared: readonly [string, string]): Stretch[] {
  const [a, b] = [linesOf(shown[0]), linesOf(shown[1])]
  const [x, y] = compared.map((text) => linesOf(text).map((line) => line.trim())) as [string[], string[]]
  const parts = diffArrays(x, y, { maxEditLength: mostApart })
  if (!parts) return [{ was: a.slice(0, mostLines), becomes: b.slice(0, mostLines) }]
  const stretches: { was: string[]; becomes: string[] }[] = []
  let [atA, atB, isOpen, left] = [0, 0, false, 2 * mostLines]
  for (const { count, added, removed } of parts) {
    if (!added && !removed) {
      isOpen = false
      atA += count
      atB += count
      continue
    }
    if (!isOpen) stretches.push({ was: [], becomes: [] })
    isOpen = true
    const { was, becomes } = stretches.at(-1)!
    const lines = added ? b.slice(atB, (atB += count)) : a.slice(atA, (atA += count))
    const some = lines.slice(0, Math.max(0, left))
    left -= some.length
    ;(added ? becomes : was).push(...some)
  }
  return stretches.filter(({ was, becomes }) => was.length + becomes.length > 0)
}

/** What is compared; some of its pages at a time, if need be. */
export type ToCompare = Pick<Understood, 'site' | 'pages' | 'madeIn'> & {
  readonly old: Pick<OldNames, 'resolve' | 'names' | 'beside'>
}

/** Whether all pages and files stand where they stood, and nothing beside them. */
function isAllKept({ names: before, beside }: ToCompare['old'], { byPath }: Names): boolean {
  if (beside || byPath.size !== before.byPath.size) return false
  for (const [path, { id }] of byPath) if (before.byPath.get(path)?.id !== id) return false
  return true
}

/** Builds every page that was brought in, and compares it with what it was. */
export function compareBrought(
  { site, pages, old, madeIn }: ToCompare,
  sources: BuildSources,
  onPage?: () => void,
): ComparedPage[] {
  const build = buildSite(site, sources)
  const names = namesOf(site)
  const home = homeFileOf(site)
  const isKept = isAllKept(old, names)
  return pages.map((page): ComparedPage => {
    onPage?.()
    const { path } = names.pages.get(page.id)!
    // Made once, and not each time it is looked at.
    const { text } = page
    const { text: made, trace } = build.traceOf(page.id)
    const told = { id: page.id, path: page.path, stretches: [] }
    // What is the same to the byte, among others that stand where they stood, leads where it led.
    if (isKept && path === page.path && made.trim() === text.trim()) return { ...told, outcome: 'same' }
    const references = referencesIn(made)
    const goalNow = (one: Reference) => goalOf(resolveReference(one.href, path, names, home), one)
    const goalThen = (one: Reference) => {
      const target = old.resolve(one.href, page.path)
      const named = target.kind === 'elsewhere' && !one.ifThere && onHost(one.href, old.names)
      return named || goalOf(target, one)
    }
    const becomes = byGoals(made, references, goalNow)
    const was = byGoals(text, page.references, goalThen)
    if (becomes.trim() === was.trim()) return { ...told, outcome: 'same' }
    if (withoutSpaces(withoutCharset(becomes)) === withoutSpaces(withoutCharset(was)))
      return { ...told, outcome: 'spaces' }
    const generated = trace.flatMap(({ end, origin }, index) =>
      origin.kind === 'generated' ? [{ start: trace[index - 1]?.end ?? 0, end }] : [],
    )
    const rest = byGoals(text, page.references, goalThen, madeIn.get(page.id) ?? [])
    const restNow = byGoals(made, references, goalNow, generated)
    const isOfMenus = withoutSpaces(withoutCharset(rest)) === withoutSpaces(withoutCharset(restNow))
    // Parsed only where all that is quicker found nothing.
    if (!isOfMenus && isOneTree(becomes, was)) return { ...told, outcome: 'spaces' }
    const isMenuTree = !isOfMenus && generated.length > 0 && isOneTree(rest, restNow)
    return {
      ...told,
      outcome: isOfMenus || isMenuTree ? 'menus' : 'otherwise',
      stretches: differing([text, made], [was, becomes]),
    }
  })
}
