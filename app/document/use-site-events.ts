import { useEffect, useRef } from 'react'
import type { SiteEvent } from '#server/platform'
import { session, whenBack } from '../session/session'

/** What a window hears; `gap` says that anything may have happened unheard, and is to be fetched again. */
export type HeardEvent = SiteEvent | { readonly kind: 'gap' }

const retryMs = [500, 1_000, 2_000, 5_000]

/**
 * Hears what other windows and background work do to a site (server-sent events). Tries for as long as
 * the window is open, whatever ended the connection, and tells of a gap whenever it is there again.
 */
export function useSiteEvents(siteId: string, onEvent: (event: HeardEvent) => void): void {
  const latest = useRef(onEvent)
  useEffect(() => {
    latest.current = onEvent
  })
  useEffect(() => {
    let source: EventSource | null = null
    let timer: ReturnType<typeof setTimeout> | undefined
    let failures = 0
    const hear = (message: MessageEvent<string>) => latest.current(JSON.parse(message.data) as SiteEvent)
    const connect = () => {
      clearTimeout(timer)
      source?.close()
      source = new EventSource(`/sites/${siteId}/events`)
      source.addEventListener('open', () => (failures = 0))
      source.addEventListener('revision', hear)
      source.addEventListener('delivery', hear)
      source.addEventListener('people', hear)
      source.addEventListener('notes', hear)
      source.addEventListener('presence', hear)
      source.addEventListener('gap', () => latest.current({ kind: 'gap' }))
      source.addEventListener('error', () => {
        // The browser itself tries again after a cut, but gives up on an answer that is no stream.
        if (source?.readyState !== EventSource.CLOSED) return
        // Nor does it say what the answer was.
        void session.check()
        clearTimeout(timer)
        timer = setTimeout(connect, retryMs[Math.min(failures++, retryMs.length - 1)])
      })
    }
    connect()
    const unsubscribe = whenBack(connect)
    return () => {
      unsubscribe()
      clearTimeout(timer)
      source?.close()
    }
  }, [siteId])
}
