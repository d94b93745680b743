import { useRef, useState } from 'react'
import type { RippleView } from '#server/sites'
import { asJson } from '../../document/post'
import { useSite } from '../../document/site-context'
import { ask } from '../../parts/ask'

/** What is to be put in the place of words, and what that touches elsewhere, shown before it is done. */
export interface AskedPutting<What> {
  readonly what: What
  readonly ripple: RippleView
}

/** Asks the server to put something in the place of words. What reaches further than their texts is asked about first. */
export function usePutting<What>(address: string) {
  const { store } = useSite()
  const [asks, setAsks] = useState<AskedPutting<What> | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  const [isPutting, setPutting] = useState(false)
  const ending = useRef<AbortController | null>(null)
  const forget = () => {
    setProblem(null)
    setAsks(null)
  }
  return {
    asks,
    problem,
    isPutting,
    /**
     * Resolves to whether it was done.
     * @param body as the server is asked, but for what every change has
     * @param shown whether what it touches elsewhere has been
     */
    async put(what: What, body: object, shown: boolean): Promise<boolean> {
      forget()
      setPutting(true)
      const over = (ending.current = new AbortController())
      const asked = { ...body, shown, seen: store.get().revision, requestId: crypto.randomUUID() }
      const how = { method: 'POST', headers: asJson, body: JSON.stringify(asked), signal: over.signal }
      const told = await ask<object>(address, how).catch(() => null)
      await store.catchUp()
      setPutting(false)
      if (told === null) return false
      if (!('problem' in told)) return true
      const { code, message, detail } = told.problem
      if (code === 'ask-first' && detail?.ripple) setAsks({ what, ripple: detail.ripple })
      else setProblem(message)
      return false
    },
    /** Calls off what is under way; what is done by then stays, and undo takes it back. */
    cancel: () => ending.current?.abort(),
    /** Leaves all as it is. */
    leave: () => setAsks(null),
    /** What was told of it goes. */
    forget,
  }
}
