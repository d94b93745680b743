import { select as d3select, zoom as d3zoom, type ZoomBehavior, zoomIdentity } from 'd3'
import {
  type KeyboardEvent,
  type PointerEvent,
  useCallback,
  useDeferredValue,
  useEffect,
  useMemo,
  useRef,
  useState,
} from 'react'
import { branchOf, treeOf } from '#core/plan'
import { useSelection, useSite } from '../document/site-context'
import { useStableActions } from '../parts/use-stable-actions'
import { printDiagram, savePng, saveSvg } from './diagram-export'
import { type BoxActions, DiagramBox, DiagramLines } from './diagram-box'
import { type Box, layOut } from './diagram-layout'

/** At this scale labels can just be read. */
const smallestFit = 0.6
/** Pixels the pointer has to go before a press becomes a drag. */
const dragAfter = 6

interface Drag {
  readonly id: string
  readonly x: number
  readonly y: number
  readonly started: boolean
  readonly over: string | null
}

/** The plan as boxes and lines: fold, zoom, drag a page onto another to put it there. */
export function PlanDiagram() {
  const { site, tree, store, asked } = useSite()
  const { selected, select } = useSelection()
  const [folded, setFolded] = useState<ReadonlySet<string>>(() => foldedAtFirst(site.pages.length, tree))
  // A large plan is laid out anew a moment after the key that changes it.
  const shown = useDeferredValue(site)
  const diagram = useMemo(() => layOut(treeOf(shown), shown.homeId, folded), [shown, folded])
  const svg = useRef<SVGSVGElement>(null)
  const stage = useRef<SVGGElement>(null)
  const moved = useRef(false)
  const behaviour = useRef<ZoomBehavior<SVGSVGElement, unknown>>(null)
  const [drag, setDrag] = useState<Drag | null>(null)

  useEffect(() => {
    const made = d3zoom<SVGSVGElement, unknown>()
      .scaleExtent([0.05, 3])
      // A press on a box is a drag of the box; the wheel and the ground are for the view.
      .filter((event: Event) => event.type === 'wheel' || !(event.target as Element).closest('[data-box]'))
      .on(
        'zoom',
        ({ transform, sourceEvent }: { transform: { toString(): string }; sourceEvent: Event | null }) => {
          if (sourceEvent) moved.current = true
          stage.current?.setAttribute('transform', transform.toString())
        },
      )
    behaviour.current = made
    d3select(svg.current!).call(made).on('dblclick.zoom', null)
  }, [])

  const selectedId = useRef(selected.id)
  useEffect(() => {
    selectedId.current = selected.id
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
    const box = scale > whole ? diagram.boxes.find((one) => one.page.id === selectedId.current) : undefined
    if (box) centre.y = box.y
    if (width * scale > clientWidth) centre.x = box ? box.x + box.width / 2 : x + clientWidth / scale / 2
    const transform = zoomIdentity
      .translate(clientWidth / 2 - centre.x * scale, clientHeight / 2 - centre.y * scale)
      .scale(scale)
    d3select(area).call(behaviour.current.transform, transform)
  }, [diagram])
  // Until the author moves or zooms the view it follows the plan and the room there is.
  useEffect(() => {
    const follow = () => {
      if (!moved.current) fit()
    }
    follow()
    const observer = new ResizeObserver(follow)
    observer.observe(svg.current!)
    return () => observer.disconnect()
  }, [fit])

  const zoomBy = (factor: number) => {
    moved.current = true
    if (behaviour.current) d3select(svg.current!).call(behaviour.current.scaleBy, factor)
  }
  const fold = (id: string) =>
    setFolded((old) => {
      const next = new Set(old)
      if (!next.delete(id)) next.add(id)
      return next
    })

  const boxes = useMemo(() => new Map(diagram.boxes.map((box) => [box.page.id, box])), [diagram])
  const isBelow = (id: string, above: string) => branchOf(tree, above).some((page) => page.id === id)
  const canDrop = (id: string, under: string) =>
    id !== under && !isBelow(under, id) && (tree.byId.get(id)?.parentId ?? site.homeId) !== under

  function onPointerDown(event: PointerEvent, box: Box) {
    if (event.button !== 0) return
    ;(event.currentTarget as Element).setPointerCapture(event.pointerId)
    setDrag({ id: box.page.id, x: event.clientX, y: event.clientY, started: false, over: null })
  }
  function onPointerMove(event: PointerEvent) {
    if (!drag || drag.id === site.homeId) return
    const started = drag.started || Math.hypot(event.clientX - drag.x, event.clientY - drag.y) > dragAfter
    if (!started) return
    const hit = document
      .elementsFromPoint(event.clientX, event.clientY)
      .map((element) => element.closest<SVGGElement>('[data-box]')?.dataset.box)
      .find((id) => id !== undefined && id !== drag.id)
    setDrag({ ...drag, started, over: hit !== undefined && canDrop(drag.id, hit) ? hit : null })
  }
  function onPointerUp() {
    if (drag?.over) {
      // A hand slips more easily than a key: a drag is always asked about, in the register.
      const parentId = drag.over === site.homeId ? null : drag.over
      store.ask({ kind: 'movePages', pageIds: [drag.id], parentId, after: lastUnder(tree, parentId) })
    }
    // Chosen only now: what the choice shows above would move the boxes under the pointer.
    else if (drag && !drag.started) select(drag.id)
    setDrag(null)
  }

  function onKeyDown(event: KeyboardEvent, box: Box) {
    const go = (id: string | undefined) => {
      event.preventDefault()
      if (id === undefined) return
      select(id)
      svg.current?.querySelector<SVGGElement>(`[data-box="${id}"]`)?.focus()
    }
    const siblingBy = (by: number) => {
      const column = diagram.boxes.filter((one) => one.x === box.x).sort((a, b) => a.y - b.y)
      return column[column.indexOf(box) + by]?.page.id
    }
    const below = diagram.lines.filter((line) => line.from === box).map((line) => line.to.page.id)
    switch (event.key) {
      case 'ArrowDown':
        return go(siblingBy(1))
      case 'ArrowUp':
        return go(siblingBy(-1))
      case 'ArrowLeft':
        return go(diagram.lines.find((line) => line.to === box)?.from.page.id)
      case 'ArrowRight':
        return box.hidden > 0 ? fold(box.page.id) : go(below[0])
      case 'Enter':
      case ' ':
        event.preventDefault()
        return tree.childrenOf(box.page.id).length > 0 && fold(box.page.id)
      case '+':
        return zoomBy(1.25)
      case '-':
        return zoomBy(0.8)
      case '0':
        return fit()
    }
  }

  const actions = useStableActions<BoxActions>({
    press: onPointerDown,
    drag: onPointerMove,
    drop: onPointerUp,
    cancel: () => setDrag(null),
    fold,
    key: onKeyDown,
  })
  const proposedUnder =
    asked?.change.kind === 'movePages' && !asked.isShown ? (asked.change.parentId ?? site.homeId) : null
  const title = `Plan of ${site.name}`
  return (
    <div className="grid h-full min-h-0 grid-rows-[auto_1fr_auto]">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1 px-7 py-2 text-sm">
        <button type="button" className="link" onClick={fit}>
          Fit
        </button>
        <button type="button" className="link" onClick={() => zoomBy(1.25)}>
          Larger
        </button>
        <button type="button" className="link" onClick={() => zoomBy(0.8)}>
          Smaller
        </button>
        <button
          type="button"
          className="link"
          onClick={() => setFolded(folded.size > 0 ? new Set() : foldedAtFirst(Infinity, tree))}
        >
          {folded.size > 0 ? 'Unfold all' : 'Fold all'}
        </button>
        <span className="ml-auto flex gap-4">
          <button type="button" className="link" onClick={() => saveSvg(diagram, title)}>
            Save as SVG
          </button>
          <button type="button" className="link" onClick={() => void savePng(diagram, title)}>
            as PNG
          </button>
          <button type="button" className="link" onClick={() => printDiagram(diagram, title, false)}>
            Print
          </button>
          <button type="button" className="link" onClick={() => printDiagram(diagram, title, true)}>
            Print across pages
          </button>
        </span>
      </div>
      <svg
        ref={svg}
        className={`h-full min-h-0 w-full touch-none select-none ${drag?.started ? 'cursor-grabbing' : 'cursor-grab'}`}
        role="tree"
        aria-label="The plan as a diagram"
      >
        <g ref={stage} role="presentation">
          <DiagramLines lines={diagram.lines} />
          {diagram.boxes.map((box) => {
            const { id } = box.page
            return (
              <DiagramBox
                key={id}
                box={box}
                hasBelow={tree.childrenOf(id).length > 0}
                isSelected={id === selected.id}
                isStop={id === selected.id || (box.isHome && !boxes.has(selected.id))}
                isTarget={drag?.over === id || proposedUnder === id}
                isDragged={drag?.started === true && drag.id === id}
                actions={actions}
              />
            )
          })}
        </g>
      </svg>
      <p className="border-t border-rule px-7 py-2.5 text-sm text-quiet">
        Drag a page onto another to put it there; a double click folds what stands below. Arrow keys go from
        box to box.
      </p>
    </div>
  )
}

/** A large plan opens with its sections folded, so that it can be taken in. */
function foldedAtFirst(pageCount: number, tree: ReturnType<typeof useSite>['tree']): ReadonlySet<string> {
  if (pageCount <= 60) return new Set()
  return new Set(
    tree.places
      .filter(({ page, depth }) => depth === 0 && tree.childrenOf(page.id).length > 0)
      .map(({ page }) => page.id),
  )
}

/** The last page under another that is no trial page, or null. */
function lastUnder(tree: ReturnType<typeof useSite>['tree'], parentId: string | null): string | null {
  const below = tree.childrenOf(parentId).filter((page) => !page.trial)
  return below[below.length - 1]?.id ?? null
}
