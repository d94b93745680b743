import type { Names } from '#core/naming'
import { encodePath } from '#core/markup'
import { readOwnAddress } from './own-address'

/** What a reference leads to. One with the site's own address written out leads into the site as one from its top does. */
export type Target =
  /** A page or file of this site; `suffix` is the query and fragment as written. */
  | { readonly kind: 'page' | 'file'; readonly id: string; readonly path: string; readonly suffix: string }
  /** A place in the page itself, or the page itself (empty reference). */
  | { readonly kind: 'here'; readonly suffix: string }
  /** Another site, mail, a data URL: left alone. */
  | { readonly kind: 'elsewhere' }
  /** Inside the site, but nothing stands at that path. */
  | { readonly kind: 'missing'; readonly path: string; readonly suffix: string }

const scheme = /^[a-z][a-z0-9+.-]*:/i

/** Splits a reference into its path and the rest from `?` or `#` on (RFC 3986 §3). */
export function splitReference(href: string): { path: string; suffix: string } {
  const cut = href.search(/[?#]/)
  return cut < 0 ? { path: href, suffix: '' } : { path: href.slice(0, cut), suffix: href.slice(cut) }
}

/** Percent-decodes a path; null when what it decodes to is no text in UTF-8. */
function decodePath(path: string): string | null {
  if (!path.includes('%')) return path
  try {
    return decodeURIComponent(path)
  } catch {
    return null
  }
}

const latin = new TextDecoder('windows-1252')

/** Percent-decodes a path that was written for a host whose names are in the letters of an old system (windows-1252). */
function decodeOldPath(path: string): string {
  return path.replace(/(?:%[0-9a-f]{2})+/gi, (run) =>
    latin.decode(Uint8Array.from(run.slice(1).split('%'), (byte) => Number.parseInt(byte, 16))),
  )
}

/**
 * What a file is called from now on whose name at its host is in the letters of an old system, and comes percent-encoded for
 * that; any other path is as it was.
 */
export const fromOldHost = (path: string): string =>
  path
    .split('/')
    .map((step) => (decodePath(step) === null ? decodeOldPath(step) : step))
    .join('/')

/**
 * Takes `.` and `..` out of a path (RFC 3986 §5.2.4) and returns it from the top of the site.
 * Steps above the top stay at the top, as browsers do.
 */
export function mergePath(folder: string, path: string): string {
  const segments = path.startsWith('/') ? [] : folder.split('/').slice(0, -1)
  const steps = path.replace(/^\/+/, '').split('/')
  steps.forEach((step, index) => {
    const last = index === steps.length - 1
    if (step === '..') {
      segments.pop()
      if (last) segments.push('')
    } else if (step === '.' || (step === '' && !last)) {
      if (last) segments.push('')
    } else segments.push(step)
  })
  return segments.join('/')
}

/**
 * Whether a relative reference steps above the top of the site. A host whose site begins in a folder has something
 * there; one that is the site's alone has its top.
 * @param from path of the page or style sheet that holds it
 */
export function leadsAbove(href: string, from: string): boolean {
  const { path } = splitReference(href)
  if (!path.includes('..') || path.startsWith('/')) return false
  let depth = from.split('/').length - 1
  for (const step of path.split('/')) {
    if (step === '..') depth -= 1
    else if (step !== '.' && step !== '') depth += 1
    if (depth < 0) return true
  }
  return false
}

/** What stands at a path; a folder stands for its home file. */
function standingAt(merged: string, names: Names, homeFile: string) {
  const wanted = merged === '' || merged.endsWith('/') ? merged + homeFile : merged
  return names.byPath.get(wanted) ?? names.byPath.get(`${wanted}/${homeFile}`)
}

/**
 * Resolves a reference as a host does: from the folder it stands in, a folder standing for its
 * home file, case told apart. One that leads nowhere so is taken for one in another form of its letters: composed where it
 * is written decomposed (Unicode Normalization Form C), in UTF-8 where it is written for an old host. What comes out is
 * written anew.
 * @param from path of the page or style sheet that holds it; '' for the template, which stands at the top
 * @param homeFile name of the file that stands for a folder, such as `index.html`
 */
export function resolveReference(href: string, from: string, names: Names, homeFile: string): Target {
  // Nearly every reference is a path from the top, spelled as its page or file is.
  const plain = href.charCodeAt(0) === slash ? names.byPath.get(href.slice(1)) : undefined
  if (plain) return { kind: plain.kind, id: plain.id, path: href.slice(1), suffix: '' }
  // Of addresses that lead to hosts a backslash is a slash (URL §4.4, “path state” and “relative slash state”).
  if (href.includes('\\')) {
    const { path, suffix } = splitReference(href)
    if (path.includes('\\') && !scheme.test(path))
      return resolveReference(path.replaceAll('\\', '/') + suffix, from, names, homeFile)
  }
  if (scheme.test(href) || href.startsWith('//')) {
    const own = readOwnAddress(href, names.publicAddress)
    return own ? resolveReference(own.href, '', names, homeFile) : { kind: 'elsewhere' }
  }
  const { path, suffix } = splitReference(href)
  if (path === '') return { kind: 'here', suffix }
  const decoded = decodePath(path)
  const folder = from.slice(0, from.lastIndexOf('/') + 1)
  const merged = mergePath(folder, decoded ?? path)
  const hit =
    standingAt(merged, names, homeFile) ??
    standingAt(mergePath(folder, decoded ?? decodeOldPath(path)).normalize('NFC'), names, homeFile)
  if (!hit) return { kind: 'missing', path: merged, suffix }
  const at = hit.kind === 'page' ? names.pages.get(hit.id)!.path : names.files.get(hit.id)!
  return { kind: hit.kind, id: hit.id, path: at, suffix }
}

/** The shortest relative reference from one path of the site to another (RFC 3986 §4.2). */
export function relativeReference(from: string, to: string): string {
  const shared = sharedFolder(from, to)
  const reference = stepsUp(from, shared) + encodePath(to.slice(shared))
  // "./" where the first segment would read as a scheme, or where nothing is left.
  if (reference === '') return './'
  return scheme.test(reference) || reference.startsWith('/') ? `./${reference}` : reference
}

/** The same to a file whose path has letters, digits, and `_ . -` only; pages ask this a dozen times each. */
export function relativePlain(from: string, to: string): string {
  const shared = sharedFolder(from, to)
  return stepsUp(from, shared) + to.slice(shared)
}

/**
 * A reference to a path that is written as another one is: with the site's whole address, from its top, or from where it stands.
 * @param from path of what holds it; '' for a template
 */
export function referenceLike(
  href: string,
  from: string,
  to: string,
  { publicAddress }: Pick<Names, 'publicAddress'>,
) {
  const own = readOwnAddress(href, publicAddress)
  return own || from === '' || href.startsWith('/')
    ? `${own?.base ?? ''}/${encodePath(to)}`
    : relativeReference(from, to)
}

/** How much two paths share, to the last slash. */
function sharedFolder(from: string, to: string): number {
  let shared = 0
  for (let at = 0; at < from.length && from.charCodeAt(at) === to.charCodeAt(at); at++)
    if (from.charCodeAt(at) === slash) shared = at + 1
  return shared
}

function stepsUp(from: string, shared: number): string {
  let ups = ''
  for (let at = from.indexOf('/', shared); at >= 0; at = from.indexOf('/', at + 1)) ups += '../'
  return ups
}

const slash = 47
