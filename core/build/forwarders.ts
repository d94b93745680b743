import { escapeAttribute, escapeText } from '#core/markup'
import { clashKey, namesOf } from '#core/naming'
import { languagesOf, realPlaces, treeOf } from '#core/plan'
import type { Page, Site } from '#core/site'
import { addressFrom, addressingOf } from '#core/template'

/** A page that is left at an old address and leads to where its page stands now. */
export interface Forwarder {
  /** The old address, from the top of the site. */
  readonly path: string
  readonly page: Page
  /** Where the page stands now. There are no chains: every forwarder leads straight there. */
  readonly to: string
}

/**
 * The forwarders of a site: one at each address under which a page has been delivered and where
 * nothing stands now. A page or file that takes an old address back takes the forwarder's place;
 * of two pages that have both been at one address the older has it.
 */
export function forwardersOf(site: Site): Forwarder[] {
  if (!site.pages.some((page) => page.addresses.length > 0)) return []
  const names = namesOf(site)
  // Told apart as the strictest host does: a forwarder at `Visit.html` would hide the page `visit.html`.
  const taken = new Set([...names.byPath.keys()].map(clashKey))
  return realPlaces(treeOf(site))
    .map(({ page }) => page)
    .filter((page) => page.addresses.length > 0)
    .sort((a, b) => a.seq - b.seq)
    .flatMap((page) => {
      const to = names.pages.get(page.id)!.path
      return page.addresses.flatMap((path) => {
        const key = clashKey(path)
        if (taken.has(key)) return []
        taken.add(key)
        return [{ path, page, to }]
      })
    })
}

/** A forwarder's HTML: plain and static, so that every host can serve it (HTML §4.2.5.3, RFC 6596). */
export function forwarderText(site: Site, { path, page, to }: Forwarder): string {
  const href = escapeAttribute(addressFrom(addressingOf(site, null), path, to, false))
  const label = escapeText(page.label)
  return `<!DOCTYPE html>
<html lang="${escapeAttribute(languagesOf(site).of(page))}">
  <head>
    <meta charset="utf-8">
    <title>${label}</title>
    <meta http-equiv="refresh" content="0; url=${href}">
    <link rel="canonical" href="${href}">
  </head>
  <body>
    <p><a href="${href}">${label}</a></p>
  </body>
</html>
`
}
