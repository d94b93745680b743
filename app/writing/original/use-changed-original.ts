import { useEffect, useState } from 'react'
import { originalOf } from '#core/plan'
import { emptyHash, type Hash, type Page, slotOf, textsOfPage } from '#core/site'
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

interface Pair {
  readonly slot: string
  readonly was: Hash
  readonly now: Hash
}

/** Texts that differ between the original of then and that of now, by their hashes; the page's own one is the first of them. */
function pairsOf(page: Page, original: Page | undefined): Pair[] {
  const { translatedFrom: then } = page
  if (!then || original?.id !== then.ofId) return []
  const slots = new Set([...textsOfPage(then), ...textsOfPage(original)].map(({ slot }) => slot))
  return [...slots]
    .map((slot) => ({ slot, was: slotOf(then, slot), now: slotOf(original, slot) }))
    .filter(({ was, now }) => was !== now)
}

const textOf = (siteId: string, hash: Hash, signal: AbortSignal) =>
  hash === emptyHash ? Promise.resolve('') : fetchText(siteId, hash, signal)

/** Whether the page that this one is a translation of was changed since; null where it was not, and until it is known. */
export function useChangedOriginal(page: Page): ChangedOriginal | null {
  const { site } = useSite()
  const original = page.translatedFrom ? originalOf(site, page) : undefined
  const pairs = pairsOf(page, original)
  const asked = JSON.stringify([page.content, page.translatedFrom?.content, pairs])
  const [found, setFound] = useState<{ asked: string; texts: ChangedText[]; isCopy: boolean } | null>(null)
  useEffect(() => {
    const [own, then, all] = JSON.parse(asked) as [Hash, Hash, Pair[]]
    if (all.length === 0) return
    const abort = new AbortController()
    const compare = async () => {
      const hashes = [own, then, ...all.flatMap(({ was, now }) => [was, now])]
      const texts = await Promise.all(hashes.map((hash) => textOf(site.id, hash, abort.signal)))
      const said = await askOnce<readonly string[], readonly string[]>('said', texts, abort.signal)
      const changed = all.flatMap(({ slot }, index) => {
        const at = 2 + index * 2
        return said[at] === said[at + 1] ? [] : [{ slot, was: texts[at]!, now: texts[at + 1]! }]
      })
      setFound({ asked, texts: changed, isCopy: said[0] === said[1] })
    }
    // Without an answer nothing is told here; Checks does.
    compare().catch(() => {})
    return () => abort.abort()
  }, [asked, site.id])
  if (!original || found?.asked !== asked || found.texts.length === 0) return null
  return { original, texts: found.texts, isCopy: found.isCopy }
}
