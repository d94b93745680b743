import { emptyHash, slotOf, textsOfPage } from '#core/site'
import { inPage, type Rule } from '../../rule'

/** What is written in a slot that the page's template has no place for. */
export const hiddenSlot: Rule = {
  id: 'hidden-slot',
  grade: 'hinders',
  title: 'Written, and not shown',
  why: 'What is written there is kept, but no visitor ever sees it.',
  reads: 'site',
  find: ({ pages, templates, site }) =>
    pages.flatMap((page) => {
      if (!templates) return []
      const templateId = templates.idOf(page)
      const shown = new Set(templates.compiled(templateId).slots.map(({ name }) => name))
      const { name } = site.templates.find((one) => one.id === templateId)!
      return textsOfPage(page)
        .filter(({ slot, hash }) => hash !== emptyHash && !shown.has(slot))
        .map(({ slot, hash }) => ({
          mark: slot,
          place: { ...inPage(page), slot },
          what: `The template “${name}” has no slot “${slot}”, and this page holds something in it.`,
          mends: [...shown]
            .filter((to) => slotOf(page, to) === emptyHash)
            .map((to) => ({
              words: `Move it to “${to}”`,
              change: { kind: 'moveSlot' as const, pageId: page.id, from: slot, to, was: hash },
            })),
        }))
    }),
}
