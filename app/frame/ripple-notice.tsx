import { useSite } from '../document/site-context'
import { RippleDetails } from '../names/scheme-ripple'
import { Button } from '../parts/button'
import { count } from '../parts/format'

/** What the latest change in the register touched beside itself, with the way back. */
export function RippleNotice() {
  const { ripple, store, undo } = useSite()
  if (!ripple) return null
  return (
    <div role="status" className="border-t border-rule bg-vellum px-4 py-2.5">
      <div className="flex items-baseline gap-3">
        <p className="grow">
          <b className="font-semibold">Ripple.</b> {count(ripple.movedCount, 'file')}{' '}
          {ripple.movedCount === 1 ? 'has a new name' : 'have new names'}, {count(ripple.linkCount, 'link')}{' '}
          {ripple.linkCount === 1 ? 'was' : 'were'} rewritten
          {ripple.addressCount > 0 && `, ${count(ripple.addressCount, 'forwarding page')} left behind`}.
        </p>
        <Button look="quiet" disabled={undo === null} onClick={() => void store.undo()}>
          Take it back
        </Button>
        <Button look="quiet" onClick={store.dismissRipple}>
          Close
        </Button>
      </div>
      <RippleDetails ripple={ripple} />
    </div>
  )
}
