import { useSyncExternalStore } from 'react'
import { useSite, useWrittenTexts } from './site-context'
import { type GivenText, type LoadedText, useText } from './use-text'
import { rightFor } from '#core/change'
import { requestOf, type TextKey } from './written-texts'

/** A text that is written here and saves itself. */
export interface WrittenText {
  readonly loaded: LoadedText
  readonly text: string
  /** Whether anything typed here has not reached the server yet. */
  readonly isTyped: boolean
  /** Null for somebody who may only look at it. */
  readonly write: ((text: string) => void) | null
  /** Set when another window wrote the same text: what is here is kept until one is chosen. */
  readonly conflict: { readonly useMine: () => void; readonly takeTheirs: () => void } | null
}

/**
 * @param hash what the site holds now
 * @param given a text that came with the view
 */
export function useWrittenText(key: TextKey, hash: string, given: GivenText | null = null): WrittenText {
  const { site, store } = useSite()
  const mayWrite = store.may(rightFor(requestOf(key, { text: '', was: hash }), site))
  const texts = useWrittenTexts()
  const typed = useSyncExternalStore(
    texts.subscribe,
    () => texts.get(key),
    () => null,
  )
  // Nothing typed here: what another window wrote is shown as soon as it is known.
  const base = typed?.was ?? hash
  const loaded = useText(site.id, base, given)
  return {
    loaded,
    text: typed?.text ?? (loaded.kind === 'ready' ? loaded.text : ''),
    isTyped: typed !== null,
    write: mayWrite ? (text) => texts.write(key, text, hash) : null,
    conflict:
      typed?.state === 'conflict'
        ? { useMine: () => texts.useMine(key), takeTheirs: () => texts.takeTheirs(key) }
        : null,
  }
}
