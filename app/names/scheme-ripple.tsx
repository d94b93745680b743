import { useState } from 'react'
import type { Scheme } from '#core/site'
import type { RippleView } from '#server/ripple-view'
import { useSite } from '../document/site-context'
import { useRipple } from '../document/use-ripple'
import { Button } from '../parts/button'
import { count } from '../parts/format'

/** All that the proposed scheme would touch, line by line where wanted, and the choice. */
export function SchemeRipple({ scheme, onEnd }: { scheme: Scheme; onEnd: () => void }) {
  const { site, store } = useSite()
  const ripple = useRipple({ kind: 'setScheme', scheme, was: site.scheme })
  const [forward, setForward] = useState(true)
  return (
    <div className="border-t border-rule bg-vellum px-7 py-3.5">
      {ripple ? (
        <>
          <p className="mb-1">
            <b className="font-semibold">Ripple.</b> {count(ripple.movedCount, 'file')}{' '}
            {ripple.movedCount === 1 ? 'gets a new name' : 'get new names'}, {count(ripple.linkCount, 'link')}{' '}
            {ripple.linkCount === 1 ? 'is' : 'are'} rewritten
            {ripple.addressCount > 0 &&
              `, ${count(ripple.addressCount, 'address', 'addresses')} in the world ${ripple.addressCount === 1 ? 'changes' : 'change'}`}
            .
          </p>
          {ripple.movedCount > 0 && <RippleDetails ripple={ripple} />}
        </>
      ) : (
        <p className="mb-1 text-quiet">Working out what it touches…</p>
      )}
      <div className="mt-2 flex flex-wrap items-center gap-3">
        <Button
          look="go"
          onClick={() => {
            if (!('refusal' in store.change({ kind: 'setScheme', scheme, was: site.scheme, forward })))
              onEnd()
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

/** The files and lines of a ripple. */
export function RippleDetails({ ripple }: { ripple: RippleView }) {
  return (
    <details className="text-sm">
      <summary className="cursor-pointer text-quiet hover:text-ink">Show every file and line</summary>
      <div
        className="my-2 grid max-h-48 gap-3 overflow-auto font-mono text-[12.5px]"
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
    </details>
  )
}
