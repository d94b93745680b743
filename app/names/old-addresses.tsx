import { useMemo } from 'react'
import { forwardersOf } from '#core/build'
import { useSite } from '../document/site-context'

/** Old addresses that lead on to where their pages stand now, and the way to give them up. */
export function OldAddresses() {
  const { site, store } = useSite()
  const forwarders = useMemo(() => forwardersOf(site), [site])
  if (forwarders.length === 0) return null
  return (
    <section aria-label="Forwarding pages" className="mt-6">
      <h3 className="mb-1 text-[19px]">Forwarding pages</h3>
      <p className="mb-1 text-quiet">
        Left at addresses that have been delivered, so that links from elsewhere still arrive.
      </p>
      <ul className="text-sm">
        {forwarders.map(({ path, page, to }) => (
          <li key={path} className="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)_auto] gap-4 leading-7">
            <span className="truncate font-mono text-[13px] text-quiet" title={path}>
              {path}
            </span>
            <span className="truncate font-mono text-[13px]" title={to}>
              → {to}
            </span>
            <button
              type="button"
              className="link"
              aria-label={`Give up ${path}`}
              onClick={() => store.change({ kind: 'dropAddresses', addresses: { [page.id]: [path] } })}
            >
              Give it up
            </button>
          </li>
        ))}
      </ul>
    </section>
  )
}
