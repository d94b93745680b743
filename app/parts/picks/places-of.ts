import { ancestorsOf, type Tree } from '#core/plan'
import type { Page } from '#core/site'
import type { Place } from './place-search'

/** Pages of a tree as somebody looks for them, in reading order. */
export const placesOf = (tree: Tree, isOffered: (page: Page) => boolean): Place[] =>
  tree.places.flatMap(({ page }) =>
    isOffered(page)
      ? [
          {
            id: page.id,
            label: page.label,
            above: ancestorsOf(tree, page)
              .map(({ label }) => label)
              .join(' › '),
          },
        ]
      : [],
  )

export const topLevel: Place = { id: null, label: 'the top level', above: '' }
