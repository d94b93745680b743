import { resolveReference } from '#core/links'
import { type HtmlFacts, placesIn, readHtml } from '#core/markup'
import { type Page, textsOfPage } from '#core/site'
import { type Found, type FindingContext, inPage, type Rule } from '../../rule'
import { type PagePlaces, waysToPlace } from './ways-to-place'

/** Places of pages: those of their texts, and those of the template they are made with. */
function placesOf({ factsOf, templates }: FindingContext): PagePlaces {
  const ofTemplate = new Map<string, ReadonlySet<string>>()
  const ofPage = new Map<string, ReadonlySet<string>>()
  const inTemplateOf = (page: Page): ReadonlySet<string> => {
    if (!templates) return new Set()
    const id = templates.idOf(page)
    let ids = ofTemplate.get(id)
    if (!ids)
      ofTemplate.set(id, (ids = new Set(placesIn(readHtml(templates.composed(id)?.text ?? '', true)))))
    return ids
  }
  const inTextsOf = (page: Page): ReadonlySet<string> => {
    let ids = ofPage.get(page.id)
    if (!ids)
      ofPage.set(page.id, (ids = new Set(textsOfPage(page).flatMap(({ hash }) => placesIn(factsOf(hash))))))
    return ids
  }
  return { inTextsOf, has: (page, place) => inTextsOf(page).has(place) || inTemplateOf(page).has(place) }
}

/** Those of some references that name a place; they are asked for each time, and are few. */
function leadingToPlaces(references: HtmlFacts['references']): HtmlFacts['references'] {
  let few = ofPlaces.get(references)
  if (!few) ofPlaces.set(references, (few = references.filter(({ href }) => href.includes('#'))))
  return few
}
const ofPlaces = new WeakMap<HtmlFacts['references'], HtmlFacts['references']>()

/** What stands behind `#`, as an id; null for the top of the page, and what names no element (HTML §7.4.6.4). */
function placeIn(suffix: string): string | null {
  const fragment = /#(.*)$/.exec(suffix)?.[1] ?? ''
  if (fragment === '' || fragment.toLowerCase() === 'top' || fragment.startsWith(':~:')) return null
  try {
    return decodeURIComponent(fragment)
  } catch {
    return fragment
  }
}

/** A link to a place that its page does not have. */
export const missingPlace: Rule = {
  id: 'missing-place',
  grade: 'hinders',
  title: 'Links to places that are not there',
  why: 'A visitor comes to the top of the page, and looks for what was promised.',
  reads: 'site',
  find(context) {
    const { pages, tree, names, homeFile, factsOf } = context
    const places = placesOf(context)
    const ways = waysToPlace(context, places)
    const found: Found[] = []
    for (const page of pages)
      for (const { slot, hash } of textsOfPage(page))
        for (const reference of leadingToPlaces(factsOf(hash).references)) {
          const target = resolveReference(reference.href, names.pages.get(page.id)!.path, names, homeFile)
          const to =
            target.kind === 'here' ? page : target.kind === 'page' ? tree.byId.get(target.id) : undefined
          const place = to && 'suffix' in target ? placeIn(target.suffix) : null
          if (!to || place === null || places.has(to, place)) continue
          found.push({
            mark: `${slot} ${reference.href}`,
            place: { ...inPage(page, reference), ...(slot !== 'content' && { slot }) },
            what: `${reference.href} leads to a place “${place}”, which ${to === page ? 'this page' : `“${to.label}”`} does not have.`,
            mends: ways({ page, hash, reference, to, place }),
          })
        }
    return found
  },
}
