import { checkOwnName, ownPathOf } from '#core/naming'
import { homeFileOf } from '#core/template'
import type { Site } from '#core/site'

/** The path of its own with which a page stands where it stood; null where the site cannot have such a page. */
export function pathOfPage(
  was: string,
  { scheme, language }: Pick<Site, 'scheme' | 'language'>,
): string | null {
  if (!was.endsWith(scheme.extension)) return null
  const homeFile = homeFileOf({ scheme })
  const path = `/${was.endsWith(`/${homeFile}`) ? was.slice(0, -homeFile.length) : was.slice(0, -scheme.extension.length)}`
  return checkOwnName(path, scheme, language) === null ? path : null
}

/** The label with which a file stands where it stood; null where the site cannot have such a file. */
export function labelOfFile(was: string): string | null {
  const label = `/${was}`
  return ownPathOf(label) === null ? null : label
}
