import { inPage, type Rule } from '../../rule'

/** A page that its author left out of the menus. */
export const unlistedPage: Rule = {
  id: 'unlisted-page',
  grade: 'detail',
  title: 'Pages in no menu',
  why: 'It is found only by who meets the link to it.',
  reads: 'page',
  find: (page, { site }) =>
    page.inMenus || page.id === site.homeId
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
