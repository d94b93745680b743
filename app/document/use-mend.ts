import { useState } from 'react'
import type { Finding, Mend } from '#core/findings'
import { applyEdits } from '#core/markup'
import type { ChangeRequest } from '#core/change'
import { useSite } from './site-context'
import { fetchText } from './use-text'

const notFetched = 'The text could not be fetched: the server does not answer. Try again in a moment.'

/** Mends what was found, as a change like any other: asked about first where it touches more, and undone alike. */
export function useMend() {
  const { site, store } = useSite()
  const [problem, setProblem] = useState<string | null>(null)
  const mend = async ({ place }: Finding, way: Mend): Promise<void> => {
    setProblem(null)
    if ('change' in way) return void store.change(way.change)
    const { edits, was } = way
    try {
      const text = applyEdits(await fetchText(site.id, was), edits)
      const change: ChangeRequest =
        place.kind === 'page'
          ? { kind: 'setContent', pageId: place.id, text, was }
          : { kind: 'setTemplate', templateId: place.id, text, was }
      store.change(change)
    } catch {
      setProblem(notFetched)
    }
  }
  return { mend, problem }
}
