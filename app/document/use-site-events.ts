import { useEffect, useRef } from 'react'
import type { SiteEvent } from '#server/events'

/** Hears what other windows and background work do to a site (server-sent events; reconnects by itself). */
export function useSiteEvents(siteId: string, onEvent: (event: SiteEvent) => void): void {
  const latest = useRef(onEvent)
  useEffect(() => {
    latest.current = onEvent
  })
  useEffect(() => {
    const source = new EventSource(`/sites/${siteId}/events`)
    const hear = (message: MessageEvent<string>) => latest.current(JSON.parse(message.data) as SiteEvent)
    source.addEventListener('revision', hear)
    source.addEventListener('delivery', hear)
    return () => source.close()
  }, [siteId])
}
