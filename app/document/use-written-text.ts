import { useCallback, useEffect, useRef, useState } from 'react'
import { type LoadedText, rememberText, useText } from './use-text'

const saveAfterMs = 500

/** A text that is written here and saves itself. */
export interface WrittenText {
  readonly loaded: LoadedText
  readonly text: string
  readonly write: (text: string) => void
  /** Set when another window wrote the same text: what is here is kept until one is chosen. */
  readonly conflict: { readonly useMine: () => void; readonly takeTheirs: () => void } | null
}

/**
 * @param hash what the site holds now
 * @param save sends a text that was written over `was`; resolves to whether it was taken
 * @param currentHash what the site holds once `save` has resolved
 */
export function useWrittenText(
  siteId: string,
  hash: string,
  save: (text: string, was: string) => Promise<boolean>,
  currentHash: () => string,
): WrittenText {
  /** The version the local text was begun from. */
  const [base, setBase] = useState(hash)
  const [local, setLocal] = useState<string | null>(null)
  const [conflict, setConflict] = useState(false)
  const loaded = useText(siteId, base)
  const theirs = useText(siteId, hash)
  const latest = useRef({ local, base, save, currentHash })
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined)
  const sending = useRef(false)
  useEffect(() => {
    latest.current = { local, base, save, currentHash }
  })

  const flush = useCallback(async () => {
    clearTimeout(timer.current)
    const { local: sent, base: was } = latest.current
    if (sent === null || sending.current) return
    sending.current = true
    const saved = await latest.current.save(sent, was)
    sending.current = false
    if (!saved) {
      setConflict(true)
      return
    }
    const now = latest.current.currentHash()
    rememberText(now, sent)
    latest.current.base = now
    setBase(now)
    if (latest.current.local === sent) setLocal(null)
    else timer.current = setTimeout(() => void flush(), saveAfterMs)
  }, [])

  const write = useCallback(
    (text: string) => {
      latest.current.local = text
      setLocal(text)
      clearTimeout(timer.current)
      if (!conflict) timer.current = setTimeout(() => void flush(), saveAfterMs)
    },
    [conflict, flush],
  )
  // Leaving the view does not wait for the pause in typing.
  useEffect(
    () => () => {
      if (latest.current.local !== null) void flush()
    },
    [flush],
  )
  // Nothing typed here: what another window wrote is shown as soon as it is known.
  if (hash !== base && local === null && theirs.kind === 'ready') setBase(hash)

  return {
    loaded,
    text: local ?? (loaded.kind === 'ready' ? loaded.text : ''),
    write,
    conflict: conflict
      ? {
          useMine: () => {
            setConflict(false)
            latest.current.base = hash
            setBase(hash)
            void flush()
          },
          takeTheirs: () => {
            setConflict(false)
            latest.current.local = null
            setLocal(null)
            setBase(hash)
          },
        }
      : null,
  }
}
