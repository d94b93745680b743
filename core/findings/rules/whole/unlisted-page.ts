import { isErrorPage } from '#core/template'
import { graphOf } from '../../graph-of'
import { inPage, type Rule } from '../../rule'

/** A page that its author left out of the menus. */
export const unlistedPage: Rule = {
  id: 'unlisted-page',
  grade: 'detail',
  title: 'Pages in no menu',
  why: 'It is found only by who meets the link to it.',
  reads: 'page',
  find: (page, context) =>
    // One to which nothing leads at all is told as that; an error page is shown by the host.
    page.inMenus ||
    page.id === context.site.homeId ||
    isErrorPage(context.names.pages.get(page.id)!.path) ||
    graphOf(context)?.byId.get(page.id)?.steps === null
      ? null
      : {
          place: inPage(page),
          what: 'It is left out of the menus.',
          mends: [
            {
              words: 'Put it in the menus',
              change: { kind: 'setPageFlag', pageIds: [page.id], flag: 'inMenus', value: true },
            },
          ],
        },
}
