import type { Page } from '#core/site'
import type { CompiledTemplate, Part } from './compiled'
import { flat, kindredOf, type SiteContext } from './context'
import { templateReference } from './home-reference'
import { isOfKindred, valueOf, writtenValue } from './values'

/** A template's parts for the pages of one folder in one language. */
interface FolderParts {
  readonly template: CompiledTemplate
  readonly kindred: string
  readonly parts: readonly Part[]
}

const latest = new WeakMap<SiteContext, FolderParts>()

/**
 * A template's parts for a page: what comes out alike on all such pages of its folder is text already, in one piece with
 * what stands beside it. Pages are asked for by folder, so that the latest is kept and no other.
 * @param year what `{year}` stands for
 */
export function folderParts(
  context: SiteContext,
  template: CompiledTemplate,
  page: Page,
  year: number,
): readonly Part[] {
  const kindred = kindredOf(context, page)
  const known = latest.get(context)
  if (known?.template === template && known.kindred === kindred) return known.parts
  const parts: Part[] = []
  let text = ''
  let at = 0
  const end = () => {
    if (text !== '') parts.push({ kind: 'text', at, text: flat(text) })
    text = ''
  }
  for (const part of template.parts) {
    const same = sameText(context, template, part, page, year)
    if (same === null) {
      end()
      parts.push(part)
    } else {
      if (text === '') at = part.at
      text += same
    }
  }
  end()
  latest.set(context, { template, kindred, parts })
  return parts
}

/** What a part is on every page of the folder and the language of `page`; null where each has its own. */
function sameText(
  context: SiteContext,
  template: CompiledTemplate,
  part: Part,
  page: Page,
  year: number,
): string | null {
  switch (part.kind) {
    case 'text':
      return part.text
    case 'reference':
      return templateReference(context, template, part.planned, page) ?? part.text
    case 'value':
      return isOfKindred(part.name)
        ? writtenValue(part.name, part.syntax, valueOf(part.name, context, page, year))
        : null
    default:
      return null
  }
}
