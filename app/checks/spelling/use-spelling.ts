import { useCallback, useEffect, useRef, useState } from 'react'
import type { SiteSpelling, SiteWord } from '#server/sites'
import { useSite } from '../../document/site-context'
import { useLongWork } from '../../parts/use-long-work'
import { ask } from '../../parts/ask'
import { usePutting } from '../words/use-putting'

/** A word and what is put in its place. */
export interface Mending {
  readonly word: SiteWord
  readonly by: string
}

/** Holds the site against dictionaries, again whenever it has changed, and puts right words in the place of mistyped ones. */
export function useSpelling() {
  const { site, settled } = useSite()
  const address = `/sites/${site.id}/spelling`
  const [spelling, setSpelling] = useState<SiteSpelling | null>(null)
  const putting = usePutting<Mending>(`${address}/word`)
  /** The revision that was looked at last; what is cancelled is not begun again by itself. */
  const begun = useRef<number | null>(null)
  const [looked, setLooked] = useState<number | null>(null)
  const onEnd = useCallback((result?: unknown) => {
    if (result === undefined) return
    setSpelling(result as SiteSpelling)
    setLooked(begun.current)
  }, [])
  const { work, start, cancel } = useLongWork(address, onEnd)
  // What is written while it is looked at is looked at after.
  useEffect(() => {
    if (work.state !== 'idle' || work.problem !== null || begun.current === settled) return
    begun.current = settled
    void start()
  }, [work, settled, start])

  const isLong = useIsLong(work.state === 'running')
  return {
    spelling,
    /** Whether it is to be told how far the look is, or how to begin it: one that is soon over would only come and go. */
    tellsWork:
      spelling === null || work.state === 'running'
        ? isLong || spelling === null
        : looked !== begun.current || work.problem !== null,
    putting,
    work,
    start: () => {
      begun.current = settled
      void start()
    },
    cancel,
    /** Resolves to whether it was done. */
    async mend(mending: Mending, shown = false): Promise<boolean> {
      const { word, by } = mending
      const isDone = await putting.put(mending, { word: word.word, language: word.language, by }, shown)
      // It is looked at again, which may take a while.
      if (isDone) setSpelling((was) => was && without(was, word))
      return isDone
    },
  }
}

const soonMs = 700

/** Whether something has been under way for a while. */
function useIsLong(isRunning: boolean): boolean {
  const [isLong, setLong] = useState(false)
  useEffect(() => {
    if (!isRunning) return
    const timer = setTimeout(() => setLong(true), soonMs)
    return () => {
      clearTimeout(timer)
      setLong(false)
    }
  }, [isRunning])
  return isLong
}

/** A word is gone from what was found, unless it has been looked at anew by then. */
function without(spelling: SiteSpelling, { word, language }: SiteWord): SiteSpelling {
  const words = spelling.words.filter((one) => one.word !== word || one.language !== language)
  return { ...spelling, words, wordCount: spelling.wordCount - (spelling.words.length - words.length) }
}

/** What words may be meant for, as far as they were asked for: each once, while the view is open. */
export function useNear(
  { word, language }: SiteWord,
  known: Map<string, readonly string[]>,
): readonly string[] | null {
  const { site } = useSite()
  const key = `${language} ${word}`
  const [near, setNear] = useState<readonly string[] | null>(known.get(key) ?? null)
  useEffect(() => {
    const ready = known.get(key) ?? null
    setNear(ready)
    if (ready !== null) return
    const over = new AbortController()
    const query = new URLSearchParams({ word, language })
    ask<{ near: readonly string[] }>(`/sites/${site.id}/spelling/word?${query}`, {
      signal: over.signal,
    }).then(
      (told) => {
        if (over.signal.aborted) return
        const found = 'problem' in told ? [] : told.near
        if (!('problem' in told)) known.set(key, found)
        setNear(found)
      },
      () => {},
    )
    return () => over.abort()
  }, [site.id, key, word, language, known])
  return near
}
