import type { RippleView } from '#server/ripple-view'
import { count } from './format'

/** The files and lines of a ripple, folded away; nothing where there are none. */
export function RippleDetails({ ripple }: { ripple: RippleView }) {
  if (ripple.movedCount === 0 && ripple.lines.length === 0) return null
  return (
    <details className="text-sm">
      <summary className="cursor-pointer text-quiet hover:text-ink">Show every file and line</summary>
      <RippleLines ripple={ripple} className="max-h-48" />
    </details>
  )
}

/** Each file that changes its name, and each line that is rewritten: what it was and what it becomes. */
export function RippleLines({ ripple, className }: { ripple: RippleView; className: string }) {
  return (
    <div
      className={`my-2 grid gap-3 overflow-auto font-mono text-[12.5px] ${className}`}
      tabIndex={0}
      role="region"
      aria-label="Files and lines that change"
    >
      <ul>
        {ripple.moved.map((one) => (
          <li key={one.id} className="grid grid-cols-2 gap-3 leading-6">
            <span className="truncate text-quiet" title={one.from}>
              {one.from}
            </span>
            <span className="truncate" title={one.to}>
              {one.to}
            </span>
          </li>
        ))}
        {ripple.movedCount > ripple.moved.length && (
          <li className="text-quiet">
            and {count(ripple.movedCount - ripple.moved.length, 'more file', 'more files')}
          </li>
        )}
      </ul>
      {ripple.lines.length > 0 && (
        <ul>
          {ripple.lines.map((one, index) => (
            <li
              key={index}
              className="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)_minmax(0,1fr)] gap-3 leading-6"
            >
              <span className="truncate text-faint" title={one.owner}>
                {one.owner}:{one.line}
              </span>
              <span className="truncate text-quiet" title={one.was}>
                {one.was}
              </span>
              <span className="truncate" title={one.now}>
                {one.now}
              </span>
            </li>
          ))}
          {ripple.linkCount > ripple.lines.length && (
            <li className="text-quiet">
              and {count(ripple.linkCount - ripple.lines.length, 'more line', 'more lines')}
            </li>
          )}
        </ul>
      )}
    </div>
  )
}
