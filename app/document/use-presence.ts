import { useEffect, useMemo, useRef, useState } from 'react'
import type { Role } from '#core/site'
import type { Presence } from '#server/platform'
import { program } from '../program'
import { asJson } from './post'

/** A window tells where it is this often, and is gone when nothing was heard of it for a little longer than twice that. */
const beatMs = 20_000
const goneMs = 45_000
/** Going from page to page tells of the one where it stops. */
const settleMs = 300

/** Many ask at once when a server is there again: they are told together. */
const answerMs = 300

/** Where somebody else is. */
export interface Other {
  readonly name: string
  readonly pageId: string
}

/** Whoever else has the site open, one entry a window. */
export class Others {
  readonly #seen = new Map<string, Other & { readonly at: number }>()

  /** @returns whether this is somebody who was not known to be there */
  hear({ window, name, pageId }: Presence, now: number): boolean {
    const isNew = pageId !== null && !this.#seen.has(window)
    if (pageId === null) this.#seen.delete(window)
    else this.#seen.set(window, { name, pageId, at: now })
    return isNew
  }

  /** Those who were heard of lately, by name; the others are forgotten. */
  list(now: number): Other[] {
    for (const [window, { at }] of this.#seen) if (now - at > goneMs) this.#seen.delete(window)
    return [...this.#seen.values()]
      .map(({ name, pageId }) => ({ name, pageId }))
      .sort((a, b) => (a.name < b.name ? -1 : a.name > b.name ? 1 : 0))
  }
}

/**
 * Tells others which page this window shows, and keeps who else is where.
 * @param accountId whose window this is: one's own others are nobody else
 * @param role what this window believes to be allowed; when it is another by now, everything is read again
 */
export function usePresence(siteId: string, pageId: string, accountId: string, role: Role) {
  const [others, setOthers] = useState<readonly Other[]>([])
  const [isRenewed, setRenewed] = useState(false)
  const self = useRef<string>('')
  const known = useMemo(() => new Others(), [])
  const tellRef = useRef<(asks?: boolean) => void>(() => {})

  useEffect(() => {
    self.current ||= crypto.randomUUID()
    const address = `/sites/${siteId}/presence`
    const tell = async (asks = false) => {
      const body = JSON.stringify({ window: self.current, pageId, asks })
      try {
        const response = await fetch(address, { method: 'POST', headers: asJson, body })
        if (response.status === 404) return location.assign('/sites')
        if (!response.ok) return
        const now = (await response.json()) as { role: Role; program: string }
        setRenewed(now.program !== program)
        if (now.role !== role) location.reload()
      } catch {
        // The next beat tells it.
      }
    }
    tellRef.current = (asks) => void tell(asks)
    const settle = setTimeout(() => void tell(), settleMs)
    const beat = setInterval(() => {
      if (!document.hidden) void tell()
      setOthers(known.list(Date.now()))
    }, beatMs)
    const leave = () => {
      const body = JSON.stringify({ window: self.current, pageId: null })
      void fetch(address, { method: 'POST', headers: asJson, body, keepalive: true }).catch(() => {})
    }
    addEventListener('pagehide', leave)
    return () => {
      clearTimeout(settle)
      clearInterval(beat)
      removeEventListener('pagehide', leave)
    }
  }, [siteId, pageId, role, known])
  const answering = useRef<ReturnType<typeof setTimeout> | undefined>(undefined)
  const answerSoon = () => {
    answering.current ??= setTimeout(() => {
      answering.current = undefined
      tellRef.current()
    }, answerMs)
  }
  useEffect(() => () => clearTimeout(answering.current), [])
  // To the list of sites: the window stays, and is here no more.
  useEffect(
    () => () => {
      const body = JSON.stringify({ window: self.current, pageId: null })
      void fetch(`/sites/${siteId}/presence`, { method: 'POST', headers: asJson, body }).catch(() => {})
    },
    [siteId],
  )

  return {
    others,
    /** The server is of another program than this window. */
    isRenewed,
    /** Somebody is somewhere; whoever is new, or asks, is told where this window is. */
    hear: (event: Presence) => {
      if (event.accountId === accountId) return
      const isNew = known.hear(event, Date.now())
      setOthers(known.list(Date.now()))
      if (isNew || event.asks) answerSoon()
    },
    /** The window hears from now on: what it told before may have been answered unheard. */
    askWho: () => tellRef.current(true),
    /** Who takes part, or as what, has changed: asks what this window may do now. */
    ask: () => tellRef.current(),
  }
}
