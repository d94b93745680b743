import { type RefObject, useEffect, useState } from 'react'
import { Link } from 'react-router'
import { count } from '../parts/format'
import type { FrameContext } from '../upload/delivery-bar'

export const isUnderWay = ({ state }: { readonly state: string }): boolean =>
  state === 'running' || state === 'waiting'

const titles = { done: 'Sent', failed: 'Not sent' } as const

/**
 * Tells that a delivery has ended: in the window's title until it is looked at, and in views that show nothing of it
 * in a line with the way there.
 */
export function DeliveryNotice({
  delivery,
  underWay,
  isShown,
  to,
}: {
  delivery: FrameContext['delivery']
  /**
   * The delivery that was heard of under way: only its end is news. Noted as it is heard, since two states that come close
   * together are drawn once.
   */
  underWay: RefObject<string | null>
  /** Whether the view shows by itself how it ended. */
  isShown: boolean
  to: string
}) {
  const [ended, setEnded] = useState<FrameContext['delivery']>(null)
  useEffect(() => {
    if (!delivery) return
    if (isUnderWay(delivery)) setEnded(null)
    else if (underWay.current === delivery.deliveryId) {
      underWay.current = null
      if (delivery.state !== 'cancelled') setEnded(delivery)
    }
  }, [delivery, underWay])
  const word = ended?.state === 'done' || ended?.state === 'failed' ? titles[ended.state] : null
  useTitleWord(word)
  useEffect(() => {
    if (isShown && !document.hidden) setEnded(null)
  }, [isShown, ended])
  if (!ended || isShown) return null
  return (
    <p
      role="status"
      className={`flex items-baseline gap-4 border-b border-rule px-7 py-2 ${ended.state === 'done' ? 'bg-verdigris-wash' : 'bg-rubric-wash'}`}
    >
      <span>
        {ended.state === 'done'
          ? `The delivery has ended: ${count(ended.fileCount, 'file')} sent.`
          : 'The delivery did not come to its end.'}
      </span>
      <Link className="link" to={to} onClick={() => setEnded(null)}>
        Look at it
      </Link>
      <button type="button" className="link ml-auto" onClick={() => setEnded(null)}>
        Dismiss
      </button>
    </p>
  )
}

/** Puts a word before the window's title until the window is looked at. */
function useTitleWord(word: string | null): void {
  useEffect(() => {
    if (word === null || !document.hidden) return
    const title = document.title
    document.title = `${word} · ${title}`
    const restore = () => {
      if (!document.hidden) document.title = title
    }
    document.addEventListener('visibilitychange', restore)
    return () => {
      document.removeEventListener('visibilitychange', restore)
      document.title = title
    }
  }, [word])
}
