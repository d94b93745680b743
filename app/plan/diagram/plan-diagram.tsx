import {
  type KeyboardEvent,
  type PointerEvent,
  useDeferredValue,
  useEffect,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
} from 'react'
import { branchOf, lastUnder, type Tree, treeOf } from '#core/plan'
import { useSelection, useSite } from '../../document/site-context'
import { useStableActions } from '../../parts/use-stable-actions'
import { printDiagram, savePng, saveSvg } from './diagram-export'
import { type BoxActions, DiagramBox, DiagramLines, DiagramShapes } from './diagram-box'
import { type Box, layOut, seenIn } from './diagram-layout'
import { useDiagramView } from './use-diagram-view'

/** A plan of more pages opens folded, and one that grows beyond the second number folds itself. */
const largePlan = 60
const veryLargePlan = 400
/** More boxes at a time cannot be told apart, and would hold the browser up. */
const mostDrawn = 1200
const none: ReadonlySet<string> = new Set()
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
  // A large plan is laid out anew a moment after the key that changes it.
  const shown = useDeferredValue(site)
  const shownTree = treeOf(shown)
  const [openedWith] = useState(site.pages.length)
  /** What the author folded; until then a plan that opens large, or has become very large, is folded. */
  const [chosenFolds, setFolded] = useState<ReadonlySet<string> | null>(null)
  const isLarge = openedWith > largePlan || shown.pages.length > veryLargePlan
  const firstFolds = useMemo(() => (isLarge ? sectionsOf(shownTree) : none), [isLarge, shownTree])
  const folded = chosenFolds ?? firstFolds
  const diagram = useMemo(() => layOut(shownTree, shown.homeId, folded), [shownTree, shown.homeId, folded])
  const svg = useRef<SVGSVGElement>(null)
  const stage = useRef<SVGGElement>(null)
  const [drag, setDrag] = useState<Drag | null>(null)

  const { region, fit, zoomBy, reveal } = useDiagramView(svg, stage, diagram, selected.id)
  const seen = useMemo(() => (region ? seenIn(diagram, region) : { boxes: [], lines: [] }), [diagram, region])
  const isCrowd = seen.boxes.length > mostDrawn

  const fold = (id: string) => {
    const next = new Set(folded)
    if (!next.delete(id)) next.add(id)
    setFolded(next)
  }

  const boxes = useMemo(() => new Map(diagram.boxes.map((box) => [box.page.id, box])), [diagram])
  /** Where Tab comes to: the chosen page, or the home page while that is folded away. It is always there. */
  const stop = boxes.get(selected.id) ?? boxes.get(shown.homeId)!
  const drawn = isCrowd ? [stop] : seen.boxes.includes(stop) ? seen.boxes : [...seen.boxes, stop]
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
      store.ask({
        kind: 'movePages',
        pageIds: [drag.id],
        parentId,
        after: lastUnder(tree, parentId, [drag.id]),
      })
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
      reveal(boxes.get(id)!)
      wantsFocus.current = id
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

  // What is chosen in the register is shown here.
  const selectedBox = boxes.get(selected.id)
  const lastRevealed = useRef(selected.id)
  useEffect(() => {
    if (!selectedBox || lastRevealed.current === selected.id) return
    lastRevealed.current = selected.id
    reveal(selectedBox)
  })

  /** A box takes the focus once it is there: it may have been out of view. */
  const wantsFocus = useRef<string>(null)
  useLayoutEffect(() => {
    const box = svg.current?.querySelector<SVGGElement>(`[data-box="${wantsFocus.current}"]`)
    if (!box) return
    wantsFocus.current = null
    box.focus({ preventScroll: true })
  })

  const actions = useStableActions<BoxActions>({
    press: onPointerDown,
    drag: onPointerMove,
    drop: onPointerUp,
    cancel: () => setDrag(null),
    fold,
    focus: reveal,
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
          onClick={() => setFolded(folded.size > 0 ? none : sectionsOf(tree))}
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
          <DiagramLines lines={seen.lines} />
          {isCrowd && <DiagramShapes boxes={seen.boxes} />}
          {drawn.map((box) => {
            const { id } = box.page
            return (
              <DiagramBox
                key={id}
                box={box}
                hasBelow={tree.childrenOf(id).length > 0}
                isSelected={id === selected.id}
                isStop={box === stop}
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

/** The sections of the top level. */
const sectionsOf = (tree: Tree): ReadonlySet<string> =>
  new Set(
    tree.places
      .filter(({ page, depth }) => depth === 0 && tree.childrenOf(page.id).length > 0)
      .map(({ page }) => page.id),
  )
