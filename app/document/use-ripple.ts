import { useEffect, useMemo, useState } from 'react'
import type { ChangeRequest } from '#core/change'
import type { RippleView } from '#server/sites'
import { useSite } from './site-context'

export interface AskedRipple {
  /** Null until the server has answered. While a later answer is on its way the earlier one stands, so that nothing jumps. */
  readonly ripple: RippleView | null
  /** Whether it is the ripple of exactly this change: what an author who sees it has been shown. */
  readonly isCurrent: boolean
}

/**
 * What a change would touch, asked of the server without making it.
 * @param pauseMs how long a change has to stand before it is asked about: for one that is being typed
 */
export function useRipple(change: ChangeRequest | null, pauseMs = 0): AskedRipple {
  const { site, settled } = useSite()
  const [found, setFound] = useState<{ asked: string; ripple: RippleView } | null>(null)
  // A whole plan is long: it is written out once, not each time something is drawn.
  const body = useMemo(() => change && JSON.stringify(change), [change])
  useEffect(() => {
    if (body === null) return
    const abort = new AbortController()
    const ask = () =>
      fetch(`/sites/${site.id}/ripple`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body,
        signal: abort.signal,
      })
        .then((response) => (response.ok ? response.json() : null))
        .then((ripple: RippleView | null) => ripple && setFound({ asked: body, ripple }))
        .catch(() => {})
    const timer = setTimeout(() => void ask(), pauseMs)
    return () => {
      clearTimeout(timer)
      abort.abort()
    }
    // The answer holds for one state of the site.
  }, [site.id, body, settled, pauseMs])
  if (body === null) return { ripple: null, isCurrent: false }
  return { ripple: found?.ripple ?? null, isCurrent: found?.asked === body }
}
