import { inPage, type Rule } from '../../rule'

/** A page that does not say in a sentence what it is about, in a site whose template has room for it. */
export const noDescription: Rule = {
  id: 'no-description',
  grade: 'detail',
  title: 'Pages without a description',
  why: 'Search engines show it below the title; without it they take some words of the page, often those of a menu.',
  reads: 'page',
  find: (page, { templates }) =>
    page.description || !templates?.of(page).parts.some((part) => part.kind === 'optional' && part.needs.includes('description')) // prettier-ignore
      ? null
      : { place: inPage(page), what: 'Say in one sentence what is to be found here.' },
}
