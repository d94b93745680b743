import { count } from '../format'
import type { Hunk } from './hunks'

/** Lines alike that are shown around what differs. */
const around = 2

/** What differs between two texts, line by line, in a region that scrolls. */
export function Difference({
  label,
  hunks,
  sides,
  alike,
  onBring,
}: {
  /** What is shown, for a screen reader. */
  label: string
  hunks: readonly Hunk[]
  /** What each side is called: `then` and `now`. */
  sides: readonly [string, string]
  /** What is said of lines that do not differ: `as now`. */
  alike: string
  /** Brings a stretch of the first side into the second, by its place among the hunks. */
  onBring?: (index: number) => void
}) {
  return (
    <div
      className="min-h-0 overflow-auto px-5 py-4 font-mono text-[13px] leading-6"
      tabIndex={0}
      role="region"
      aria-label={label}
    >
      {hunks.map((hunk, index) =>
        hunk.kind === 'same' ? (
          <Same
            key={index}
            lines={hunk.lines}
            alike={alike}
            isFirst={index === 0}
            isLast={index === hunks.length - 1}
          />
        ) : (
          <Other key={index} hunk={hunk} sides={sides} onBring={onBring ? () => onBring(index) : null} />
        ),
      )}
    </div>
  )
}

function Same({
  lines,
  alike,
  isFirst,
  isLast,
}: {
  lines: readonly string[]
  alike: string
  isFirst: boolean
  isLast: boolean
}) {
  const head = isFirst ? [] : lines.slice(0, around)
  const tail = isLast ? [] : lines.slice(Math.max(head.length, lines.length - around))
  const folded = lines.length - head.length - tail.length
  return (
    <>
      {head.map((line, index) => (
        <Line key={index} sign=" " text={line} className="pl-1.5" />
      ))}
      {folded > 0 && (
        <p className="py-0.5 pl-[26px] text-faint">
          {count(folded, 'line')} {alike}
        </p>
      )}
      {tail.map((line, index) => (
        <Line key={index} sign=" " text={line} className="pl-1.5" />
      ))}
    </>
  )
}

function Other({
  hunk,
  sides,
  onBring,
}: {
  hunk: Extract<Hunk, { kind: 'other' }>
  sides: readonly [string, string]
  onBring: (() => void) | null
}) {
  return (
    <div className="group relative my-1 border-l-2 border-lapis pl-1">
      {hunk.was.map((line, index) => (
        <Line key={`was ${index}`} sign="−" text={line} className="bg-verdigris-wash" spoken={sides[0]} />
      ))}
      {hunk.now.map((line, index) => (
        <Line key={`now ${index}`} sign="+" text={line} className="bg-ochre-wash" spoken={sides[1]} />
      ))}
      {onBring && (
        <button type="button" className="link py-0.5 pl-5 font-sans text-sm" onClick={onBring}>
          Bring this stretch back
        </button>
      )}
    </div>
  )
}

function Line({
  sign,
  text,
  className = '',
  spoken,
}: {
  sign: string
  text: string
  className?: string
  spoken?: string
}) {
  return (
    <p className={`grid grid-cols-[1.25rem_minmax(0,1fr)] ${className}`}>
      <span aria-hidden className="text-quiet">
        {sign}
      </span>
      <span className="wrap-anywhere whitespace-pre-wrap">
        {spoken && <span className="sr-only">{spoken}: </span>}
        {text || ' '}
      </span>
    </p>
  )
}
