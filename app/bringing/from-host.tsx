import { useState } from 'react'
import { Button } from '../parts/button'
import { StateMark } from '../parts/state-mark'
import { HostKey } from '../upload/place/host-key'
import { PlaceFields, PlaceLetter, type PlaceValues } from '../upload/place/place-fields'

/** The place on a host that a site is fetched from; the host's key is shown and accepted before anything is sent to it. */
export function FromHost({
  values,
  set,
  learn,
  onFetch,
  onLeave,
}: {
  values: PlaceValues
  set: (part: Partial<PlaceValues>) => void
  /** Asks how the host shows that it is itself; null where that failed, which is told elsewhere. */
  learn: (place: PlaceValues) => Promise<string | null>
  onFetch: (place: PlaceValues, hostKey: string) => void
  onLeave: () => void
}) {
  const [known, setKnown] = useState<{ readonly of: string; readonly hostKey: string } | null>(null)
  const [isAsking, setAsking] = useState(false)
  const of = JSON.stringify([values.protocol, values.host, values.port])
  const hostKey = known?.of === of ? known.hostKey : null
  async function submit() {
    if (hostKey !== null) return onFetch(values, hostKey)
    setAsking(true)
    const learned = await learn(values)
    setAsking(false)
    if (learned !== null) setKnown({ of, hostKey: learned })
  }
  return (
    <form
      aria-label="Fetch from a host"
      onSubmit={(event) => {
        event.preventDefault()
        void submit()
      }}
    >
      <p className="mb-5 max-w-prose font-serif text-[18px]">
        What your host shows is fetched as it stands there; nothing there is changed.
      </p>
      <PlaceLetter values={values} set={set} />
      <PlaceFields
        values={values}
        set={set}
        problemField={null}
        password={{ required: true }}
        isAddressNeeded={false}
      />
      <div aria-live="polite" className="my-5 min-h-16 max-w-2xl">
        {hostKey !== null && (
          <div className="border-l-3 border-verdigris bg-verdigris-wash px-3 py-2">
            <StateMark state="done" word="The host answers" />
            <p className="mt-1 text-sm">
              <HostKey hostKey={hostKey} protocol={values.protocol} /> The password has not been sent yet.
            </p>
          </div>
        )}
        {isAsking && <p className="text-quiet">Connecting to {values.host}…</p>}
      </div>
      <div className="flex gap-3">
        <Button type="submit" look="go" disabled={isAsking}>
          {hostKey === null ? 'Connect' : 'Go on and fetch it'}
        </Button>
        <Button onClick={onLeave}>Leave it</Button>
      </div>
    </form>
  )
}
