import { realPlaces } from '#core/plan'
import type { Page } from '#core/site'
import { mostParts } from './compile'
import type { CompiledTemplate } from './compiled'
import type { SiteContext } from './context'
import { entriesOf, fixedOf, sharedKey } from './generated'
import type { Entry } from './parts'

type Placed = CompiledTemplate['generated'][number]

/** Bytes that the generated parts of one page, and of all pages together, may take. */
export const mostPageBytes = 5_000_000
export const mostSiteBytes = 2_000_000_000

/** Bytes that a date in front of a link takes, about. */
const roomForDate = 70

/** What of a template multiplies. */
type Multiplied = Pick<CompiledTemplate, 'generated' | 'perLanguage'>

const inMegabytes = (bytes: number) => `${Math.round(bytes / 1_000_000).toLocaleString('en')} MB`

/**
 * Why a template multiplies to more than can be made and sent, told before anything is made; null where
 * it does not. A menu of all pages on all pages grows with the square of the site.
 */
export function weightRefusal(context: SiteContext, templateOf: (page: Page) => Multiplied): string | null {
  const pages = realPlaces(context.tree)
  // Most sites are so small that nothing on their pages has to be counted.
  const most = mostOf(context)
  let bound = 0
  for (const { page } of pages) bound += most(templateOf(page))
  if (bound <= mostSiteBytes) return null
  let total = 0
  for (const { page } of pages) {
    const template = templateOf(page)
    const { generated } = template
    if (generated.length > mostParts)
      return `The template has ${generated.length} generated parts; at most ${mostParts} are made.`
    const bytes = generatedWeight(context, template, page)
    if (bytes > mostPageBytes)
      return `The menus and lists on “${page.label}” alone would take ${inMegabytes(bytes)}; a page may take ${inMegabytes(mostPageBytes)}. Let the template’s menus show fewer levels.`
    total += bytes
  }
  return total > mostSiteBytes
    ? `The menus and lists of all pages together would take ${inMegabytes(total)}; a site may take ${inMegabytes(mostSiteBytes)}. Let the template’s menus show fewer levels.`
    : null
}

/**
 * Bytes that the parts of a page would take, were each of them to list every page; no bound where one page can be too large
 * so, or has too many of them.
 */
function mostOf(context: SiteContext): (template: Multiplied) => number {
  let links = 0
  const beside = linkOverhead(context)
  let descriptions = 0
  for (const { page } of context.tree.places) {
    links += page.label.length + beside
    descriptions += saidLength(page)
  }
  for (const { path } of context.names.pages.values()) links += path.length
  const languages = context.translations.languages.length
  const told = new Map<CompiledTemplate['generated'], number>()
  return ({ generated, perLanguage }) => {
    let most = told.get(generated)
    if (most === undefined) {
      const describing = generated.filter(describesPages).reduce((sum, one) => sum + timesSaid(one), 0)
      const times = generated.reduce((sum, one) => sum + timesSaid(one), 0)
      const look = generated.reduce((sum, one) => sum + lookOverhead(one), 0) * context.tree.places.length
      const all = links * times + look + descriptions * describing + perLanguage * languages
      most = generated.length <= mostParts && all <= mostPageBytes ? all : Infinity
      told.set(generated, most)
    }
    return most
  }
}

/** Whether no page of a template can be too large. */
export function weightBound(context: SiteContext): (template: Multiplied) => boolean {
  const most = mostOf(context)
  return (template) => most(template) < Infinity
}

/** Bytes a link of a menu takes beside its label and its address, about. */
const linkOverhead = ({ languages }: SiteContext): number => (languages.all.length > 1 ? 80 : 48)

/** Letters of what a page says of itself. */
const saidLength = ({ title, description }: Page): number => (title?.length ?? 0) + (description?.length ?? 0)

/** How often what an entry says may stand in a part. */
const timesSaid = ({ pattern }: Placed): number =>
  pattern ? Math.max(1, pattern.source.split('{').length - 1) : 1

/** Whether what pages say of themselves may stand in a part. */
const describesPages = (placed: Placed): boolean => fixedOf(placed).describes

/** Bytes that each link of a part takes besides, by how that looks. */
const lookOverhead = (placed: Placed): number => {
  const { dates, look } = fixedOf(placed)
  const room = dates ? roomForDate * timesSaid(placed) : 0
  if (placed.pattern) return room + placed.pattern.source.length
  const { between, linkAttributes, aboveAttributes, itemAttributes, aboveItemAttributes } = look
  return (
    room +
    (between?.length ?? 0) +
    Math.max(linkAttributes.length, aboveAttributes.length) +
    Math.max(itemAttributes.length, aboveItemAttributes.length)
  )
}

/**
 * About how many bytes the generated parts of one page take, and what is said of its languages: entries counted, nothing written. For
 * telling a template that multiplies without bound before it does.
 */
export function generatedWeight(
  context: SiteContext,
  { generated: placed, perLanguage }: Multiplied,
  page: Page,
): number {
  let known = context.pageWeights.get(placed)
  if (!known) context.pageWeights.set(placed, (known = new Map<string, number>()))
  let weight = known.get(page.id)
  if (weight === undefined)
    known.set(page.id, (weight = weighParts(context, { generated: placed, perLanguage }, page)))
  return weight
}

function weighParts(
  context: SiteContext,
  { generated: placed, perLanguage }: Multiplied,
  page: Page,
): number {
  const weigh = (entries: readonly Entry[], describes: boolean, look: number, times: number): number => {
    let bytes = 0
    const beside = linkOverhead(context) + look
    for (const { page: one, below } of entries) {
      const said = one.label.length + context.names.pages.get(one.id)!.path.length
      bytes += beside + times * (said + (describes ? saidLength(one) : 0))
      bytes += weigh(below, describes, look, times)
    }
    return bytes
  }
  let bytes = perLanguage > 0 ? perLanguage * context.translations.of(page).length : 0
  for (const one of placed) {
    const { describes } = fixedOf(one)
    const key = sharedKey(context, one, page)
    const known = key === null ? undefined : context.weights.get(key)
    const weight = known ?? weigh(entriesOf(context, one, page), describes, lookOverhead(one), timesSaid(one))
    if (key !== null) context.weights.set(key, weight)
    bytes += weight
  }
  return bytes
}
