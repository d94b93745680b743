import { mostLevels, treeOf } from '#core/plan'
import type { Site } from '#core/site'
import { type Edited, refuse } from './edited'
import { keepUnrelatedNames } from './keep-names'
import type { ChangeKind } from './kind'
import { type Change, kinds } from './kinds'

/** Kinds of changes by name. */
export type Register = Readonly<Record<string, Pick<ChangeKind<never>, 'apply' | 'deepens' | 'namesAfresh'>>>

/**
 * Applies changes of the kinds of a register to the structure of a site. References in contents that a
 * change makes wrong are not touched here: `findRewrites` tells them, for whoever holds the contents.
 */
export const editBy =
  (register: Register) =>
  (site: Site, change: { readonly kind: string }): Edited => {
    const kind = register[change.kind]!
    const edited = kind.apply(site, change as never)
    if ('refusal' in edited) return edited
    if (kind.deepens) {
      const deep = treeOf(edited.site).places.find(({ depth }) => depth >= mostLevels)
      if (deep) return refuse('invalid', `“${deep.page.label}” would stand deeper than ${mostLevels} levels.`)
    }
    // Numbers follow the plan's order: that is what they are asked for.
    if (kind.namesAfresh || edited.site.scheme.numbered) return edited
    return { site: keepUnrelatedNames(site, edited.site) }
  }

/** Applies one change that a user can make. */
export const edit: (site: Site, change: Change) => Edited = editBy(kinds)
