import { useEffect, useRef, useState } from 'react'
import type { WordsOwner } from '#core/change'
import type { Wanted } from '#core/find'
import type { FoundInSite, Replacing, RippleView } from '#server/sites'
import { asJson } from '../../document/post'
import { ask, type Told } from './ask'
import { useSite } from '../../document/site-context'

/** What was found of some words. */
export interface Found {
  readonly wanted: Wanted
  readonly found: readonly FoundInSite[]
  readonly placeCount: number
  readonly ownerCount: number
}

/** What is to be put in the place of words, and where. */
export type Instead = Pick<Replacing, 'wanted' | 'by'> & { readonly chosen: readonly WordsOwner[] }

/** What it touches elsewhere, shown before it is done. */
export interface AskedInstead {
  readonly instead: Instead
  readonly ripple: RippleView
}

/** Looks for words in the site, again whenever it has changed, and puts others in their place. */
export function useWords() {
  const { site, revision, store } = useSite()
  const [asked, setAsked] = useState<Wanted | null>(null)
  const [found, setFound] = useState<Found | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  const [asks, setAsks] = useState<AskedInstead | null>(null)
  const [work, setWork] = useState<'looking' | 'replacing' | null>(null)
  const ending = useRef<AbortController | null>(null)
  const address = `/sites/${site.id}/words`

  // What is written meanwhile, here or elsewhere, is found, too.
  useEffect(() => {
    if (asked === null) return
    const over = (ending.current = new AbortController())
    setWork('looking')
    const { words, ...ways } = asked
    const query = new URLSearchParams({ words, ...Object.fromEntries(Object.entries(ways).map(([name, is]) => [name, String(is)])) }) // prettier-ignore
    ask<Omit<Found, 'wanted'>>(`${address}?${query}`, { signal: over.signal }).then(
      (told) => {
        if (over.signal.aborted) return
        if ('problem' in told) setProblem(told.problem.message)
        else setFound({ wanted: asked, ...told })
        setWork(null)
      },
      () => {},
    )
    return () => over.abort()
  }, [asked, revision, address])

  return {
    found,
    problem,
    asks,
    work,
    look(wanted: Wanted) {
      setProblem(null)
      setAsks(null)
      setAsked(wanted)
    },
    cancel() {
      ending.current?.abort()
      setWork(null)
      setAsked(null)
    },
    /**
     * Resolves to whether it was done. What reaches further than what was chosen is asked about first.
     * @param shown whether it was
     */
    async replace(instead: Instead, shown = false): Promise<boolean> {
      setProblem(null)
      setAsks(null)
      setWork('replacing')
      const over = (ending.current = new AbortController())
      const body = JSON.stringify({ ...instead, shown, seen: store.get().revision, requestId: crypto.randomUUID() }) // prettier-ignore
      const told = await ask<object>(address, { method: 'POST', headers: asJson, body, signal: over.signal }).catch(() => null) // prettier-ignore
      await store.catchUp()
      setWork(null)
      if (told === null) return false
      if (!('problem' in told)) return true
      const { code, message, detail } = told.problem as Told
      if (code === 'ask-first' && detail?.ripple) setAsks({ instead, ripple: detail.ripple })
      else setProblem(message)
      return false
    },
    /** Leaves all as it is. */
    leave: () => setAsks(null),
  }
}
