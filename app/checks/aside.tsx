import { useState } from 'react'
import type { Finding } from '#core/findings'
import { useSite } from '../document/site-context'
import { Button } from '../parts/button'

/** Asks why findings are put aside, and does it. */
export function AsideForm({ findings, onDone }: { findings: readonly Finding[]; onDone: () => void }) {
  const { store } = useSite()
  const [reason, setReason] = useState('')
  const put = () => {
    if (reason.trim() === '') return
    const told = findings.map(({ key, what }) => ({ key, what }))
    store.change({ kind: 'putAside', findings: told, reason: reason.trim() })
    onDone()
  }
  return (
    <form
      className="mt-1 flex flex-wrap items-center gap-x-3 gap-y-1"
      onSubmit={(event) => {
        event.preventDefault()
        put()
      }}
      onKeyDown={(event) => event.key === 'Escape' && onDone()}
    >
      <input
        autoFocus
        aria-label="Why it is put aside"
        placeholder="Why? It stays so until it changes."
        className="field !w-72 text-[15px]"
        maxLength={500}
        value={reason}
        onChange={(event) => setReason(event.target.value)}
      />
      <Button type="submit" className="!px-3 !py-1" disabled={reason.trim() === ''}>
        {findings.length === 1 ? 'Put it aside' : `Put ${findings.length} aside`}
      </Button>
      <Button look="quiet" onClick={onDone}>
        Leave it
      </Button>
    </form>
  )
}

/** What was put aside, with why, and the way back. */
export function AsideList({
  aside,
  labels,
}: {
  aside: readonly Finding[]
  labels: ReadonlyMap<string, string>
}) {
  const { site, store } = useSite()
  if (aside.length === 0) return null
  const takeUp = (keys: string[]) => store.change({ kind: 'takeUp', keys })
  return (
    <details className="group mt-8 border-t border-rule">
      <summary className="flex cursor-pointer items-baseline gap-x-3 py-2 [&::-webkit-details-marker]:hidden">
        <span aria-hidden className="w-3 text-faint group-open:rotate-90">
          ›
        </span>
        <h3 className="text-[18px]">Put aside</h3>
        <span className="text-quiet">{aside.length}</span>
      </summary>
      <ul className="pl-6">
        {aside.map(({ key, what, place }) => (
          <li
            key={key}
            className="grid items-start gap-x-4 border-t border-rule py-2 desk:grid-cols-[9.5rem_1fr_auto]"
          >
            <span className="truncate text-quiet">{labels.get(place.id)}</span>
            <span className="min-w-0" id={`aside ${key}`.replace(/\s/g, '_')}>
              {what} <i className="font-serif text-quiet">{site.checking.asides[key]?.reason}</i>
            </span>
            <button
              type="button"
              className="link text-sm"
              aria-describedby={`aside ${key}`.replace(/\s/g, '_')}
              onClick={() => takeUp([key])}
            >
              Take up again
            </button>
          </li>
        ))}
      </ul>
      {aside.length > 1 && (
        <button type="button" className="link mt-2 ml-6" onClick={() => takeUp(aside.map(({ key }) => key))}>
          Take all up again
        </button>
      )}
    </details>
  )
}
