import { mergePath, splitReference } from './resolve'

/** What a `base` element makes the relative references of its document start from (HTML §4.2.3). */
export type Base =
  /** A place in the site, from its top, such as `old/` or `old/page.html`. */
  | { readonly kind: 'site'; readonly path: string }
  /** An address of its own. */
  | { readonly kind: 'elsewhere'; readonly address: URL }

const absolute = /^(?:[a-z][a-z0-9+.-]*:|\/\/)/i

/** Whether a base says the same wherever its document stands; one like `../` does not. */
export const isFixedBase = (href: string): boolean => href.startsWith('/') || absolute.test(href)

/**
 * Reads the address of a `base` element.
 * @param from path of the document that it stands in
 * @returns null where browsers take no notice of it: it is no address, or a `data:` or `javascript:` one
 */
export function baseOf(href: string, from: string): Base | null {
  if (!absolute.test(href)) {
    const { path } = splitReference(href)
    // With nothing before `?` or `#` it is the document itself.
    return {
      kind: 'site',
      path: path === '' ? from : mergePath(from.slice(0, from.lastIndexOf('/') + 1), path),
    }
  }
  const written = href.startsWith('//') ? `https:${href}` : href
  if (!URL.canParse(written)) return null
  const address = new URL(written)
  return /^https?:$/.test(address.protocol) ? { kind: 'elsewhere', address } : null
}

/**
 * What a reference has to be without the base address, to lead where it leads with it: from the top of the site,
 * or with its whole address (RFC 3986 §5.2.2).
 * @returns null where the base makes no difference to it
 */
export function rebase(href: string, base: Base): string | null {
  if (absolute.test(href)) return null
  if (base.kind === 'elsewhere') {
    return URL.canParse(href, base.address) ? new URL(href, base.address).href : null
  }
  if (href.startsWith('/')) return null
  const { path, suffix } = splitReference(href)
  if (path === '') return `/${base.path}${suffix}`
  return `/${mergePath(base.path.slice(0, base.path.lastIndexOf('/') + 1), path)}${suffix}`
}
