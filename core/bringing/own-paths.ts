import { checkOwnName, ownPathOf, readOwnPath } from '#core/naming'
import { homeFileOf } from '#core/template'
import type { Site } from '#core/site'

/** The path of its own with which a page stands where it stood; null where the site cannot have such a page. */
export function pathOfPage(
  was: string,
  { scheme, language }: Pick<Site, 'scheme' | 'language'>,
): string | null {
  const homeFile = homeFileOf({ scheme })
  const isHome = was.endsWith(`/${homeFile}`)
  const own = isHome ? homeFile : was.endsWith(scheme.extension) ? scheme.extension : null
  // One with another ending says it.
  if (own === null && readOwnPath(`/${was}`).extension === null) return null
  const path = `/${was.slice(0, was.length - (own?.length ?? 0))}`
  return checkOwnName(path, scheme, language) === null ? path : null
}

/** The label with which a file stands where it stood; null where the site cannot have such a file. */
export function labelOfFile(was: string): string | null {
  const label = `/${was}`
  return ownPathOf(label) === null ? null : label
}
