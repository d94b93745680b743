/** Places of a page that stand in another page from now on. */
export interface MovedPlaces {
  readonly from: string
  readonly to: string
  /** Their ids and anchors' names, which they keep. */
  readonly ids: readonly string[]
  /** Where a link to the page itself leads now: an id in the other page. Left out while the page stays. */
  readonly top?: string
}

/** Where a reference to a place leads after places have moved: a page, and the query and fragment. */
export interface NewPlace {
  readonly pageId: string
  readonly suffix: string
}

function fragmentOf(suffix: string): string | null {
  const at = suffix.indexOf('#')
  if (at < 0 || at + 1 === suffix.length) return null
  const raw = suffix.slice(at + 1)
  try {
    return decodeURIComponent(raw)
  } catch {
    return raw
  }
}

/** Finds where what stood in a page is now; null where it is where it was. */
export function placesAfter(
  moved: readonly MovedPlaces[],
): (pageId: string, suffix: string) => NewPlace | null {
  const pages = new Map<string, { ids: Map<string, string>; top: NewPlace | null }>()
  for (const { from, to, ids, top } of moved) {
    const page = pages.get(from) ?? { ids: new Map<string, string>(), top: null }
    for (const id of ids) page.ids.set(id, to)
    if (top !== undefined) page.top = { pageId: to, suffix: `#${encodeURIComponent(top)}` }
    pages.set(from, page)
  }
  return (pageId, suffix) => {
    const page = pages.get(pageId)
    if (!page) return null
    const fragment = fragmentOf(suffix)
    const to = fragment === null ? undefined : page.ids.get(fragment)
    return to === undefined ? page.top : { pageId: to, suffix }
  }
}
