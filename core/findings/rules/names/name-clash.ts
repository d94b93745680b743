import { inPage, type Rule } from '../../rule'

/** Two pages wanted one name; the younger was told apart by rule. */
export const nameClash: Rule = {
  id: 'name-clash',
  grade: 'detail',
  title: 'Names told apart',
  why: 'Two files of one name cannot stand in one folder, on some hosts not even where only the case differs.',
  reads: 'page',
  find(page, { names, tree }) {
    const name = names.pages.get(page.id)
    if (!name?.clash) return null
    const holder = name.clash.heldBy === null ? null : tree.byId.get(name.clash.heldBy)
    return {
      place: inPage(page),
      what: `The name “${name.clash.wanted}” belongs to ${holder ? `“${holder.label}”` : 'the site itself'}, so this page is ${name.path}.`,
    }
  },
}
