import type { Page } from '#core/site'
import type { CompiledTemplate, Part } from './compile'
import { flat, folderOf, type SiteContext } from './context'
import { outputReference } from './output-reference'
import { writtenValue, isOfSite, siteValueOf } from './values'

/** A template's parts for the pages of one folder. */
interface FolderParts {
  readonly template: CompiledTemplate
  readonly folder: string
  readonly parts: readonly Part[]
}

const latest = new WeakMap<SiteContext, FolderParts>()

/**
 * A template's parts for a page: what comes out alike on all pages of its folder is text already, in one piece with
 * what stands beside it. Pages are asked for by folder, so that the latest is kept and no other.
 * @param year what `{year}` stands for
 */
export function folderParts(
  context: SiteContext,
  template: CompiledTemplate,
  page: Page,
  year: number,
): readonly Part[] {
  const { path } = context.names.pages.get(page.id)!
  const folder = folderOf(context, page)
  const known = latest.get(context)
  if (known?.template === template && known.folder === folder) return known.parts
  const parts: Part[] = []
  let text = ''
  let at = 0
  const end = () => {
    if (text !== '') parts.push({ kind: 'text', at, text: flat(text) })
    text = ''
  }
  for (const part of template.parts) {
    const same = sameText(context, part, path, year)
    if (same === null) {
      end()
      parts.push(part)
    } else {
      if (text === '') at = part.at
      text += same
    }
  }
  end()
  latest.set(context, { template, folder, parts })
  return parts
}

/** What a part is on every page of the folder that `path` is in; null where each has its own. */
function sameText(context: SiteContext, part: Part, path: string, year: number): string | null {
  switch (part.kind) {
    case 'text':
      return part.text
    case 'reference':
      return outputReference(context, part.planned, path, '') ?? part.text
    case 'value':
      return isOfSite(part.name)
        ? writtenValue(part.name, part.syntax, siteValueOf(part.name, context.site, year))
        : null
    default:
      return null
  }
}
