import { select as d3select, zoom as d3zoom, type ZoomBehavior, zoomIdentity, type ZoomTransform } from 'd3'
import { type RefObject, useCallback, useEffect, useRef, useState } from 'react'
import { type Box, boxHeight, type Diagram, type View } from './diagram-layout'

/** At this scale labels can just be read. */
const smallestFit = 0.6

export interface DiagramView {
  /** What has to be drawn: what shows, with as much again on every side; null before the first look. */
  readonly region: View | null
  readonly fit: () => void
  readonly zoomBy: (factor: number) => void
  /** Brings a box into view, if it is not. */
  readonly reveal: (box: Box) => void
}

/** Moves and zooms the diagram within its area (the wheel, a drag of the ground, the buttons). */
export function useDiagramView(
  svg: RefObject<SVGSVGElement | null>,
  stage: RefObject<SVGGElement | null>,
  diagram: Diagram,
  selectedId: string,
): DiagramView {
  const behaviour = useRef<ZoomBehavior<SVGSVGElement, unknown>>(null)
  /** Set once the author has moved or zoomed: until then the view follows the plan and the room there is. */
  const moved = useRef(false)
  const transform = useRef<ZoomTransform>(zoomIdentity)
  const [region, setRegion] = useState<View | null>(null)

  const viewNow = useCallback((): View => {
    const { x, y, k } = transform.current
    const { clientWidth = 0, clientHeight = 0 } = svg.current ?? {}
    return { x: -x / k, y: -y / k, width: clientWidth / k, height: clientHeight / k }
  }, [svg])

  useEffect(() => {
    const made = d3zoom<SVGSVGElement, unknown>()
      .scaleExtent([0.05, 3])
      // A press on a box is a drag of the box; the wheel and the ground are for the view.
      .filter((event: Event) => event.type === 'wheel' || !(event.target as Element).closest('[data-box]'))
      .on('zoom', (event: { transform: ZoomTransform; sourceEvent: Event | null }) => {
        if (event.sourceEvent) moved.current = true
        transform.current = event.transform
        stage.current?.setAttribute('transform', event.transform.toString())
        const view = viewNow()
        setRegion((old) => (old && isWithin(view, old) && old.width < view.width * 8 ? old : around(view)))
      })
    behaviour.current = made
    d3select(svg.current!).call(made).on('dblclick.zoom', null)
  }, [svg, stage, viewNow])

  const chosen = useRef(selectedId)
  useEffect(() => {
    chosen.current = selectedId
  })
  const fit = useCallback(() => {
    const area = svg.current
    if (!area || !behaviour.current) return
    const { clientWidth, clientHeight } = area
    const { x, y, width, height } = diagram.bounds
    // Never larger than life: three pages need not fill the screen. Nor too small to read: then the
    // chosen page stands in the middle, and the rest is reached by moving the view.
    const whole = Math.min(1, clientWidth / width, clientHeight / height)
    const scale = Math.max(smallestFit, whole)
    const centre = { x: x + width / 2, y: y + height / 2 }
    const box = scale > whole ? diagram.boxes.find((one) => one.page.id === chosen.current) : undefined
    if (box) centre.y = box.y
    if (width * scale > clientWidth) centre.x = box ? box.x + box.width / 2 : x + clientWidth / scale / 2
    const next = zoomIdentity
      .translate(clientWidth / 2 - centre.x * scale, clientHeight / 2 - centre.y * scale)
      .scale(scale)
    d3select(area).call(behaviour.current.transform, next)
  }, [svg, diagram])
  useEffect(() => {
    const follow = () => {
      if (!moved.current) fit()
    }
    follow()
    const observer = new ResizeObserver(follow)
    observer.observe(svg.current!)
    return () => observer.disconnect()
  }, [svg, fit])

  return {
    region,
    fit,
    zoomBy: (factor) => {
      moved.current = true
      if (behaviour.current) d3select(svg.current!).call(behaviour.current.scaleBy, factor)
    },
    reveal: (box) => {
      const place = { x: box.x, y: box.y - boxHeight / 2, width: box.width, height: boxHeight }
      if (!behaviour.current || isWithin(place, viewNow())) return
      d3select(svg.current!).call(behaviour.current.translateTo, box.x + box.width / 2, box.y)
    },
  }
}

const isWithin = (inner: View, outer: View): boolean =>
  inner.x >= outer.x &&
  inner.y >= outer.y &&
  inner.x + inner.width <= outer.x + outer.width &&
  inner.y + inner.height <= outer.y + outer.height

const around = ({ x, y, width, height }: View): View => ({
  x: x - width,
  y: y - height,
  width: width * 3,
  height: height * 3,
})
