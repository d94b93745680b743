import { useState } from 'react'
import type { Scheme } from '#core/site'
import { useSite } from '../document/site-context'
import { useRipple } from '../document/use-ripple'
import { Button } from '../parts/button'
import { RippleDetails } from '../parts/ripple-details'
import { rippleWords } from '../parts/ripple-words'

/** All that the proposed scheme would touch, line by line where wanted, and the choice. */
export function SchemeRipple({ scheme, onEnd }: { scheme: Scheme; onEnd: () => void }) {
  const { site, store } = useSite()
  const { ripple, isCurrent } = useRipple({ kind: 'setScheme', scheme, was: site.scheme })
  const [forward, setForward] = useState(true)
  return (
    <div className="border-t border-rule bg-vellum px-7 py-3.5">
      {ripple ? (
        <>
          <p className="mb-1">
            <b className="font-semibold">Ripple.</b> With this scheme {rippleWords(ripple)}.
          </p>
          <RippleDetails ripple={ripple} />
        </>
      ) : (
        <p className="mb-1 text-quiet">Working out what it touches…</p>
      )}
      <div className="mt-2 flex flex-wrap items-center gap-3">
        <Button
          look="go"
          onClick={() => {
            const change = { kind: 'setScheme', scheme, was: site.scheme, forward } as const
            if (!('refusal' in store.change(change, isCurrent))) onEnd()
          }}
        >
          Use this scheme
        </Button>
        <Button onClick={onEnd}>Keep the old one</Button>
        {ripple !== null && ripple.addressCount > 0 && (
          <label className="flex items-center gap-2 text-quiet">
            <input type="checkbox" checked={forward} onChange={(event) => setForward(event.target.checked)} />{' '}
            leave forwarding pages
          </label>
        )}
      </div>
    </div>
  )
}
