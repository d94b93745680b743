import { isStanding, leadsAbove, readOwnAddress, resolveReference } from '#core/links'
import { type Reference, writeReference } from '#core/markup'
import { trialFolder } from '#core/naming'
import { addressFrom, homeFileOf, isShownAnywhere } from './addressing'
import type { SiteContext } from './context'

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
 * written is right already: relative, and naming what the site's links name, a file or a folder.
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
    if (plain.isThere) return addressFrom(context.addressing, path, plain.path, true)
  }
  const href = addressOf(context, reference, path, from)
  return href === null || href === reference.href ? null : writeReference(reference, href)
}

/** Whether a reference names what it leads to as links are to: its file, or with `homeFile` the folder of a home page. */
function isNamed(href: string, to: string, homeFile: string | null): boolean {
  const path = href.split(/[?#]/)[0]!
  const name = to.slice(to.lastIndexOf('/') + 1)
  return name === homeFile ? path.endsWith('/') : path.endsWith(name)
}

function addressOf(context: SiteContext, reference: Reference, path: string, from: string): string | null {
  const { href } = reference
  const target = resolveReference(href, from, context.names, homeFileOf(context.site))
  if (!isStanding(reference, target)) return null
  if (target.kind === 'elsewhere' || target.kind === 'here') return null
  const { addressing } = context
  const to = (wanted: string) => addressFrom(addressing, path, wanted, false)
  // A trial page is never part of what comes out: a link to one is written as it will be right once the
  // page is none, and is a finding until then.
  if (target.path.startsWith(trialFolder) && !path.startsWith(trialFolder))
    return to(target.path.slice(trialFolder.length)) + target.suffix
  // The whole address says where it leads wherever it stands.
  if (!href.startsWith('/') && readOwnAddress(href, context.names.publicAddress)) return null
  // What lies above the site is the host's, and named from where the page stands.
  if (target.kind === 'missing' && leadsAbove(href, from)) return null
  // A relative one that names a file exactly is the author's spelling, and stays.
  const isRooted = href.startsWith('/') || from !== path || isShownAnywhere(addressing, path)
  if (!isRooted && (target.kind === 'missing' || isNamed(href, target.path, addressing?.homeFile ?? null)))
    return null
  return to(target.path) + target.suffix
}
