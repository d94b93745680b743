import {
  elementAtLine,
  type ElementPlace,
  findQuoted,
  type LineOrigin,
  lineOfElement,
  type QuotedElement,
} from '#core/build'

/** Where a place of a page stands now and was written. Fetched apart: it brings the parser. */
export async function sourceOfPlace(
  siteId: string,
  pageId: string,
  place: QuotedElement,
): Promise<{ readonly place: ElementPlace; readonly origin: LineOrigin | null } | null> {
  const html = await resultOf(siteId, pageId)
  if (html === null) return null
  const now = findQuoted(html, place)
  const line = lineOfElement(html, now)
  return { place: now, origin: line === null ? null : await sourceOfLine(siteId, pageId, line) }
}

/** Where a line of a page as it comes out was written. */
export async function sourceOfLine(siteId: string, pageId: string, line: number): Promise<LineOrigin | null> {
  const response = await fetch(`/sites/${siteId}/results/${pageId}?line=${line}`)
  if (!response.ok) return null
  const { origins } = (await response.json()) as { origins: LineOrigin[] }
  return origins[0] ?? null
}

/** The element of the page that a line of a slot became; null where it is not shown. */
export async function placeOfLine(
  siteId: string,
  pageId: string,
  slot: string,
  line: number,
): Promise<ElementPlace | null> {
  const [html, response] = await Promise.all([
    resultOf(siteId, pageId),
    fetch(`/sites/${siteId}/results/${pageId}?${new URLSearchParams({ slot })}`),
  ])
  if (html === null || !response.ok) return null
  const { offset } = (await response.json()) as { offset: number | null }
  return offset === null ? null : elementAtLine(html, line + offset)
}

async function resultOf(siteId: string, pageId: string): Promise<string | null> {
  const response = await fetch(`/sites/${siteId}/results/${pageId}`)
  return response.ok ? response.text() : null
}
