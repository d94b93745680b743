import { splitReference, type Target } from '#core/links'
import type { Reference } from '#core/markup'
import { count, homeNameOf } from '#core/site'
import { type Remark } from '../brought'

/** A reference to a name without an ending, with one; null for any other. */
export function withEnding(href: string, ending: string): string | null {
  const { path, suffix } = splitReference(href)
  return /(?:^|\/)[^/.]+$/.test(path) ? path + ending + suffix : null
}

/** Whether a reference names a page without its ending, as hosts of today show it: `/about` for `about.html`. */
const isShortened = (href: string, target: Target): boolean =>
  target.kind === 'page' && homeNameOf(target.path) === null && withEnding(href, '') !== null

/** What is said of such references: they name the files from now on. */
export function remarksOfShortNames(
  pages: readonly { readonly path: string; readonly references: Iterable<Reference> }[],
  resolve: (href: string, from: string) => Target,
): Remark[] {
  let references = 0
  const on = pages.filter((page) => {
    const short = [...page.references].filter(({ href }) => isShortened(href, resolve(href, page.path)))
    references += short.length
    return short.length > 0
  })
  const [first] = on
  if (!first) return []
  const where = on.length === 1 ? 'here' : `here and on ${count(on.length - 1, 'other page')}`
  const why = `${count(references, 'reference')} ${where} named pages without an ending, as some hosts show them. They name the files now, which works everywhere.`
  return [{ path: first.path, why }]
}
