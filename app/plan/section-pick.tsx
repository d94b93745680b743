import type { ReactNode } from 'react'
import { branchOf, lastUnder } from '#core/plan'
import { useSite } from '../document/site-context'
import { count } from '../parts/format'
import { PlacePick } from '../parts/picks/place-pick'
import { placesOf, topLevel } from '../parts/picks/places-of'

/**
 * Puts pages under another one. Pages that stand under the ones to move are not offered.
 * @param pageIds branches to move, none of which stands under another
 */
export function SectionPick({ pageIds, children }: { pageIds: readonly string[]; children: ReactNode }) {
  const { site, tree, store } = useSite()
  return (
    <PlacePick
      label={`Put ${pageIds.length === 1 ? 'it' : count(pageIds.length, 'page')} under`}
      places={() => {
        const moving = new Set(pageIds.flatMap((id) => branchOf(tree, id)).map((page) => page.id))
        return [topLevel, ...placesOf(tree, ({ id }) => id !== site.homeId && !moving.has(id))]
      }}
      onChoose={(under) =>
        store.change({ kind: 'movePages', pageIds, parentId: under, after: lastUnder(tree, under, pageIds) })
      }
    >
      {children}
    </PlacePick>
  )
}
