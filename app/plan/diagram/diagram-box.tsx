import { type KeyboardEvent, memo, type PointerEvent } from 'react'
import { type Box, boxHeight, boxLabel, type Diagram, linePath } from './diagram-layout'

/** What a box may ask of the diagram; the same object for as long as the diagram stands. */
export interface BoxActions {
  readonly press: (event: PointerEvent, box: Box) => void
  readonly drag: (event: PointerEvent) => void
  readonly drop: () => void
  readonly cancel: () => void
  readonly fold: (pageId: string) => void
  readonly focus: (box: Box) => void
  readonly key: (event: KeyboardEvent, box: Box) => void
}

interface Props {
  readonly box: Box
  readonly hasBelow: boolean
  readonly isSelected: boolean
  /** Whether Tab comes to it. */
  readonly isStop: boolean
  /** A page is held over it, or is proposed to stand under it. */
  readonly isTarget: boolean
  readonly isDragged: boolean
  readonly actions: BoxActions
}

/** One page of the diagram. Remembered as it is: of hundreds only those that a key changes are made anew. */
export const DiagramBox = memo(function DiagramBox(props: Props) {
  const { box, hasBelow, isSelected, isStop, isTarget, isDragged, actions } = props
  const { page } = box
  return (
    <g
      data-box={page.id}
      role="treeitem"
      aria-label={box.hidden > 0 ? `${page.label} +${box.hidden}` : page.label}
      aria-selected={isSelected}
      aria-expanded={hasBelow && !box.isHome ? box.hidden === 0 : undefined}
      tabIndex={isStop ? 0 : -1}
      className="cursor-default outline-none [&:focus-visible>rect]:stroke-lapis [&:focus-visible>rect]:[stroke-width:3]"
      transform={`translate(${box.x},${box.y - boxHeight / 2})`}
      onPointerDown={(event) => actions.press(event, box)}
      onPointerMove={actions.drag}
      onPointerUp={actions.drop}
      onPointerCancel={actions.cancel}
      onDoubleClick={() => hasBelow && !box.isHome && actions.fold(page.id)}
      onFocus={() => actions.focus(box)}
      onKeyDown={(event) => actions.key(event, box)}
      opacity={isDragged ? 0.4 : 1}
    >
      <rect
        width={box.width}
        height={boxHeight}
        className={
          isTarget
            ? 'fill-verdigris-wash stroke-verdigris'
            : isSelected
              ? 'fill-lapis-wash stroke-lapis'
              : 'fill-paper stroke-ink'
        }
        strokeDasharray={box.trial ? '4 3' : undefined}
      />
      <text
        x={9}
        y={17.5}
        style={{ unicodeBidi: 'plaintext' }}
        className={`fill-ink text-[13px] ${box.isHome ? 'font-semibold' : ''} ${box.trial ? 'italic' : ''}`}
      >
        {boxLabel(page)}
      </text>
      {box.hidden > 0 && (
        <text x={box.width + 6} y={17.5} className="fill-quiet text-[12px]">
          +{box.hidden}
        </text>
      )}
      <title>{page.label}</title>
    </g>
  )
})

export const DiagramLines = memo(function DiagramLines({ lines }: Pick<Diagram, 'lines'>) {
  return <path d={lines.map(linePath).join('')} fill="none" className="stroke-faint" role="presentation" />
})

/** More boxes than can be told apart, as one shape. */
export const DiagramShapes = memo(function DiagramShapes({ boxes }: Pick<Diagram, 'boxes'>) {
  const shape = ({ x, y, width }: Box) => `M${x},${y - boxHeight / 2}h${width}v${boxHeight}h${-width}z`
  return <path d={boxes.map(shape).join('')} className="fill-paper stroke-ink" role="presentation" />
})
