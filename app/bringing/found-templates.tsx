import { ArrowDown, ArrowUp, Maximize2 } from 'lucide-react'
import { type ReactNode, useState } from 'react'
import type { Edges, FrameMark, Model } from '#core/bringing'
import type { BringingView } from '#server/bringing'
import { count } from '../parts/format'
import { afterMove, blocksOf, type Piece } from './model-lines'

/** Lines at both ends of a long stretch that are shown before it is unfolded. */
const shownAtEnds = { frame: 4, slot: 3 }

/**
 * What pages were found to share: each template over one of its pages, with the edges of its slots to be moved.
 * @param onMove gets where they were moved to, null to have them as they were found; null where they cannot be moved
 */
export function FoundTemplates({
  view,
  isBusy,
  onMove,
}: {
  view: BringingView
  /** Whether it is being worked out what comes of a move. */
  isBusy: boolean
  onMove: ((marks: readonly FrameMark[] | null) => void) | null
}) {
  const { templates, marks } = view
  return (
    <>
      {marks.length > 0 && onMove && (
        <p className="mb-3 text-sm">
          <button
            type="button"
            className="text-lapis underline underline-offset-4"
            aria-disabled={isBusy}
            onClick={() => !isBusy && onMove(null)}
          >
            Put back the edges that were found
          </button>
        </p>
      )}
      <ul>
        {templates.map(({ name, pages, slots, isWhole, source, model }) => (
          <li key={name} className="mb-5">
            <p className="mb-1.5">
              <b>{name}</b>{' '}
              <span className="text-quiet">
                {isWhole
                  ? `${count(pages, 'page')} that ${pages === 1 ? 'shares' : 'share'} no frame, each kept whole`
                  : `fits ${count(pages, 'page')}${slots.length > 0 ? `; further slots: ${slots.join(', ')}` : ''}`}
              </span>
            </p>
            {model && (
              <OverItsPage
                model={model}
                isBusy={isBusy}
                onMove={onMove && ((move) => onMove(afterMove(marks, move)))}
              />
            )}
            {!isWhole && (
              <details className="mt-1.5">
                <summary className="cursor-pointer text-sm text-lapis underline underline-offset-4">
                  The template’s source
                </summary>
                <pre
                  tabIndex={0}
                  aria-label={`Source of ${name}`}
                  className="mt-1 max-h-72 overflow-auto bg-vellum p-3 font-mono text-[12.5px] leading-[1.5]"
                >
                  {source}
                </pre>
              </details>
            )}
          </li>
        ))}
      </ul>
    </>
  )
}

type OnMove = ((move: NonNullable<Edges[keyof Edges]>) => void) | null

/** A template over the page that it was lifted from. */
function OverItsPage({ model, isBusy, onMove }: { model: Model; isBusy: boolean; onMove: OnMove }) {
  return (
    <div className="rounded-[5px] border border-rule bg-vellum font-mono text-[12.5px] leading-[1.5]">
      <p className="border-b border-rule px-3 py-1.5 font-sans text-sm text-quiet">
        Over <span className="font-mono">{model.path}</span>: what stands in a box is each page’s own, the
        rest is the template’s.
      </p>
      <div
        className="max-h-[30rem] overflow-auto py-2"
        tabIndex={0}
        role="group"
        aria-label={`Template over ${model.path}`}
      >
        {blocksOf(model).map((block, index) =>
          block.kind === 'frame' ? (
            <Folded
              key={index}
              count={block.lines.length}
              atEnds={shownAtEnds.frame}
              className="px-3 text-quiet"
            >
              {(at) => <FrameLine key={at} line={block.lines[at]!} />}
            </Folded>
          ) : (
            <div
              key={block.slot.name}
              className="mx-1.5 my-1 rounded-[4px] border border-lapis bg-lapis-wash"
            >
              <SlotEdges name={block.slot.name} edges={block.slot.edges} isBusy={isBusy} onMove={onMove} />
              <Folded count={block.lines.length} atEnds={shownAtEnds.slot} className="px-1.5 pb-1">
                {(at) => (
                  <span key={at} className="block overflow-hidden text-ellipsis whitespace-pre">
                    {block.lines[at] || ' '}
                  </span>
                )}
              </Folded>
            </div>
          ),
        )}
      </div>
    </div>
  )
}

const FrameLine = ({ line }: { line: readonly Piece[] }) => (
  <span className="block overflow-hidden text-ellipsis whitespace-pre">
    {line.map(({ text, by }, index) =>
      by === null ? (
        text
      ) : (
        <mark key={index} className="rounded-[2px] bg-ochre-wash text-ink" title={`Written by ${by}`}>
          {text}
        </mark>
      ),
    )}
    {line.length === 0 && ' '}
  </span>
)

/** Lines, of which those in the middle are shown when they are asked for. */
function Folded({
  count: all,
  atEnds,
  className,
  children,
}: {
  count: number
  atEnds: number
  className: string
  children: (at: number) => ReactNode
}) {
  const [isOpen, setOpen] = useState(false)
  const isFolded = !isOpen && all > 2 * atEnds + 2
  const lines = Array.from({ length: all }, (_, at) => at)
  if (!isFolded) return <div className={className}>{lines.map(children)}</div>
  return (
    <div className={className}>
      {lines.slice(0, atEnds).map(children)}
      <button
        type="button"
        className="block font-sans text-sm text-lapis underline underline-offset-4"
        onClick={() => setOpen(true)}
      >
        {count(all - 2 * atEnds, 'line')} more
      </button>
      {lines.slice(-atEnds).map(children)}
    </div>
  )
}

const edgeButtons = [
  { edge: 'startOut', words: 'Begin earlier, with what stands before it', Icon: ArrowUp },
  { edge: 'startIn', words: 'Begin later, and leave its first element to the template', Icon: ArrowDown },
  { edge: 'endIn', words: 'End earlier, and leave its last element to the template', Icon: ArrowUp },
  { edge: 'endOut', words: 'End later, with what stands after it', Icon: ArrowDown },
  { edge: 'around', words: 'Take in the element around it', Icon: Maximize2 },
] as const

/** What a slot is called, and the ways in which its edges can be moved. */
function SlotEdges({
  name,
  edges,
  isBusy,
  onMove,
}: {
  name: string
  edges: Edges
  isBusy: boolean
  onMove: OnMove
}) {
  const button = (which: (typeof edgeButtons)[number]['edge']) => {
    const { edge, words, Icon } = edgeButtons.find((one) => one.edge === which)!
    const move = edges[edge]
    return (
      <button
        type="button"
        className="rounded-[3px] p-0.5 text-lapis hover:bg-paper aria-disabled:text-faint aria-disabled:hover:bg-transparent"
        aria-label={`${words}: ${name}`}
        title={words}
        aria-disabled={move === null || isBusy}
        onClick={() => move && !isBusy && onMove?.(move)}
      >
        <Icon size={14} aria-hidden />
      </button>
    )
  }
  return (
    <p className="flex flex-wrap items-center gap-x-3 px-1.5 py-1 font-sans text-sm">
      <b className="mr-auto min-w-0 truncate font-medium text-lapis">{name}</b>
      {onMove && (
        <>
          <span className="flex items-center gap-0.5">
            <span className="mr-0.5 text-quiet">begins</span>
            {button('startOut')}
            {button('startIn')}
          </span>
          <span className="flex items-center gap-0.5">
            <span className="mr-0.5 text-quiet">ends</span>
            {button('endIn')}
            {button('endOut')}
          </span>
          {button('around')}
        </>
      )}
    </p>
  )
}
