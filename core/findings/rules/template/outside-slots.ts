import { inTemplate, type Rule } from '../../rule'

export const outsideSentence =
  'This stands beside what fills the slots, so no page shows it. Put it into a <template slot="…">.'

/** In a template that fills the slots of another: what stands in none of its fills comes out nowhere. */
export const outsideSlots: Rule = {
  id: 'outside-slots',
  grade: 'breaks',
  title: 'Beside the slots of a template',
  why: 'A template that fills the slots of another gives its pages what stands in them; the rest is seen by nobody.',
  reads: 'site',
  find: ({ site, compiled }) =>
    site.templates.flatMap((template) =>
      template.basedOn === null
        ? []
        : compiled(template).outside.map((place, index) => ({
            mark: String(index),
            place: inTemplate(template, place),
            what: outsideSentence,
          })),
    ),
}
