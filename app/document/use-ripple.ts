import { useEffect, useState } from 'react'
import type { ChangeRequest } from '#server/change-input'
import type { RippleView } from '#server/ripple-view'
import { useSite } from './site-context'

/** What a change would touch, asked of the server without making it; null until it has answered. */
export function useRipple(change: ChangeRequest | null): RippleView | null {
  const { site, revision } = useSite()
  const [found, setFound] = useState<{ asked: string; ripple: RippleView } | null>(null)
  const body = change && JSON.stringify(change)
  useEffect(() => {
    if (body === null) return
    const abort = new AbortController()
    fetch(`/sites/${site.id}/ripple`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body,
      signal: abort.signal,
    })
      .then((response) => (response.ok ? response.json() : null))
      .then((ripple: RippleView | null) => ripple && setFound({ asked: body, ripple }))
      .catch(() => {})
    return () => abort.abort()
    // The answer holds for one state of the site.
  }, [site.id, body, revision])
  // While a later one is on its way the earlier stands, so that the foot of the view does not jump.
  return body === null ? null : (found?.ripple ?? null)
}
