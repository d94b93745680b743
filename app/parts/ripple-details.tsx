import type { RippleView } from '#server/sites'
import { count } from './format'
import { LongList } from './long-list'
import { Path } from './path'

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
  const { moved, lines, linkCount } = ripple
  const untold = linkCount - lines.length
  return (
    <LongList
      label="Files and lines that change"
      count={moved.length + lines.length + (untold > 0 ? 1 : 0)}
      rowHeight={24}
      className={`my-2 font-mono text-[13px] ${className}`}
    >
      {(index) => {
        const file = moved[index]
        if (file)
          return (
            <div className="grid grid-cols-2 gap-3">
              <Path path={file.from} className="text-quiet" />
              <Path path={file.to} />
            </div>
          )
        const line = lines[index - moved.length]
        if (line)
          return (
            <div className="grid grid-cols-3 gap-3">
              <Path path={`${line.owner}:${line.line}`} className="text-faint" />
              <span className="truncate text-quiet" title={line.was}>
                {line.was}
              </span>
              <span className="truncate" title={line.now}>
                {line.now}
              </span>
            </div>
          )
        return <span className="text-quiet">and {count(untold, 'more line', 'more lines')}</span>
      }}
    </LongList>
  )
}
