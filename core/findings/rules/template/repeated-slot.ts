import { inTemplate, type Rule } from '../../rule'

/** Two slots of one name: what a page holds for it comes out as often. */
export const repeatedSlot: Rule = {
  id: 'repeated-slot',
  grade: 'hinders',
  title: 'Two slots of one name',
  why: 'What a page holds there is shown twice, and each `id` in it stands on the page twice.',
  reads: 'site',
  find: ({ site, compiled }) =>
    site.templates.flatMap((template) => {
      const seen = new Set<string>()
      return compiled(template).slots.flatMap((slot) => {
        // A value may stand in several places.
        if (slot.isValue) return []
        if (!seen.has(slot.name)) {
          seen.add(slot.name)
          return []
        }
        const what = `There is a slot “${slot.name}” already. Give this one another name, or take it out.`
        return [{ mark: slot.name, place: inTemplate(template, slot), what }]
      })
    }),
}
