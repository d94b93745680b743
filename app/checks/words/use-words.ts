import { useEffect, useRef, useState } from 'react'
import type { WordsOwner } from '#core/change'
import type { Wanted } from '#core/find'
import type { FoundInSite, Replacing } from '#server/sites'
import { ask } from '../../parts/ask'
import { usePutting } from './use-putting'
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

/** Looks for words in the site, again whenever it has changed, and puts others in their place. */
export function useWords() {
  const { site, settled } = useSite()
  const [asked, setAsked] = useState<Wanted | null>(null)
  const [found, setFound] = useState<Found | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  const [isLooking, setLooking] = useState(false)
  const ending = useRef<AbortController | null>(null)
  const address = `/sites/${site.id}/words`
  const putting = usePutting<Instead>(address)

  // What is written meanwhile, here or elsewhere, is found, too.
  useEffect(() => {
    if (asked === null) return
    const over = (ending.current = new AbortController())
    setLooking(true)
    const { words, ...ways } = asked
    const query = new URLSearchParams({ words, ...Object.fromEntries(Object.entries(ways).map(([name, is]) => [name, String(is)])) }) // prettier-ignore
    ask<Omit<Found, 'wanted'>>(`${address}?${query}`, { signal: over.signal }).then(
      (told) => {
        if (over.signal.aborted) return
        if ('problem' in told) setProblem(told.problem.message)
        else setFound({ wanted: asked, ...told })
        setLooking(false)
      },
      () => {},
    )
    return () => over.abort()
  }, [asked, settled, address])

  const work: 'looking' | 'replacing' | null = putting.isPutting ? 'replacing' : isLooking ? 'looking' : null
  return {
    found,
    problem: problem ?? putting.problem,
    asks: putting.asks,
    work,
    look(wanted: Wanted) {
      setProblem(null)
      putting.forget()
      setAsked(wanted)
    },
    cancel() {
      putting.cancel()
      ending.current?.abort()
      setLooking(false)
      setAsked(null)
    },
    /** Resolves to whether it was done. */
    replace(instead: Instead, shown = false): Promise<boolean> {
      setProblem(null)
      return putting.put(instead, instead, shown)
    },
    leave: putting.leave,
  }
}
