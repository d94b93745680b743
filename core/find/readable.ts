import {
  attributesSaid,
  attributePlace,
  attributeValueRange,
  type HtmlElement,
  isElement,
  parseHtml,
  type Range,
  walkHtml,
} from '#core/markup'
import { expression } from '#core/template'

/** Names of `meta` whose content is shown in lists of results. */
const shownMeta = /^(?:description|author|og:(?:title|description|site_name)|twitter:(?:title|description))$/i

/** Names of the attributes of an element whose values visitors read or hear. */
export function attributesThatSay(element: HtmlElement): readonly string[] {
  const has = (name: string) => element.attrs.find((one) => one.name === name)?.value ?? ''
  return element.attrs
    .map(({ name }) => name)
    .filter(
      (name) =>
        attributesSaid.has(name) ||
        (name === 'content' &&
          element.tagName === 'meta' &&
          shownMeta.test(has('name') || has('property'))) ||
        (name === 'value' && element.tagName === 'input' && /^(?:submit|button|reset)$/i.test(has('type'))),
    )
}

/**
 * What may stand at a place of a source: HTML; text alone, whose tags would be read as letters (HTML §13.1.2, escapable raw
 * text); or the value of an attribute, in the quotes it has.
 */
export type Written = 'html' | 'text' | 'double' | 'single' | 'unquoted'

/** A stretch of a source that visitors read or hear. */
export interface Readable extends Range {
  readonly as: Written
}

/** What of a source visitors read or hear, in order: its words, and values of attributes that say something; no tags, addresses or scripts. */
export function readableRanges(html: string): Readable[] {
  const ranges: Readable[] = []
  walkHtml(parseHtml(html, /<!doctype|<html/i.test(html)).root, (node) => {
    if (node.nodeName === '#text') {
      const place = 'sourceCodeLocation' in node ? node.sourceCodeLocation : null
      const holder = ('parentNode' in node ? node.parentNode : null)?.nodeName ?? ''
      if (place && !/^(?:script|style)$/.test(holder))
        ranges.push({
          start: place.startOffset,
          end: place.endOffset,
          as: /^(?:title|textarea)$/.test(holder) ? 'text' : 'html',
        })
    } else if (isElement(node))
      for (const name of attributesThatSay(node)) {
        const place = attributePlace(node, name)
        const value = place && attributeValueRange(html, place)
        if (!value) continue
        const { start, end, quoted } = value
        ranges.push({
          start,
          end,
          as: !quoted ? 'unquoted' : html[start - 1] === "'" ? 'single' : 'double',
        })
      }
  })
  return ranges.sort((a, b) => a.start - b.start)
}

/** Those places that lie within one of some ranges, each with that; both in order. */
export function placesWithin<R extends Range>(
  places: readonly Range[],
  ranges: readonly R[],
): { readonly place: Range; readonly within: R }[] {
  let at = 0
  return places.flatMap((place) => {
    while (at < ranges.length && ranges[at]!.end < place.end) at++
    const within = ranges[at]
    return within && within.start <= place.start ? [{ place, within }] : []
  })
}

/** Those places that touch no expression of the template language: what stands for a title is not its words. */
export function outsideExpressions(text: string, places: readonly Range[]): Range[] {
  const expressions = Array.from(text.matchAll(expression), ({ 0: { length }, index }) => ({
    start: index,
    end: index + length,
  }))
  let at = 0
  return places.filter(({ start, end }) => {
    while (at < expressions.length && expressions[at]!.end <= start) at++
    return at === expressions.length || expressions[at]!.start >= end
  })
}
