import { resolveReference } from '#core/links'
import { applyEdits, encodePath, type HtmlFacts, type TextEdit, writeReference } from '#core/markup'
import type { Names } from '#core/naming'

/**
 * A piece of a page's text as it has to be written to stand in any other page: what leads to pages and files
 * is named from the top of the site, and a place in the page itself by the page.
 * @param facts of the piece itself
 * @param from the path of the page it is taken from
 * @param stays ids that go with the piece
 */
export function carried(
  text: string,
  facts: HtmlFacts,
  from: string,
  names: Names,
  homeFile: string,
  stays: ReadonlySet<string>,
): string {
  const edits = facts.references.flatMap((reference): TextEdit[] => {
    const { href, start, end } = reference
    const target = resolveReference(href, from, names, homeFile)
    if (target.kind === 'elsewhere' || target.kind === 'missing') return []
    if (target.kind === 'here') {
      const id = decodeFragment(target.suffix)
      if (id !== null && stays.has(id)) return []
      return [{ start, end, text: writeReference(reference, `/${encodePath(from)}${target.suffix}`) }]
    }
    const next = `/${encodePath(target.path)}${target.suffix}`
    return next === href ? [] : [{ start, end, text: writeReference(reference, next) }]
  })
  return applyEdits(text, edits)
}

function decodeFragment(suffix: string): string | null {
  const at = suffix.indexOf('#')
  if (at < 0) return null
  try {
    return decodeURIComponent(suffix.slice(at + 1))
  } catch {
    return suffix.slice(at + 1)
  }
}
