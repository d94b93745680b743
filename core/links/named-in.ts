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

/** Files that are asked for at the top of a site: by search engines, browsers, hosts; a service worker serves what is below it. */
const atTop =
  /^(robots\.txt|sitemap[\w-]*\.xml(\.gz)?|favicon\.ico|apple-touch-icon[\w-]*\.png|(ads|app-ads|humans|llms|security)\.txt|browserconfig\.xml|cname|_(headers|redirects)|(sw|service-?worker)\.js)$/i

/**
 * Whether something asks for a file by its name, though no page does: hosts, browsers and search engines (RFC 8615, RFC 9309),
 * each at the top of a site.
 */
export const isAskedForByName = (path: string): boolean =>
  atTop.test(path) || path.split('/').some((name) => name.startsWith('.'))

/** Whether others may have written down where a file is, and take it for gone where it is elsewhere: a feed that is read. */
export const isSubscribedTo = (path: string): boolean =>
  /(^|\/)(feed|rss|atom)\.(xml|json)$|\.(rss|atom)$/i.test(path)

/** Letters of a file that proves whose a site is. */
const longestProof = 1_000

/** The long number that a small file is called by; null for any other name. */
function proofNumber(name: string): string | null {
  const number = /([a-z0-9]{8,})\.(?:html?|txt|xml)$/i.exec(name)?.[1]
  return number !== undefined && /\d/.test(number) ? number : null
}

/**
 * Whether a small text says the long number that it is called by: services ask for such a file, by its name at the top of a
 * site, to see who its owner is.
 */
export function isProofOfOwner(name: string, text: string): boolean {
  const number = proofNumber(name)
  return number !== null && text.length <= longestProof && text.includes(number)
}

/** Whether a file may be one by its name and its size, where it stands: what it says is not looked at. */
export const mayBeProofOfOwner = (path: string, sizeBytes: number): boolean =>
  sizeBytes <= longestProof && !path.includes('/') && proofNumber(path) !== null
