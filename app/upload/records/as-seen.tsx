import { useCallback, useEffect, useState } from 'react'
import { useRevalidator } from 'react-router'
import type { SeenSite } from '#server/deliveries'
import { LongWorkBar } from '../../checks/long-work'
import { useLongWork } from '../../checks/use-long-work'
import { count } from '../../parts/format'
import { Path } from '../../parts/path'
import { StateMark } from '../../parts/state-mark'

/**
 * What visitors get of what was sent: asked for at its public address, all of it when its author wants to know.
 * @param justSent the delivery that ended before the author's eyes, of which what it sent is asked for at once
 */
export function AsSeen({
  siteId,
  destinationId,
  justSent,
}: {
  siteId: string
  destinationId: string
  justSent: string | null
}) {
  const [seen, setSeen] = useState<SeenSite | null>(null)
  const { revalidate } = useRevalidator()
  const found = useCallback(
    (result: SeenSite) => {
      setSeen(result)
      // It may have shown what the host does otherwise than most.
      void revalidate()
    },
    [revalidate],
  )
  const onLooked = useCallback(
    (result: unknown) => {
      if (result !== undefined) found(result as SeenSite)
    },
    [found],
  )
  const onReadBack = useCallback(
    (result: unknown) => {
      // A delivery that removed files alone leaves nothing to be asked for.
      if (result !== undefined && (result as SeenSite).looked > 0) found(result as SeenSite)
    },
    [found],
  )
  const address = `/sites/${siteId}/as-seen?to=${destinationId}`
  const { work, start, cancel } = useLongWork(address, onLooked)
  const readBack = useLongWork(`${address}&delivery=${justSent}`, onReadBack)
  const { start: startReadBack } = readBack
  useEffect(() => {
    if (justSent !== null) void startReadBack()
  }, [justSent, startReadBack])
  const isReading = readBack.work.state === 'running'
  return (
    <section aria-label="As visitors see it">
      <h3 className="mt-6 mb-1.5 text-[19px]">As visitors see it</h3>
      <p className="mb-2 text-quiet">
        {isReading
          ? 'What was sent just now is asked for at its public address, and compared with what was sent.'
          : 'Each file that was sent is asked for at its public address, and compared with what was sent.'}
      </p>
      <LongWorkBar
        work={isReading ? readBack.work : work}
        words={seen ? 'Look again' : 'Look as visitors do'}
        thing="file"
        isLook="plain"
        onStart={() => void start()}
        onCancel={isReading ? readBack.cancel : cancel}
      />
      <div aria-live="polite">{seen && !isReading && work.state === 'idle' && <Seen seen={seen} />}</div>
    </section>
  )
}

function Seen({ seen: { looked, groups } }: { seen: SeenSite }) {
  if (looked === 0) return <p className="mt-3 text-quiet">Nothing that was sent is known to be there.</p>
  if (groups.length === 0)
    return (
      <p className="mt-3">
        <StateMark
          state="done"
          word={
            looked === 1
              ? 'visitors get it as it was sent'
              : `visitors get all ${looked.toLocaleString('en')} files as they were sent`
          }
        />
      </p>
    )
  return (
    <ul className="mt-3">
      {groups.map(({ fault, what, paths, first }) => (
        <li key={fault} className="border-t border-rule py-2">
          <p>
            <StateMark state="failed" word="" /> {what}{' '}
            <a className="link" href={first} target="_blank" rel="noreferrer">
              Look at the first
            </a>
          </p>
          <details className="text-sm">
            <summary className="cursor-pointer text-quiet hover:text-ink">
              {count(paths.length, 'file')}
            </summary>
            <ul className="max-h-40 overflow-auto font-mono text-[13px]" tabIndex={0} aria-label={what}>
              {paths.map((path) => (
                <li key={path}>
                  <Path path={path} />
                </li>
              ))}
            </ul>
          </details>
        </li>
      ))}
    </ul>
  )
}
