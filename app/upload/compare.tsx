import type { LongWork } from '../parts/use-long-work'
import { Button } from '../parts/button'
import { size } from '../parts/format'

/** The button that has a destination compared. */
export function Compare({
  destinationId,
  isBusy,
  onStart,
}: {
  destinationId: string
  /** Whether it is compared, or is to be in a moment. */
  isBusy: boolean
  onStart: () => void
}) {
  return (
    // A form, so that it works before the window's program is there.
    <form
      method="post"
      onSubmit={(event) => {
        event.preventDefault()
        onStart()
      }}
    >
      <input type="hidden" name="id" value={destinationId} />
      <Button type="submit" name="intent" value="compare" disabled={isBusy}>
        {isBusy ? 'Comparing…' : 'Compare again'}
      </Button>
    </form>
  )
}

/** How far a comparison that takes a while is. */
export function Comparing({ work, onCancel }: { work: LongWork; onCancel: () => void }) {
  const { done, all } = work.state === 'running' ? work : { done: 0, all: 0 }
  return (
    <div className="grid gap-2.5">
      <p role="status">
        {all === 0
          ? 'Looking at what is there…'
          : `What is there and was not sent from here is read back: ${size(done)} of ${size(all)}`}
      </p>
      <progress
        className="w-full"
        max={Math.max(all, 1)}
        value={all === 0 ? undefined : done}
        aria-label="Compared so far"
      />
      <div className="flex items-center gap-4">
        <Button onClick={onCancel}>Stop comparing</Button>
        <span className="text-sm text-quiet">It changes nothing there.</span>
      </div>
    </div>
  )
}
