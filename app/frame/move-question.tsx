import { useEffect, useRef } from 'react'
import { useSite } from '../document/site-context'
import { useRipple } from '../document/use-ripple'
import { RippleDetails } from '../names/scheme-ripple'
import { Button } from '../parts/button'
import { count } from '../parts/format'

/** A move that is asked about before it is made. */
export interface ProposedMove {
  readonly pageIds: readonly string[]
  readonly parentId: string | null
  readonly after: string | null
}

/** What moving pages would touch, before it is done; makes the move or leaves it. */
export function MoveQuestion({ move, onEnd }: { move: ProposedMove; onEnd: () => void }) {
  const { tree, store } = useSite()
  const ripple = useRipple({ kind: 'movePages', ...move })
  const button = useRef<HTMLButtonElement>(null)
  useEffect(() => button.current?.focus(), [])
  const [first] = move.pageIds
  const what =
    move.pageIds.length === 1 ? `“${tree.byId.get(first!)?.label}” goes` : `${move.pageIds.length} pages go`
  const where = move.parentId === null ? 'to the top level' : `under “${tree.byId.get(move.parentId)?.label}”`
  return (
    <div
      className="border-t border-rule bg-vellum px-4 py-3"
      role="group"
      aria-label="Move"
      onKeyDown={(event) => {
        event.stopPropagation()
        if (event.key === 'Escape') onEnd()
      }}
    >
      <p className="mb-1">
        <b className="font-semibold">Ripple.</b> {what} {where}
        {ripple &&
          `: ${count(ripple.movedCount, 'file')} ${ripple.movedCount === 1 ? 'changes' : 'change'} name, ${count(ripple.linkCount, 'link')} ${ripple.linkCount === 1 ? 'is' : 'are'} rewritten${ripple.addressCount > 0 ? `, ${count(ripple.addressCount, 'address', 'addresses')} in the world ${ripple.addressCount === 1 ? 'changes and forwards' : 'change and forward'}` : ''}`}
        .
      </p>
      {ripple !== null && ripple.movedCount > 0 && <RippleDetails ripple={ripple} />}
      <div className="mt-2 flex gap-3">
        <Button
          ref={button}
          look="go"
          onClick={() => {
            store.change({ kind: 'movePages', ...move })
            onEnd()
          }}
        >
          Move {move.pageIds.length === 1 ? 'it' : 'them'}
        </Button>
        <Button onClick={onEnd}>Leave {move.pageIds.length === 1 ? 'it' : 'them'}</Button>
      </div>
    </div>
  )
}
