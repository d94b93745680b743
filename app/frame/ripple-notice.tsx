import { useSite } from '../document/site-context'
import { Button } from '../parts/button'
import { RippleDetails } from '../parts/ripple-details'
import { rippleReport } from '../parts/ripple-words'

/** What the latest change touched beside itself, with the way back. */
export function RippleNotice() {
  const { ripple, store, undo } = useSite()
  if (!ripple) return null
  return (
    <div role="status" className="border-t border-rule bg-vellum px-4 py-2.5">
      <div className="flex items-baseline gap-3">
        <p className="grow">
          <b className="font-semibold">Ripple.</b> {rippleReport(ripple)}
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
