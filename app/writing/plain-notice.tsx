import { useEffect, useState } from 'react'
import { mainSlot, type Page, slotOf } from '#core/site'
import type { PlainText } from '#core/texts'
import type { GivenText } from '../document/use-text'
import { useWrittenText } from '../document/use-written-text'
import type { HandleRef } from '../parts/editor/editor-handle'
import { untilFetched } from '../parts/fetched'

const pauseMs = 700
/** Longer texts are looked at by Checks. */
const longest = 200_000

/** Texts that their authors want as they are, for as long as this window stands. */
const left = new Set<string>()
const keyOf = (page: Page, slot: string) => `${page.id} ${slot}`
/** Has nothing more said of a text. */
export const leaveAsItIs = (page: Page, slot: string) => void left.add(keyOf(page, slot))

const words: Readonly<Record<PlainText, { readonly is: string; readonly make: string }>> = {
  markdown: {
    is: 'This looks like Markdown, which browsers show as it is typed.',
    make: 'Make it HTML',
  },
  document: {
    is: 'This is a whole page: its template makes all that stands around what its body says.',
    make: 'Keep what stands in its body',
  },
  paragraphs: {
    is: 'Browsers show a blank line as a space: these paragraphs run together.',
    make: 'Make paragraphs of them',
  },
}

/** Says of a text that was typed without tags how visitors will see it, and offers to make HTML of it. */
export function PlainNotice({
  page,
  slot,
  given,
  handle,
  isWhole,
}: {
  page: Page
  slot: string
  /** Whether its template takes whole documents. */
  isWhole: boolean
  given: GivenText | null
  handle: HandleRef
}) {
  const { text, write } = useWrittenText(
    { kind: 'content', id: page.id, ...(slot !== mainSlot && { slot }) },
    slotOf(page, slot),
    given,
  )
  const key = keyOf(page, slot)
  const [found, setFound] = useState<PlainText | null>(null)
  const isLookedAt = write !== null && text !== '' && text.length <= longest && !left.has(key)
  useEffect(() => {
    if (!isLookedAt) return
    let isOver = false
    const timer = setTimeout(() => {
      void untilFetched(() => import('./texts')).then(({ plainTextIn }) => {
        if (!isOver) setFound(plainTextIn(text))
      })
    }, pauseMs)
    return () => {
      isOver = true
      clearTimeout(timer)
    }
  }, [text, isLookedAt])

  // While it is typed on, what was found of it before stands.
  const kind = isLookedAt && !(isWhole && found === 'document') ? found : null
  if (kind === null) return <span />
  async function make() {
    const { htmlOfPlain, plainTextIn } = await untilFetched(() => import('./texts'))
    const now = handle.current?.text() ?? ''
    const is = plainTextIn(now)
    if (is) handle.current?.replace(0, now.length, htmlOfPlain(now, is))
    setFound(null)
  }
  return (
    <p role="status" className="flex flex-wrap gap-x-4 border-b border-rule bg-lapis-wash px-5 py-2 text-sm">
      <span>{words[kind].is}</span>
      <button type="button" className="link" onClick={() => void make()}>
        {words[kind].make}
      </button>
      <button
        type="button"
        className="link"
        onClick={() => {
          leaveAsItIs(page, slot)
          setFound(null)
        }}
      >
        Leave it as it is
      </button>
    </p>
  )
}
