import {
  attributePlace,
  attributeValueRange,
  type HtmlElement,
  isElement,
  parseHtml,
  type Range,
  walkHtml,
} from '#core/markup'

/** Attributes whose values visitors read or hear (HTML §3.2.6.1, §4.8.4.4, §4.10.5; WAI-ARIA §6). */
const saidIn = new Set(['alt', 'title', 'placeholder', 'label', 'summary', 'aria-label', 'aria-description'])
/** Names of `meta` whose content is shown in lists of results. */
const shownMeta = /^(?:description|author|og:(?:title|description|site_name)|twitter:(?:title|description))$/i

function attributesSaid(element: HtmlElement): readonly string[] {
  const has = (name: string) => element.attrs.find((one) => one.name === name)?.value ?? ''
  return element.attrs
    .map(({ name }) => name)
    .filter(
      (name) =>
        saidIn.has(name) ||
        (name === 'content' &&
          element.tagName === 'meta' &&
          shownMeta.test(has('name') || has('property'))) ||
        (name === 'value' && element.tagName === 'input' && /^(?:submit|button|reset)$/i.test(has('type'))),
    )
}

/** What of a source visitors read or hear, in order: its words, and values of attributes that say something; no tags, addresses or scripts. */
export function readableRanges(html: string): Range[] {
  const ranges: Range[] = []
  walkHtml(parseHtml(html, /<!doctype|<html/i.test(html)).root, (node) => {
    if (node.nodeName === '#text') {
      const place = 'sourceCodeLocation' in node ? node.sourceCodeLocation : null
      const holder = 'parentNode' in node ? node.parentNode : null
      if (place && !(holder && /^(?:script|style)$/.test(holder.nodeName)))
        ranges.push({ start: place.startOffset, end: place.endOffset })
    } else if (isElement(node))
      for (const name of attributesSaid(node)) {
        const place = attributePlace(node, name)
        const value = place && attributeValueRange(html, place)
        if (value) ranges.push({ start: value.start, end: value.end })
      }
  })
  return ranges.sort((a, b) => a.start - b.start)
}

/** Those places that lie within one of some ranges; both in order. */
export function placesWithin(places: readonly Range[], ranges: readonly Range[]): Range[] {
  let at = 0
  return places.filter(({ start, end }) => {
    while (at < ranges.length && ranges[at]!.end < end) at++
    return at < ranges.length && ranges[at]!.start <= start
  })
}
