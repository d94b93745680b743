import { useEffect, useState } from 'react'
import { whenBack } from '../session/session'

/** A text on its way from the server. */
export type LoadedText =
  | { readonly kind: 'loading' }
  | { readonly kind: 'ready'; readonly text: string }
  | { readonly kind: 'failed'; readonly retry: () => void }

/** One that could not be had is asked for again by itself, since the line may be back. */
const againEveryMs = 5_000

/** Texts never change under their hash, so one that was read is kept. */
const known = new Map<string, string>()
const knownLimit = 200

export function rememberText(hash: string, text: string): void {
  if (known.size >= knownLimit) known.delete(known.keys().next().value!)
  known.set(hash, text)
}

/** A text of the site by its hash, fetched where it is not known. */
export async function fetchText(siteId: string, hash: string, signal?: AbortSignal): Promise<string> {
  const here = known.get(hash)
  if (here !== undefined) return here
  const response = await fetch(`/sites/${siteId}/texts/${hash}`, { signal })
  if (!response.ok) throw new Error(String(response.status))
  const text = await response.text()
  rememberText(hash, text)
  return text
}

/** A text that came with a view. */
export interface GivenText {
  readonly hash: string
  readonly text: string
}

/**
 * A text of the site by its hash.
 * @param given one that came with the view: it need not be fetched when it is the one
 */
export function useText(siteId: string, hash: string, given: GivenText | null = null): LoadedText {
  const [loaded, setLoaded] = useState<{ hash: string; text: string | null }>({ hash: '', text: null })
  const [attempt, setAttempt] = useState(0)
  const text = given?.hash === hash ? given.text : known.get(hash)
  useEffect(() => {
    if (given) rememberText(given.hash, given.text)
  }, [given])
  useEffect(() => {
    if (known.has(hash) || hash === '') return
    const abort = new AbortController()
    fetchText(siteId, hash, abort.signal)
      .then((read) => setLoaded({ hash, text: read }))
      .catch(() => {
        if (!abort.signal.aborted) setLoaded({ hash, text: null })
      })
    return () => abort.abort()
  }, [siteId, hash, attempt])
  const isFailed = text === undefined && loaded.hash === hash && loaded.text === null
  useEffect(() => {
    if (!isFailed) return
    const again = () => setAttempt((attempts) => attempts + 1)
    const timer = setInterval(again, againEveryMs)
    const unsubscribe = whenBack(again)
    return () => {
      clearInterval(timer)
      unsubscribe()
    }
  }, [isFailed])
  if (text !== undefined) return { kind: 'ready', text }
  if (isFailed)
    return {
      kind: 'failed',
      retry: () => {
        setLoaded({ hash: '', text: null })
        setAttempt((attempts) => attempts + 1)
      },
    }
  return { kind: 'loading' }
}
