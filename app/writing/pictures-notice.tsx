import { useEffect, useRef, useState } from 'react'
import { encodePath } from '#core/markup'
import { namesOf } from '#core/naming'
import { mainSlot, type Page, slotOf } from '#core/site'
import { away } from '../parts/away'
import { asJson, isJson } from '../document/post'
import { useSite } from '../document/site-context'
import type { GivenText } from '../document/use-text'
import { useWrittenText } from '../document/use-written-text'
import { useFiles } from '../files/files-context'
import type { HandleRef } from '../parts/editor/editor-handle'
import { count } from '../parts/format'
import { untilFetched } from '../parts/fetched'

const pauseMs = 700
const longest = 500_000

/** Texts whose pictures stay where they are, for as long as this window stands. */
const left = new Set<string>()
/** The file that a picture became; or why it became none, and whether it is of no use to go on. */
type Taken = { readonly fileId: string } | { readonly why: string; readonly isOver: boolean }
const notReached: Taken = { why: away, isOver: true }

/** Says of a text that its pictures stand on other sites, and offers to take them into this one. */
export function PicturesNotice({
  page,
  slot,
  given,
  handle,
}: {
  page: Page
  slot: string
  given: GivenText | null
  handle: HandleRef
}) {
  const { site, store } = useSite()
  const { uploads } = useFiles()
  const { text, write } = useWrittenText(
    { kind: 'content', id: page.id, ...(slot !== mainSlot && { slot }) },
    slotOf(page, slot),
    given,
  )
  const key = `${page.id} ${slot}`
  const [found, setFound] = useState<readonly string[]>([])
  const [taking, setTaking] = useState<{ readonly done: number; readonly all: number } | null>(null)
  const [failed, setFailed] = useState<readonly string[]>([])
  const cancel = useRef<AbortController | null>(null)
  const isLookedAt = write !== null && text.length <= longest && /https?:/i.test(text) && !left.has(key)
  useEffect(() => {
    if (!isLookedAt) return
    let isOver = false
    const timer = setTimeout(() => {
      void untilFetched(() => import('./texts')).then(({ picturesElsewhere }) => {
        if (!isOver) setFound(picturesElsewhere(text, site.publicAddress))
      })
    }, pauseMs)
    return () => {
      isOver = true
      clearTimeout(timer)
    }
  }, [text, isLookedAt, site.publicAddress])
  useEffect(() => () => cancel.current?.abort(), [])

  async function take(addresses: readonly string[]) {
    const { showInstead } = await untilFetched(() => import('./texts'))
    const ending = (cancel.current = new AbortController())
    const refused: string[] = []
    setFailed([])
    for (const [done, address] of addresses.entries()) {
      setTaking({ done, all: addresses.length })
      const taken = await ask(address, ending.signal)
      if (ending.signal.aborted) break
      if ('why' in taken) {
        refused.push(taken.why)
        if (taken.isOver) break
        continue
      }
      await store.catchUp()
      if (ending.signal.aborted) break
      const file = namesOf(store.get().site).files.get(taken.fileId)
      // What was typed meanwhile stands.
      const now = handle.current?.text()
      if (file === undefined || now === undefined) continue
      handle.current?.edit(showInstead(now, address, `/${encodePath(file)}`))
    }
    setTaking(null)
    setFailed([...new Set(refused)])
  }
  async function ask(address: string, signal: AbortSignal): Promise<Taken> {
    const wanted = { id: crypto.randomUUID(), address, keepsPlace: uploads.keepsPlace }
    try {
      const response = await fetch(`/sites/${site.id}/files/from-outside`, {
        method: 'POST',
        headers: asJson,
        body: JSON.stringify({ ...wanted, seen: store.get().revision }),
        signal,
      })
      if (!isJson(response)) return notReached
      const told = (await response.json()) as
        { fileId: string } | { problem: { code: string; message: string } }
      if ('fileId' in told) return told
      // What is wrong with one picture may not be with the next; with anything else it is.
      return { why: told.problem.message, isOver: !/^(not-fetched|file-too-large)$/.test(told.problem.code) }
    } catch {
      return notReached
    }
  }

  const shown = isLookedAt ? found : []
  if (shown.length === 0 && !taking) return null
  const hosts = [...new Set(shown.map((address) => new URL(address).host))]
  return (
    <div role="status" className="border-b border-rule bg-lapis-wash px-5 py-2 text-sm">
      {taking ? (
        <p className="flex flex-wrap gap-x-4">
          <span>
            {taking.done} of {count(taking.all, 'picture')} taken in…
          </span>
          <button type="button" className="link" onClick={() => cancel.current?.abort()}>
            Cancel
          </button>
        </p>
      ) : (
        <p className="flex flex-wrap gap-x-4">
          <span>
            {count(shown.length, 'picture')} of this text {shown.length === 1 ? 'stands' : 'stand'} on{' '}
            {hosts.length === 1 ? hosts[0] : `${hosts.length} other sites`}, and{' '}
            {shown.length === 1 ? 'is' : 'are'} gone when {hosts.length === 1 ? 'that site is' : 'those are'}.
          </span>
          <button type="button" className="link" onClick={() => void take(shown)}>
            Take {shown.length === 1 ? 'it' : 'them'} into this site
          </button>
          <button
            type="button"
            className="link"
            onClick={() => {
              left.add(key)
              setFound([])
            }}
          >
            Leave {shown.length === 1 ? 'it' : 'them'} there
          </button>
        </p>
      )}
      {failed.map((why) => (
        <p key={why} className="text-rubric">
          {why}
        </p>
      ))}
    </div>
  )
}
