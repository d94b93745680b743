import { type RefObject, useEffect, useRef, useState } from 'react'
import { branchOf } from '#core/plan'
import { useSelection, useSite } from '../document/site-context'
import { untilFetched } from '../parts/fetched'
import { useStableActions } from '../parts/use-stable-actions'
import type { RowDragging } from './row-drag'
import type { Drop, dropAt } from './drop-at'
import type { Row } from './rows'

/** How far a level is from the next, in pixels. */
export const levelWidth = 20

/** Pages that are dragged through the register. */
export interface Dragged {
  readonly roots: readonly string[]
  /** They and all below them. */
  readonly ids: ReadonlySet<string>
  /** The level of the one that is held. */
  readonly depth: number
  readonly drop: Drop | null
}

/**
 * Has the chosen pages dragged to another place and level. What that touches is asked about before they go under another page, as
 * a hand slips more easily than a key.
 * @param isOff while rows are not to be dragged
 */
export function useRowDrag({
  scroller,
  rows,
  rowHeight,
  isOff,
  opens,
}: {
  scroller: RefObject<HTMLElement | null>
  rows: readonly Row[]
  rowHeight: number
  isOff: boolean
  opens: (pageId: string) => void
}): Dragged | null {
  const { site, tree, store } = useSite()
  const { chosenRoots, chosen, select } = useSelection()
  const [dragged, setDragged] = useState<Dragged | null>(null)
  // It comes with what drags: nobody waits for either.
  const placing = useRef<typeof dropAt>(null)
  const told = useStableActions<RowDragging>({
    begin(pageId) {
      const isAmong = chosen.some(({ id }) => id === pageId)
      if (!isAmong) select(pageId)
      const roots = (isAmong ? chosenRoots : [pageId]).filter((id) => id !== site.homeId)
      const place = tree.placeOf.get(pageId)
      if (roots.length === 0 || !place) return false
      const ids = new Set(roots.flatMap((id) => branchOf(tree, id)).map(({ id }) => id))
      setDragged({ roots, ids, depth: place.depth, drop: null })
      return true
    },
    over(place) {
      setDragged((now) => {
        if (!now) return now
        const drop =
          place &&
          placing.current &&
          placing.current(
            tree,
            site.homeId,
            rows,
            now.roots,
            Math.round(place.top / rowHeight),
            now.depth + Math.round(place.aside / levelWidth),
          )
        const isSame = drop?.gap === now.drop?.gap && drop?.depth === now.drop?.depth
        return isSame ? now : { ...now, drop }
      })
    },
    end(isDropped) {
      setDragged(null)
      // What went meanwhile in another window is passed over.
      const pageIds = dragged?.roots.filter((id) => tree.byId.has(id)) ?? []
      const drop = dragged?.drop
      if (!isDropped || !drop || pageIds.length === 0) return
      const { parentId, after } = drop
      if (parentId) opens(parentId)
      const change = { kind: 'movePages', pageIds, parentId, after } as const
      // In another order under the same page they keep their names: nothing but menus follows.
      const isOrder = pageIds.every((id) => tree.byId.get(id)!.parentId === parentId)
      if (isOrder) store.change(change)
      else store.ask(change)
    },
  })
  useEffect(() => {
    if (isOff) return
    let take = (): void => undefined
    let isGone = false
    void untilFetched(() => import('./row-drag')).then(({ dragRows, dropAt }) => {
      placing.current = dropAt
      if (!isGone && scroller.current) take = dragRows(scroller.current, told)
    })
    return () => {
      isGone = true
      take()
    }
  }, [isOff, scroller, told])
  return dragged
}
