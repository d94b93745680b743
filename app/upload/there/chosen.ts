import { useCallback, useMemo, useState } from 'react'
import { lookAtChoice } from '#core/delivery'
import type { ShownComparison } from './comparison.server'

/**
 * What of a comparison is to be sent, and what there is to be removed.
 * @param since what the choice holds for: a delivery that has ended begins it anew
 */
export function useChosen(comparison: ShownComparison, since: string) {
  const { files, toSend, leftovers, leftoverCount } = comparison
  /** What was left out: whatever comes to the list later is in it. */
  const [leftOut, setLeftOut] = useState<ReadonlySet<string>>(new Set())
  const [removed, setRemoved] = useState<ReadonlySet<string>>(new Set())
  const [heldFor, setHeldFor] = useState(since)
  if (heldFor !== since) {
    setHeldFor(since)
    setLeftOut(new Set())
    setRemoved(new Set())
  }
  const isChosen = useCallback((path: string) => !leftOut.has(path), [leftOut])
  const view = useMemo(() => lookAtChoice(files, isChosen), [files, isChosen])
  const chosen = files.filter(({ path }) => isChosen(path))
  const isAll = chosen.length === files.length
  const set = (from: ReadonlySet<string>, paths: readonly string[], isIn: boolean) => {
    const next = new Set(from)
    for (const path of paths)
      if (isIn) next.add(path)
      else next.delete(path)
    return next
  }
  const ours = leftovers.filter(({ state }) => state === 'to remove').map(({ path }) => path)
  const removing = leftovers.filter(({ path }) => removed.has(path))
  const isEveryLeftover = ours.length > 0 && ours.every((path) => removed.has(path))
  return {
    isChosen,
    isRemoved: (path: string) => removed.has(path),
    choose: (paths: readonly string[], isIn: boolean) => setLeftOut((was) => set(was, paths, !isIn)),
    remove: (paths: readonly string[], isIn: boolean) => setRemoved((was) => set(was, paths, isIn)),
    missing: view.missing,
    staying: isAll ? [] : view.staying,
    isAll,
    /** What is in no list since there are too many goes with all of it only. */
    sendCount: isAll ? toSend : chosen.length,
    sendBytes: isAll ? comparison.bytesToSend : chosen.reduce((sum, { sizeBytes }) => sum + sizeBytes, 0),
    /** For the request; null for all that differ. */
    paths: isAll ? null : chosen.map(({ path }) => path),
    removeCount: isEveryLeftover ? removing.length - ours.length + leftoverCount : removing.length,
    isEveryLeftover,
    strays: removing.filter(({ path }) => !isEveryLeftover || !ours.includes(path)).map(({ path }) => path),
    ours,
  }
}

export type Chosen = ReturnType<typeof useChosen>
