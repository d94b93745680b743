import { Button } from '../parts/button'
import { count } from '../parts/format'
import type { LongWork } from './use-long-work'

/** The button that begins a long work, or how far it is with the way to cancel it. */
export function LongWorkBar({
  work,
  words,
  thing,
  isLook = 'go',
  onStart,
  onCancel,
}: {
  work: LongWork
  /** What the button says. */
  words: string
  /** What is counted, one of it: `page`. */
  thing: string
  isLook?: 'go' | 'plain'
  onStart: () => void
  onCancel: () => void
}) {
  if (work.state === 'idle')
    return (
      <span className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <Button look={isLook} onClick={onStart}>
          {words}
        </Button>
        {work.problem !== null && (
          <span role="alert" className="text-rubric">
            {work.problem}
          </span>
        )}
      </span>
    )
  const { done, all } = work
  return (
    <span className="flex flex-wrap items-center gap-x-4 gap-y-2" role="status">
      <progress className="w-48" max={Math.max(all, 1)} value={done} aria-label={words} />
      <span className="tabular-nums">{all === 0 ? 'Getting ready…' : `${done} of ${count(all, thing)}`}</span>
      <Button onClick={onCancel}>Cancel</Button>
    </span>
  )
}
