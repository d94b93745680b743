import type { Page } from '#core/site'
import type { CompiledTemplate, Part } from './compiled'
import { commentOf } from './comment'
import { flat, kindredOf, type SiteContext } from './context'
import { renderForSiblings } from './generated'
import { templateReference } from './home-reference'
import { isSomeHome } from './parts'
import { isOfKindred, valueOf, writtenValue } from './values'

/** A part of a page as it is made for one folder: also a page's own label, where its siblings have theirs. */
export type FolderPart = Part | { readonly kind: 'label' }

/** A template's parts for the pages of one folder in one language that stand under one parent. */
interface FolderParts {
  readonly template: CompiledTemplate
  readonly kindred: string
  readonly parentId: string | null
  readonly parts: readonly FolderPart[]
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
): readonly FolderPart[] {
  if (isSomeHome(context, page)) return template.parts
  const kindred = kindredOf(context, page)
  const { parentId } = page
  const known = latest.get(context)
  if (known?.template === template && known.kindred === kindred && known.parentId === parentId)
    return known.parts
  const parts: FolderPart[] = []
  let text = ''
  let at = 0
  const end = () => {
    if (text !== '') parts.push({ kind: 'text', at, text: flat(text) })
    text = ''
  }
  for (const part of template.parts) {
    const same = sameTexts(context, template, part, page, year)
    if (same === null) {
      end()
      parts.push(part)
      continue
    }
    if (text === '') at = part.at
    for (const [nth, piece] of same.entries()) {
      if (nth > 0) {
        end()
        parts.push({ kind: 'label' })
      }
      text += piece
    }
  }
  end()
  latest.set(context, { template, kindred, parentId, parts })
  return parts
}

/** What a part is on every such page, with their own labels between the texts; null where each has its own. */
function sameTexts(
  context: SiteContext,
  template: CompiledTemplate,
  part: Part,
  page: Page,
  year: number,
): readonly string[] | null {
  switch (part.kind) {
    case 'text':
      return [part.text]
    case 'reference':
      return [templateReference(context, template, part.planned, page) ?? part.text]
    case 'value':
      return isOfKindred(part.name)
        ? [writtenValue(part.name, part.syntax, valueOf(part.name, context, page, year))]
        : null
    case 'generated': {
      const texts = renderForSiblings(context, part, page, template.unit)
      // An empty one takes its line with it.
      if (texts === null || texts[0] === '') return null
      return [commentOf(part, context.site.output) + texts[0], ...texts.slice(1)]
    }
    default:
      return null
  }
}
