import { useEffect, useState } from 'react'
import { originalOf } from '#core/plan'
import { differingTexts, emptyHash, type Hash, type Page, type TextDifference } from '#core/site'
import { useSite } from '../../document/site-context'
import { fetchText } from '../../document/use-text'
import { askOnce } from '../../workers/ask-once'

/** A text of an original, as it was when its translation said the same, and as it is now. */
export interface ChangedText {
  readonly slot: string
  readonly was: string
  readonly now: string
}

/** What an original says now that it did not when its translation said the same. */
export interface ChangedOriginal {
  readonly original: Page
  readonly texts: readonly ChangedText[]
  /** Whether the translation still has the words of the original. */
  readonly isCopy: boolean
}

const textOf = (siteId: string, hash: Hash, signal: AbortSignal) =>
  hash === emptyHash ? Promise.resolve('') : fetchText(siteId, hash, signal)

/** Whether the page that this one is a translation of was changed since; null where it was not, and until it is known. */
export function useChangedOriginal(page: Page): ChangedOriginal | null {
  const { site } = useSite()
  const original = page.translatedFrom ? originalOf(site, page) : undefined
  const { translatedFrom: then } = page
  const differing = then && original?.id === then.ofId ? differingTexts(then, original) : []
  const about = JSON.stringify([then?.content, differing])
  const own = page.content
  const [found, setFound] = useState<{
    about: string
    own: Hash
    texts: ChangedText[]
    isCopy: boolean
  } | null>(null)
  // Whoever has begun to translate types on: that is not asked again with each letter, and what was told stays.
  const isKnown = found?.about === about && !found.isCopy
  useEffect(() => {
    const [then, all] = JSON.parse(about) as [Hash, TextDifference[]]
    if (isKnown || all.length === 0) return
    const abort = new AbortController()
    const compare = async () => {
      const hashes = [own, then, ...all.flatMap(({ was, now }) => [was, now])]
      const texts = await Promise.all(hashes.map((hash) => textOf(site.id, hash, abort.signal)))
      const said = await askOnce<readonly string[], readonly string[]>('said', texts, abort.signal)
      const changed = all.flatMap(({ slot }, index) => {
        const at = 2 + index * 2
        return said[at] === said[at + 1] ? [] : [{ slot, was: texts[at]!, now: texts[at + 1]! }]
      })
      setFound({ about, own, texts: changed, isCopy: said[0] === said[1] })
    }
    // Without an answer nothing is told here; Checks does.
    compare().catch(() => {})
    return () => abort.abort()
  }, [about, own, isKnown, site.id])
  if (!original || found?.about !== about || found.texts.length === 0) return null
  // What was only just written is no copy until it is known to be one: a copy may be written over.
  return { original, texts: found.texts, isCopy: found.isCopy && found.own === own }
}
