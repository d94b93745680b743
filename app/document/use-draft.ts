import { useEffect, useState } from 'react'
import type { ChangeRequest } from '#core/change'
import { useSite } from './site-context'

/** A field being typed over what the site holds. */
export interface Draft {
  readonly typed: string
  readonly type: (text: string) => void
  /** What the site held when the typing began: what the change is made against. */
  readonly was: string | null
  readonly isChanged: boolean
  readonly reset: () => void
}

/**
 * Follows what the site holds as long as nothing is typed; once something is, it stays, whatever
 * other windows do, and `was` keeps what its author saw.
 */
export function useDraft(value: string | null): Draft {
  const [was, setWas] = useState(value)
  const [typed, type] = useState(value ?? '')
  if (was !== value && (typed === (was ?? '') || typed.trim() === (value ?? ''))) {
    setWas(value)
    type(value ?? '')
  }
  return {
    typed,
    type,
    was,
    isChanged: typed !== (was ?? ''),
    reset: () => {
      setWas(value)
      type(value ?? '')
    },
  }
}

/**
 * Keeps what is typed in a line until it is left: a window that goes away before makes the change.
 * @param name tells this line from others of the window
 * @param change what the line becomes when it is left as it is now; null where nothing was typed
 */
export function useKeptLine(name: string, change: ChangeRequest | null): void {
  const { store } = useSite()
  const key = change && JSON.stringify(change)
  useEffect(() => {
    store.noteLine(name, key === null ? null : (JSON.parse(key) as ChangeRequest))
  }, [store, name, key])
  // Left without a word, as by a key that chooses another page: what was typed is taken.
  useEffect(() => () => store.finishLine(name), [store, name])
}
