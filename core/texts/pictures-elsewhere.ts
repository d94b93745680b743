import { type PlacedReference, readHtml, showsPicture, type TextEdit, writeReference } from '#core/markup'

function shownIn(html: string): PlacedReference[] {
  return readHtml(html).references.filter(
    ({ holder, href }) => showsPicture(holder) && /^https?:\/\//i.test(href) && URL.canParse(href),
  )
}

/**
 * The pictures of a text that stand on other sites, each once, in order.
 * @param own where the site's own pages are seen; '' where nobody knows
 */
export const picturesElsewhere = (html: string, own: string): string[] => [
  ...new Set(
    shownIn(html)
      .map(({ href }) => href)
      .filter((href) => own === '' || !href.startsWith(own)),
  ),
]

/** Shows another picture wherever a text shows that of an address. */
export const showInstead = (html: string, address: string, href: string): TextEdit[] =>
  shownIn(html)
    .filter((reference) => reference.href === address)
    .map((reference) => ({
      start: reference.start,
      end: reference.end,
      text: writeReference(reference, href),
    }))
