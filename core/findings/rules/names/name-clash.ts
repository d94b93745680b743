import { nearPaths } from '#core/links'
import type { Names } from '#core/naming'
import { inPage, type Rule } from '../../rule'

/** Two pages whose names cannot stand beside each other: the later one has another name than it would have. */
export const nameClash: Rule = {
  id: 'name-clash',
  grade: 'detail',
  title: 'Names told apart',
  why: 'Two files of one name cannot stand in one folder, on some hosts not even where only the case differs.',
  reads: 'page',
  find(page, { names, tree }) {
    const name = names.pages.get(page.id)
    if (!name?.clash) return null
    const heldBy = name.clash.heldBy ?? atPath(names, besideOf(name.path, name.clash.wanted))
    const holder = heldBy === undefined ? undefined : tree.byId.get(heldBy)
    return {
      place: inPage(page),
      what: `The name “${name.clash.wanted}” belongs to ${holder ? `“${holder.label}”` : 'the site itself'}, so this page is ${name.path}.`,
    }
  },
}

/** The path of a file beside another, with its ending. */
const besideOf = (path: string, stem: string): string =>
  path.slice(0, path.lastIndexOf('/') + 1) + stem + (/\.[^./]+$/.exec(path)?.[0] ?? '')

/** What stands at a path, whatever its capitals: a page that its author put there has its name from no scheme. */
function atPath(names: Names, path: string): string | undefined {
  const [nearest] = nearPaths(names, path)
  return nearest?.toLowerCase() === path.toLowerCase() ? names.byPath.get(nearest)?.id : undefined
}
