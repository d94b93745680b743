import type { Names } from '#core/naming'
import { resolveReference } from './resolve'

/** Signs that paths are written in, as long as they stand together; and how one to a file ends. */
const run = /[\w.~%@/-]+/g
const ending = /\.[a-z][a-z0-9]{1,11}$/i
const longestPath = 500
/** Paths of one text that are looked up. */
const mostPaths = 20_000

/**
 * Files of a site that a text names which has references of no known kind: a script, a manifest, data. A path may be meant
 * from where the text stands, as modules and manifests mean it, or from the top; what leads to no file is no path.
 * @param from the path of the text
 * @returns how often each is named, by its id
 */
export function filesNamedIn(text: string, from: string, names: Names): Map<string, number> {
  const counts = new Map<string, number>()
  const known = new Map<string, string | null>()
  for (const [path] of text.matchAll(run)) {
    if (path.length > longestPath || !ending.test(path.slice(-13))) continue
    let id = known.get(path)
    if (id === undefined) {
      if (known.size >= mostPaths) break
      const fileAt = (href: string) => {
        const target = resolveReference(href, from, names, '')
        return target.kind === 'file' ? target.id : null
      }
      id = fileAt(path) ?? fileAt(`/${path.replace(/^(\.{0,2}\/)+/, '')}`)
      known.set(path, id)
    }
    if (id !== null) counts.set(id, (counts.get(id) ?? 0) + 1)
  }
  return counts
}

/**
 * Whether something asks for a file by its name, though no page does: hosts, browsers and search engines (RFC 8615, RFC 9309),
 * each at the top of a site.
 */
export const isAskedForByName = (path: string): boolean =>
  /^(robots\.txt|sitemap[\w-]*\.xml(\.gz)?|favicon\.ico|apple-touch-icon[\w-]*\.png|(ads|app-ads|humans|llms|security)\.txt|browserconfig\.xml|cname)$/i.test(
    path,
  ) || path.split('/').some((name) => name.startsWith('.'))
