import { useEffect, useRef, useState } from 'react'
import type { OwnedText } from '#core/change'
import type { Wanted } from '#core/find'
import type { FoundInSite } from '#server/sites'
import { asJson, isJson } from '../../document/post'
import { useSite } from '../../document/site-context'

/** What was found of some words. */
export interface Found {
  readonly wanted: Wanted
  readonly found: readonly FoundInSite[]
  readonly placeCount: number
  readonly ownerCount: number
}

const away = 'The server does not answer. Try again in a moment.'

/** Looks for words in the site, again whenever it has changed, and puts others in their place. */
export function useWords() {
  const { site, revision, store } = useSite()
  const [asked, setAsked] = useState<Wanted | null>(null)
  const [found, setFound] = useState<Found | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
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
        if ('problem' in told) setProblem(told.problem)
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
    work,
    look(wanted: Wanted) {
      setProblem(null)
      setAsked(wanted)
    },
    cancel() {
      ending.current?.abort()
      setWork(null)
      setAsked(null)
    },
    /** Resolves to whether it was done. */
    async replace(wanted: Wanted, by: string, chosen: readonly OwnedText[]): Promise<boolean> {
      setProblem(null)
      setWork('replacing')
      const over = (ending.current = new AbortController())
      const body = JSON.stringify({ wanted, by, chosen, seen: store.get().revision, requestId: crypto.randomUUID() }) // prettier-ignore
      const told = await ask<object>(address, { method: 'POST', headers: asJson, body, signal: over.signal }).catch(() => null) // prettier-ignore
      await store.catchUp()
      setWork(null)
      if (told !== null && 'problem' in told) setProblem(told.problem as string)
      return told !== null && !('problem' in told)
    },
  }
}

/** Asks the server; rejects where it was called off. */
async function ask<T extends object>(
  address: string,
  how: RequestInit,
): Promise<T | { readonly problem: string }> {
  try {
    const response = await fetch(address, how)
    if (!isJson(response)) return { problem: away }
    const told = (await response.json()) as T | { readonly problem: { readonly message: string } }
    return 'problem' in told ? { problem: (told.problem as { message: string }).message } : told
  } catch (error) {
    if (how.signal?.aborted) throw error
    return { problem: away }
  }
}
