import { realPlaces } from '#core/plan'
import type { Page } from '#core/site'
import { type CompiledTemplate, mostParts } from './compile'
import type { SiteContext } from './context'
import { generatedWeight, linkOverhead, lookOverhead } from './generated'

/** Bytes that the generated parts of one page, and of all pages together, may take. */
export const mostPageBytes = 5_000_000
export const mostSiteBytes = 2_000_000_000

/** What of a template multiplies. */
type Multiplied = Pick<CompiledTemplate, 'generated' | 'perLanguage'>

const inMegabytes = (bytes: number) => `${Math.round(bytes / 1_000_000).toLocaleString('en')} MB`

/**
 * Why a template multiplies to more than can be made and sent, told before anything is made; null where
 * it does not. A menu of all pages on all pages grows with the square of the site.
 */
export function weightRefusal(context: SiteContext, templateOf: (page: Page) => Multiplied): string | null {
  let total = 0
  for (const { page } of realPlaces(context.tree)) {
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

/** Whether no page of a template can be too large: not even one whose every part lists every page. */
export function weightBound(context: SiteContext): (template: Multiplied) => boolean {
  let links = 0
  const beside = linkOverhead(context)
  let descriptions = 0
  for (const { page } of context.tree.places) {
    links += page.label.length + context.names.pages.get(page.id)!.path.length + beside
    descriptions += page.description?.length ?? 0
  }
  const languages = context.translations.languages.length
  const told = new Map<CompiledTemplate['generated'], boolean>()
  return ({ generated, perLanguage }) => {
    let never = told.get(generated)
    if (never === undefined) {
      const describing = generated.filter(({ part, attributes }) => part.describes?.(attributes)).length
      const look = generated.reduce((sum, one) => sum + lookOverhead(one), 0) * context.tree.places.length
      const most = links * generated.length + look + descriptions * describing + perLanguage * languages
      told.set(generated, (never = generated.length <= mostParts && most <= mostPageBytes))
    }
    return never
  }
}
