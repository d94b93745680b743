import { isErrorPage } from '#core/template'
import { inPage, type Rule } from '../../rule'

/** A page that a host shows in place of others, among those that visitors choose from. */
export const listedErrorPage: Rule = {
  id: 'listed-error-page',
  grade: 'detail',
  title: 'Error pages in the menus',
  why: 'A host shows it by itself where nothing is found; who chooses it in a menu takes the site for broken.',
  reads: 'page',
  find: (page, { names }) =>
    !page.inMenus || !isErrorPage(names.pages.get(page.id)!.path)
      ? null
      : {
          place: inPage(page),
          what: 'The menus list this error page.',
          mends: [
            {
              words: 'Leave it out of the menus',
              change: { kind: 'setPageFlag', pageIds: [page.id], flag: 'inMenus', value: false },
            },
          ],
        },
}
