import { weightRefusal } from '#core/template'
import { inTemplate, type Rule } from '../../rule'

const none = { generated: [], perLanguage: 0 }

/** A template whose menus multiply to more than can be sent. */
export const tooLarge: Rule = {
  id: 'too-large',
  grade: 'breaks',
  title: 'More than can be sent',
  why: 'Visitors wait for all of it on every page, so it is not made or sent.',
  reads: 'site',
  find: (context) =>
    context.site.templates.flatMap((template) => {
      const { templates, site, tree } = context
      if (!templates) return []
      const isUsed = tree.places.some(({ page }) => templates.idOf(page) === template.id)
      const what =
        templates.composed(template.id) === null
          ? 'It and the templates that it is based on make more than can be put together. Let a slot of theirs stand once.'
          : isUsed || site.templateId === template.id
            ? weightRefusal(context, (page) =>
                templates.idOf(page) === template.id ? templates.of(page) : none,
              )
            : null
      return what === null ? [] : [{ place: inTemplate(template), what }]
    }),
}
