import { useState } from 'react'
import { useSite } from '../document/site-context'

/**
 * What was just done, in words, until something else has been: after an undo it would be no longer true.
 * @returns the words, null where there are none, and what tells them; `ahead`: revisions that what was done is still to make
 */
export function useDone(): readonly [string | null, (words: string | null, ahead?: number) => void] {
  const { revision, store } = useSite()
  const [done, setDone] = useState<{ readonly words: string; readonly until: number } | null>(null)
  const tell = (words: string | null, ahead = 0) =>
    setDone(words === null ? null : { words, until: store.get().revision + ahead })
  return [done !== null && revision <= done.until ? done.words : null, tell]
}
