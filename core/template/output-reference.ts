import { relativePlain, relativeReference, resolveReference } from '#core/links'
import { type Reference, writeReference } from '#core/markup'
import { trialFolder } from '#core/naming'
import type { Site } from '#core/site'
import type { SiteContext } from './context'

/** The home file's name, which stands for its folder. */
export const homeFileOf = (site: Pick<Site, 'scheme'>): string => site.scheme.homeName + site.scheme.extension

const slash = 47

/** Written as it is in every place where a reference can stand: nothing to encode, nothing to escape. */
const plainPath = /^[\w.-]+(?:\/[\w.-]+)*$/

/** The plain path that a reference from the top names as it is spelled; null for any other, and for trial pages. */
function plainTarget({ names, plain }: SiteContext, href: string): string | null {
  if (href.charCodeAt(0) !== slash) return null
  let path = plain.get(href)
  if (path === undefined) {
    const named = href.slice(1)
    const isPlain = names.byPath.has(named) && !named.startsWith(trialFolder) && plainPath.test(named)
    plain.set(href, (path = isPlain ? named : null))
  }
  return path
}

/**
 * A reference as it has to stand in the finished file at `path`, escaped for its place, or null when what is
 * written is right already: relative, and naming a file, not a folder, so that it works from a disk too.
 * @param from where it is understood from: `path` for a content, '' for the template
 */
export function outputReference(
  context: SiteContext,
  reference: Reference,
  path: string,
  from = path,
): string | null {
  // Nearly every one; what it names is looked up once for all pages.
  const plain = plainTarget(context, reference.href)
  if (plain !== null) return relativePlain(path, plain)
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
  // A relative one that names a file exactly is the author's spelling, and stays.
  const rooted = href.startsWith('/') || from !== path
  if (
    !rooted &&
    (target.kind === 'missing' || href.split(/[?#]/)[0]!.endsWith(target.path.split('/').pop()!))
  )
    return null
  return relativeReference(path, target.path) + target.suffix
}
