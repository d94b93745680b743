import { drag, type D3DragEvent, select } from 'd3'

export { dropAt } from './drop-at'

/** What a hand may slip without meaning to drag, in pixels. */
const slipPx = 5
/** So near to an end of the list it moves on by itself, faster the nearer. */
const edgePx = 40
const fastestPx = 14

/** What is told of a drag. */
export interface RowDragging {
  /** A page is taken hold of and moved; false where it is not to be. */
  readonly begin: (pageId: string) => boolean
  /** Where the pointer is, in pixels: from the top of all rows, and aside of where it began. Null away from the list. */
  readonly over: (place: { top: number; aside: number } | null) => void
  /** Let go of, or called off by Escape. */
  readonly end: (isDropped: boolean) => void
}

/**
 * Has rows dragged by a mouse, or by a finger on their number: elsewhere a finger scrolls.
 * @param scroller what scrolls; its first element holds the rows
 * @returns takes it off again
 */
export function dragRows(scroller: HTMLElement, { begin, over, end }: RowDragging): () => void {
  let from: { x: number; y: number; pageId: string } | null = null
  let isBegun = false
  let pointer: { clientX: number; clientY: number } = { clientX: 0, clientY: 0 }
  let beganX = 0
  let frame = 0

  function tell(): void {
    const box = scroller.getBoundingClientRect()
    const isInside =
      pointer.clientX >= box.left &&
      pointer.clientX <= box.right &&
      pointer.clientY >= box.top - edgePx &&
      pointer.clientY <= box.bottom + edgePx
    over(
      isInside
        ? {
            top: Math.max(0, Math.min(box.height, pointer.clientY - box.top)) + scroller.scrollTop,
            aside: pointer.clientX - beganX,
          }
        : null,
    )
  }
  /** Goes on for as long as the pointer stays at an end. */
  function roll(): void {
    const { top, bottom } = scroller.getBoundingClientRect()
    const by =
      pointer.clientY < top + edgePx
        ? pointer.clientY - top - edgePx
        : pointer.clientY > bottom - edgePx
          ? pointer.clientY - bottom + edgePx
          : 0
    const was = scroller.scrollTop
    if (by !== 0) scroller.scrollTop += Math.max(-1, Math.min(1, by / edgePx)) * fastestPx
    if (scroller.scrollTop !== was) tell()
    frame = requestAnimationFrame(roll)
  }
  function stop(isDropped: boolean): void {
    cancelAnimationFrame(frame)
    removeEventListener('keydown', onKey, true)
    const had = isBegun
    from = null
    isBegun = false
    if (had) end(isDropped)
  }
  function onKey(event: KeyboardEvent): void {
    if (event.key !== 'Escape') return
    event.preventDefault()
    event.stopPropagation()
    stop(false)
  }

  const rowOf = (target: EventTarget | null) =>
    target instanceof Element ? target.closest<HTMLElement>('[data-page]') : null
  const behaviour = drag<HTMLElement, unknown>()
    .clickDistance(slipPx)
    .filter((event: MouseEvent | TouchEvent) => {
      const { target } = event
      if (!(target instanceof Element) || !rowOf(target) || target.closest('button, input')) return false
      if ('touches' in event) return event.touches.length === 1 && target.closest('[data-grip]') !== null
      return event.button === 0 && !event.ctrlKey && !event.shiftKey && !event.metaKey
    })
    .on('start', (event: D3DragEvent<HTMLElement, unknown, unknown>) => {
      const { target } = event.sourceEvent as Event
      const source = event.sourceEvent as MouseEvent | TouchEvent
      beganX = ('touches' in source ? source.changedTouches[0]! : source).clientX
      from = { x: event.x, y: event.y, pageId: rowOf(target)!.dataset.page! }
    })
    .on('drag', (event: D3DragEvent<HTMLElement, unknown, unknown>) => {
      if (!from) return
      const source = event.sourceEvent as MouseEvent | TouchEvent
      pointer = 'touches' in source ? source.changedTouches[0]! : source
      if (!isBegun) {
        if (Math.hypot(event.x - from.x, event.y - from.y) <= slipPx) return
        if (!begin(from.pageId)) return stop(false)
        isBegun = true
        addEventListener('keydown', onKey, true)
        frame = requestAnimationFrame(roll)
      }
      tell()
    })
    .on('end', () => stop(true))
  // It would keep fingers from scrolling anywhere in the list; a row's number says so for itself.
  select(scroller).call(behaviour).style('touch-action', null)
  return () => {
    stop(false)
    select(scroller).on('.drag', null)
  }
}
