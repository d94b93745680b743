import { leadsAbove, relativePlain, relativeReference, resolveReference } from '#core/links'
import { type Reference, writeReference } from '#core/markup'
import { trialFolder } from '#core/naming'
import type { Site } from '#core/site'
import type { SiteContext } from './context'

/** The home file's name, which stands for its folder. */
export const homeFileOf = (site: Pick<Site, 'scheme'>): string => site.scheme.homeName + site.scheme.extension

/** Written as it is in every place where a reference can stand: nothing to encode, nothing to escape. */
export const plainPath = /^[\w.-]+(?:\/[\w.-]+)*$/

/** A path from the top as references spell it, and whether something of a site stands there. */
interface PlainPath {
  readonly path: string
  /** The names under which it was looked up last, and what came of it. */
  names: object | null
  isThere: boolean
}

/** A reference with what is known of it before it is known where it stands. */
export interface PlannedReference {
  readonly reference: Reference
  /** Of one that is spelled as a plain path from the top, as nearly all are. */
  readonly plain: PlainPath | null
}

/** References that spell plain paths: pages are linked to from many places, and looked up once for all of them. */
const plainPaths = new Map<string, PlainPath>()
const mostPlainPaths = 50_000

export function planReference(reference: Reference): PlannedReference {
  const { href } = reference
  const known = plainPaths.get(href)
  if (known) return { reference, plain: known }
  const path = href.startsWith('/') ? href.slice(1) : ''
  if (path.startsWith(trialFolder) || !plainPath.test(path)) return { reference, plain: null }
  const plain: PlainPath = { path, names: null, isThere: false }
  if (plainPaths.size >= mostPlainPaths) plainPaths.clear()
  plainPaths.set(href, plain)
  return { reference, plain }
}

/**
 * A reference as it has to stand in the finished file at `path`, escaped for its place, or null when what is
 * written is right already: relative, and naming a file, not a folder, so that it works from a disk too.
 * @param from where it is understood from: `path` for a content, '' for the template
 */
export function outputReference(
  context: SiteContext,
  { reference, plain }: PlannedReference,
  path: string,
  from = path,
): string | null {
  if (plain) {
    if (plain.names !== context.namesToken) {
      plain.names = context.namesToken
      plain.isThere = context.names.byPath.has(plain.path)
    }
    if (plain.isThere) return relativePlain(path, plain.path)
  }
  const href = relativeOf(context, reference, path, from)
  return href === null || href === reference.href ? null : writeReference(reference, href)
}

function relativeOf(context: SiteContext, { href }: Reference, path: string, from: string): string | null {
  const target = resolveReference(href, from, context.names, homeFileOf(context.site))
  if (target.kind === 'elsewhere' || target.kind === 'here') return null
  // A trial page is never part of what comes out: a link to one is written as it will be right once the
  // page is none, and is a finding until then.
  if (target.path.startsWith(trialFolder) && !path.startsWith(trialFolder))
    return relativeReference(path, target.path.slice(trialFolder.length)) + target.suffix
  // What lies above the site is the host's, and named from where the page stands.
  if (target.kind === 'missing' && leadsAbove(href, from)) return null
  // A relative one that names a file exactly is the author's spelling, and stays.
  const rooted = href.startsWith('/') || from !== path
  if (
    !rooted &&
    (target.kind === 'missing' || href.split(/[?#]/)[0]!.endsWith(target.path.split('/').pop()!))
  )
    return null
  return relativeReference(path, target.path) + target.suffix
}
