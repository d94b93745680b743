import { type RefObject, useEffect, useRef } from 'react'
import type { Report } from './messages'

/** Loads of one revision in a row that did not show it yet, at the most: then something else is wrong. */
const mostAgain = 5

const reload = (frame: RefObject<HTMLIFrameElement | null>) =>
  frame.current?.contentWindow?.postMessage('rubricant-reload', '*')

/**
 * Has a preview loaded again where it stands whenever the site has another revision.
 * @returns to be told what is shown: a page that was on its way while another revision came hears of nothing, and shows the one before
 */
export function useReloads(
  frame: RefObject<HTMLIFrameElement | null>,
  revision: number,
): (report: Report) => void {
  const wanted = useRef(revision)
  const again = useRef(0)
  useEffect(() => {
    if (wanted.current === revision) return
    wanted.current = revision
    again.current = 0
    reload(frame)
  }, [frame, revision])
  return (report) => {
    if (report.revision >= wanted.current || again.current >= mostAgain) return
    again.current += 1
    reload(frame)
  }
}
