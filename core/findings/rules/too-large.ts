import { weightRefusal } from '#core/template'
import { inTemplate, type Rule } from '../rule'

/** A template whose menus multiply to more than can be sent. */
export const tooLarge: Rule = {
  id: 'too-large',
  title: 'More than can be sent',
  why: 'Visitors wait for all of it on every page, so it is not made or sent.',
  reads: 'site',
  find: (context) =>
    context.site.templates.flatMap((template) => {
      const what = weightRefusal(context, context.compiled(template))
      return what === null ? [] : [{ place: inTemplate(template), what }]
    }),
}
