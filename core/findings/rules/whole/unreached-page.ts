import { isErrorPage } from '#core/template'
import { graphOf } from '../../graph-of'
import { inPage, type Rule } from '../../rule'

/** A page that no menu lists and no other page leads to, or only pages to which nothing leads. */
export const unreachedPage: Rule = {
  id: 'unreached-page',
  grade: 'hinders',
  title: 'Pages that nothing leads to',
  why: 'A visitor comes there only with its address, and search engines hardly at all.',
  reads: 'site',
  find(context) {
    const graph = graphOf(context)
    if (!graph) return []
    return context.pages.flatMap((page) => {
      const node = graph.byId.get(page.id)!
      // An error page is shown by the host, in place of what is not there.
      if (node.steps !== null || isErrorPage(context.names.pages.get(page.id)!.path)) return []
      const isLed = node.isListed || node.from.length > 0
      return [
        {
          mark: isLed ? 'island' : '',
          place: inPage(page),
          what: isLed
            ? 'Pages lead to it, but no way from the home page leads to those.'
            : 'No menu lists this page, and no page leads to it.',
          ...(!page.inMenus && {
            mends: [
              {
                words: 'Put it in the menus',
                change: {
                  kind: 'setPageFlag' as const,
                  pageIds: [page.id],
                  flag: 'inMenus' as const,
                  value: true,
                },
              },
            ],
          }),
        },
      ]
    })
  },
}
