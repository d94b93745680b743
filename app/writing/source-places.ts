import { elementAtLine, type ElementPlace, type LineOrigin, lineOfElement } from '#core/build'

/** Where a place of a page was written. Fetched apart: it brings the parser. */
export async function sourceOfPlace(
  siteId: string,
  pageId: string,
  place: ElementPlace,
): Promise<LineOrigin | null> {
  const html = await resultOf(siteId, pageId)
  const line = html === null ? null : lineOfElement(html, place)
  if (line === null) return null
  return sourceOfLine(siteId, pageId, line)
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
