import { resolveReference } from '#core/links'
import { writeReference } from '#core/markup'
import type { Page } from '#core/site'
import { addressFrom, homeFileOf } from './addressing'
import type { CompiledTemplate } from './compiled'
import type { SiteContext } from './context'
import { outputReference, type PlannedReference } from './output-reference'
import { homeFor } from './parts'

/**
 * A reference of a template as it stands on a page; null for as it is written. Where the template lists languages, a link to
 * the home page leads to the one in the page's language.
 */
export function templateReference(
  context: SiteContext,
  { listsLanguages }: Pick<CompiledTemplate, 'listsLanguages'>,
  planned: PlannedReference,
  page: Page,
): string | null {
  const { site, names, addressing } = context
  const { path } = names.pages.get(page.id)!
  if (listsLanguages && planned.reference.holder === 'a href') {
    const home = homeFor(context, page, true)
    if (home.id !== site.homeId) {
      const target = resolveReference(planned.reference.href, '', names, homeFileOf(site))
      if (target.kind === 'page' && target.id === site.homeId && target.suffix === '')
        return writeReference(
          planned.reference,
          addressFrom(addressing, path, names.pages.get(home.id)!.path, false),
        )
    }
  }
  return outputReference(context, planned, path, '')
}
