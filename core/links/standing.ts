import { encodePath, type Reference } from '#core/markup'
import type { Names } from '#core/naming'
import { resolveReference, type Target } from './resolve'

/** Whether something stands where it leads, so that a text which reads like a path is a reference. */
export const isStanding = (reference: Pick<Reference, 'ifThere'>, { kind }: Target): boolean =>
  !reference.ifThere || kind === 'page' || kind === 'file'

/** The references of a text without those that are mere words, since nothing stands there. */
export function standingReferences<T extends Reference>(
  references: readonly T[],
  from: string,
  names: Names,
  homeFile: string,
): readonly T[] {
  if (!references.some(({ ifThere }) => ifThere)) return references
  return references.filter(
    (one) => !one.ifThere || isStanding(one, resolveReference(one.href, from, names, homeFile)),
  )
}

/** Steps that lead from a page to the top of its site, or as far as its author took it for that. */
const steps = /^(?:\.{0,2}\/)+/

/** A path without the steps up that it begins with. */
export const withoutSteps = (href: string): string => href.replace(steps, '')

/**
 * What a path leads to that is written in a file of its own and understood from the page that runs it, wherever that stands:
 * its steps up are the page's, and what follows them is a path from the top. Where nothing stands there, it is understood
 * from the file it is written in.
 */
function resolveFromPage(href: string, from: string, names: Names, homeFile: string): Target {
  const fromTop = resolveReference(`/${withoutSteps(href)}`, '', names, homeFile)
  return fromTop.kind === 'missing' ? resolveReference(href, from, names, homeFile) : fromTop
}

/** What a reference of a page, a template or a file leads to, as that kind of reference is understood. */
export const targetOf = (
  { href, fromPage }: Pick<Reference, 'href' | 'fromPage'>,
  from: string,
  names: Names,
  homeFile: string,
): Target => (fromPage ? resolveFromPage : resolveReference)(href, from, names, homeFile)

/** How it has to be written to lead to another path from the top; null where it was understood from its file. */
export function writtenFromPage(href: string, was: string, path: string, suffix: string): string | null {
  const [lead = ''] = steps.exec(href) ?? []
  const bare = href.slice(lead.length, href.length - suffix.length)
  return decodes(bare, was) ? lead + encodePath(path) + suffix : null
}

/** Whether a path as it is written names another, percent-encoded or not. */
function decodes(written: string, path: string): boolean {
  if (written === path) return true
  try {
    return decodeURIComponent(written) === path
  } catch {
    return false
  }
}
