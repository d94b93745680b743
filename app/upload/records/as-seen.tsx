import { useCallback, useState } from 'react'
import type { SeenSite } from '#server/deliveries'
import { LongWorkBar } from '../../checks/long-work'
import { useLongWork } from '../../checks/use-long-work'
import { count } from '../../parts/format'
import { Path } from '../../parts/path'
import { StateMark } from '../../parts/state-mark'

/** What visitors get of what was sent: asked for at its public address, when its author wants to know. */
export function AsSeen({ siteId, destinationId }: { siteId: string; destinationId: string }) {
  const [seen, setSeen] = useState<SeenSite | null>(null)
  const onEnd = useCallback((result: unknown) => {
    if (result !== undefined) setSeen(result as SeenSite)
  }, [])
  const { work, start, cancel } = useLongWork(`/sites/${siteId}/as-seen?to=${destinationId}`, onEnd)
  return (
    <section aria-label="As visitors see it">
      <h3 className="mt-6 mb-1.5 text-[19px]">As visitors see it</h3>
      <p className="mb-2 text-quiet">
        Each file that was sent is asked for at its public address, and compared with what was sent.
      </p>
      <LongWorkBar
        work={work}
        words={seen ? 'Look again' : 'Look as visitors do'}
        thing="file"
        isLook="plain"
        onStart={() => void start()}
        onCancel={cancel}
      />
      <div aria-live="polite">{seen && work.state === 'idle' && <Seen seen={seen} />}</div>
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
