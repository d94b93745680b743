import { inPage, type Rule } from '../../rule'

/** A label without letters or digits leaves nothing to make a name from. */
export const namelessLabel: Rule = {
  id: 'nameless-label',
  grade: 'hinders',
  title: 'Labels that make no name',
  why: 'Visitors and search pages see the address; a name says what is inside.',
  reads: 'page',
  find(page, { names }) {
    const name = names.pages.get(page.id)
    if (!name?.nameless) return null
    return {
      place: inPage(page),
      what: `The label “${page.label}” has no letter or digit, so its file is called ${name.path}.`,
    }
  },
}
