import { useCallback, useEffect, useRef, useState } from 'react'
import { useRevalidator } from 'react-router'
import type { SeenSite } from '#server/deliveries'
import { LongWorkBar } from '../../parts/long-work'
import { useLongWork } from '../../parts/use-long-work'
import { count } from '../../parts/format'
import { Path } from '../../parts/path'
import { StateMark } from '../../parts/state-mark'

/** A delivery that removed files alone leaves nothing that could be asked for. */
const worthTelling = (seen: SeenSite | null) => (seen && seen.looked > 0 ? seen : null)

/**
 * What visitors get of what was sent: of the latest delivery as soon as somebody is here to see it, of all when its author
 * wants to know.
 * @param before what they got of what the delivery sent; null asks for it now
 */
export function AsSeen({
  siteId,
  destinationId,
  deliveryId,
  before,
}: {
  siteId: string
  destinationId: string
  deliveryId: string
  before: SeenSite | null
}) {
  const [seen, setSeen] = useState(worthTelling(before))
  const { revalidate } = useRevalidator()
  const onLooked = useCallback(
    (result: unknown) => {
      if (result === undefined) return
      setSeen(result as SeenSite)
      // It may have shown what the host does otherwise than most.
      void revalidate()
    },
    [revalidate],
  )
  const onReadBack = useCallback(
    (result: unknown) => {
      if (worthTelling((result as SeenSite | undefined) ?? null)) onLooked(result)
    },
    [onLooked],
  )
  const address = `/sites/${siteId}/as-seen?to=${destinationId}`
  const { work, start, cancel } = useLongWork(address, onLooked)
  const readBack = useLongWork(`${address}&delivery=${deliveryId}`, onReadBack)
  const { start: startReadBack } = readBack
  const isToRead = useRef(before === null)
  useEffect(() => {
    if (!isToRead.current) return
    isToRead.current = false
    void startReadBack()
  }, [startReadBack])
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
