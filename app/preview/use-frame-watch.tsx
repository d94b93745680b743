import { type RefObject, useEffect, useState } from 'react'
import { isAnswered } from '../parts/away'
import { useStableActions } from '../parts/use-stable-actions'
import { whenBack } from '../session/session'
import { FrameWatch } from './frame-watch'

/**
 * Watches over a frame that shows pages of the site, for as long as its view stands.
 * @param load loads what it shows again
 */
export function useFrameWatch(frame: RefObject<HTMLIFrameElement | null>, load: () => Promise<void>) {
  const [isLost, setLost] = useState(false)
  const latest = useStableActions({ load })
  const [watch] = useState(
    () =>
      new FrameWatch({
        ask: () => frame.current?.contentWindow?.postMessage('rubricant-tell', '*'),
        load: () => void latest.load(),
        isAnswered,
        onLost: setLost,
      }),
  )
  useEffect(() => {
    const unsubscribe = whenBack(watch.wake)
    return () => {
      unsubscribe()
      watch.end()
    }
  }, [watch])
  return { watch, isLost }
}

/** Stands over a frame that shows nothing. */
export const LostFrame = () => (
  <p
    role="status"
    className="absolute inset-0 grid place-content-center border border-rule bg-paper p-6 text-center text-quiet"
  >
    There is no line to the server. The preview shows again when it is back.
  </p>
)
