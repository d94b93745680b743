import { useState } from 'react'

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
