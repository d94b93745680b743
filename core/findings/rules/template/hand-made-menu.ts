import { type HandMadeMenu, handMadeMenus, type WrittenMenu, writtenMenus } from '#core/bringing'
import { type PlanToken, resolveReference } from '#core/links'
import { Lines } from '#core/markup'
import type { Hash, Page, Template } from '#core/site'
import { type FindingContext, inTemplate, type Rule } from '../../rule'

/** Of many, the first few are named. */
const mostNamed = 4

const named = (labels: readonly string[]): string => {
  const shown = labels.slice(0, mostNamed).map((label) => `“${label}”`)
  const more = labels.length - shown.length
  return `${shown.join(', ')}${more > 0 ? ` and ${more} more` : ''}`
}

function whatOf({ missing, renamed }: HandMadeMenu): string {
  const lacks =
    missing.length > 0
      ? `This menu is written by hand, and lacks ${named(missing.map(({ label }: Page) => label))}.`
      : 'This menu is written by hand: it has all pages of the plan now, and will lack the next one.'
  const [first] = renamed
  return first ? `${lacks} It says “${first.called}” for “${first.page.label}”.` : lacks
}

/** What the sources of templates have, as long as all that they lead to stands where it did. */
const known = new WeakMap<PlanToken, Map<Hash, readonly WrittenMenu[]>>()

function writtenIn(context: FindingContext, template: Template): readonly WrittenMenu[] {
  const { names, homeFile, planToken } = context
  const bySource = known.get(planToken) ?? new Map<Hash, readonly WrittenMenu[]>()
  known.set(planToken, bySource)
  let menus = bySource.get(template.source)
  if (!menus) {
    menus = writtenMenus(context.sourceOf(template), (href, from) =>
      resolveReference(href, from, names, homeFile),
    )
    // Older ones came from typing.
    if (bySource.size >= 200) bySource.clear()
    bySource.set(template.source, menus)
  }
  return menus
}

/** Menus in a template that its author would have to keep up with the plan. */
export const handMadeMenu: Rule = {
  id: 'hand-made-menu',
  grade: 'hinders',
  title: 'Menus written by hand',
  why: 'A page that is added to the plan is in no such menu until somebody writes it there, and nobody finds it.',
  reads: 'site',
  find: (context) =>
    context.site.templates.flatMap((template) => {
      const source = context.sourceOf(template)
      const menus = handMadeMenus(writtenIn(context, template), context)
      const lines = new Lines(source)
      return menus.map((menu, nth) => {
        const { start, end, html, renamed, missing } = menu
        return {
          mark: `${nth} ${missing.map(({ id }) => id).join()}`,
          place: inTemplate(template, { start, end, ...lines.placeOf(start) }),
          what: whatOf(menu),
          mends: [
            {
              words: 'Let the plan make it',
              edits: [{ start, end, text: html }],
              was: template.source,
              // What it calls pages may be meant.
              ...(renamed.length > 0 && { isOther: true as const }),
            },
          ],
        }
      })
    }),
}
