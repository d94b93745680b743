import { useEffect, useMemo, useState } from 'react'
import type { Page } from '#core/site'
import { useSite } from '../document/site-context'
import type { LineMark } from '../parts/editor/line-marks'
import { useNotes } from './notes-context'
import { untilFetched } from '../parts/fetched'

/** Places that are looked up for one page; each asks the server where it was written. */
const mostPlaces = 40
/** While somebody writes, lines move with every letter: they are looked up when it is quiet. */
const quietMs = 800

const none: ReadonlyMap<string, readonly LineMark[]> = new Map()

/** Words beside the lines of a page's texts on which somebody noted something, by slot. */
export function useNotedLines(page: Page): ReadonlyMap<string, readonly LineMark[]> {
  const { site } = useSite()
  const { notes } = useNotes()
  const [marks, setMarks] = useState<{ pageId: string; marks: typeof none }>({ pageId: '', marks: none })
  const places = useMemo(
    () =>
      notes
        .filter(({ pageId, place, settled }) => pageId === page.id && place && !settled)
        .map(({ place }) => place!)
        .slice(0, mostPlaces),
    [notes, page.id],
  )
  useEffect(() => {
    if (places.length === 0) return setMarks({ pageId: page.id, marks: none })
    let isCurrent = true
    const look = async () => {
      const { sourceOfPlace } = await untilFetched(() => import('../writing/source-places'))
      const found = await Promise.all(
        places.map((place) => sourceOfPlace(site.id, page.id, place).catch(() => null)),
      )
      const bySlot = new Map<string, Map<number, number>>()
      for (const one of found) {
        if (one?.origin?.kind !== 'slot') continue
        const { name, slotLine = 1 } = one.origin
        const lines = bySlot.get(name) ?? new Map<number, number>()
        bySlot.set(name, lines.set(slotLine, (lines.get(slotLine) ?? 0) + 1))
      }
      const next = new Map(
        [...bySlot].map(([slot, lines]) => [
          slot,
          [...lines].map(([line, times]) => ({ line, word: times === 1 ? 'a note' : `${times} notes` })),
        ]),
      )
      if (isCurrent) setMarks({ pageId: page.id, marks: next })
    }
    const timer = setTimeout(() => void look(), quietMs)
    return () => {
      isCurrent = false
      clearTimeout(timer)
    }
    // Every text of the page may move its lines.
  }, [places, page, site.id])
  return marks.pageId === page.id ? marks.marks : none
}
