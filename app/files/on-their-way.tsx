import { useStanding } from '../session/signed-out'
import { Button } from '../parts/button'
import { count } from '../parts/format'
import { HowFarWords } from '../parts/how-far'
import { useFiles, useOnTheirWay } from './files-context'
import type { Upload } from './uploads'

/** Of so many one sees enough; the others are told by their number. */
const mostShown = 30

/** What is going on comes first, then what its author has to do something about. */
const ranks: Readonly<Record<Upload['state'], number>> = {
  sending: 0,
  pausing: 0,
  making: 0,
  failed: 1,
  waiting: 2,
}

/** The files that are being sent: how far each is, and all of them together. */
export function OnTheirWay() {
  const { uploads, arrived } = useOnTheirWay()
  if (uploads.length === 0) return null
  const ranked = [...uploads].sort((one, other) => ranks[one.state] - ranks[other.state])
  const rest = ranked.length - mostShown
  return (
    <div className="px-4 pb-2 text-sm">
      {(uploads.length > 1 || arrived.count > 0) && <AllOfThem />}
      <ul aria-label="Files on their way" className="max-h-40 overflow-auto">
        {ranked.slice(0, mostShown).map((one) => (
          <OneOfThem key={one.id} upload={one} />
        ))}
        {rest > 0 && <li className="py-1 text-quiet">and {count(rest, 'more file')}</li>}
      </ul>
    </div>
  )
}

/** How far all of them are together, and how long they still take. */
function AllOfThem() {
  const { uploads } = useFiles()
  const { uploads: all, arrived } = useOnTheirWay()
  const underWay = all.filter(({ state }) => state !== 'failed')
  const again = all.filter(({ state, isRefused }) => state === 'failed' && !isRefused)
  const sumOf = (bytes: (one: Upload) => number) =>
    underWay.reduce((sum, one) => sum + bytes(one), arrived.bytes)
  const far = {
    files: arrived.count,
    allFiles: arrived.count + underWay.length,
    bytes: sumOf(({ sentBytes }) => sentBytes),
    allBytes: sumOf(({ sizeBytes }) => sizeBytes),
  }
  const isPausing = underWay.some(({ state }) => state === 'pausing')
  return (
    <div className="pb-1">
      {underWay.length > 0 && <HowFarWords far={far} isPausing={isPausing} />}
      <div className="flex flex-wrap items-center gap-x-3">
        {underWay.length > 0 && (
          <progress
            className="min-w-24 grow"
            aria-label="Sent of all files"
            max={Math.max(1, far.allBytes)}
            value={far.bytes}
          />
        )}
        {again.length > 1 && (
          <Button look="quiet" onClick={() => uploads.retryAll()}>
            Try all {again.length} again
          </Button>
        )}
        {all.length > 1 && (
          <Button look="quiet" onClick={() => uploads.cancelAll()}>
            {underWay.length > 0 ? 'Cancel all' : 'Leave them all out'}
          </Button>
        )}
      </div>
    </div>
  )
}

function OneOfThem({
  upload: { id, name, state, message, isRefused, sizeBytes, sentBytes },
}: {
  upload: Upload
}) {
  const { uploads } = useFiles()
  const isSignedOut = useStanding().kind !== 'in'
  return (
    <li className="flex min-h-8 flex-wrap items-center gap-x-3">
      <span className="min-w-0 grow truncate">{name}</span>
      {state === 'failed' ? (
        <span role="alert" className="text-rubric">
          {message}
        </span>
      ) : (
        <>
          {state === 'making' && (
            <span role="status" className="text-quiet">
              becomes a picture that every browser shows
            </span>
          )}
          {state === 'pausing' && (
            <span role="status" className="text-quiet">
              {isSignedOut ? 'goes on when you are signed in' : 'goes on when the line is back'}
            </span>
          )}
          <progress
            className="w-28"
            aria-label={`Sent of ${name}`}
            max={Math.max(1, sizeBytes)}
            value={state === 'making' ? undefined : sentBytes}
          />
        </>
      )}
      {state === 'failed' && !isRefused && (
        <Button look="quiet" onClick={() => uploads.retry(id)}>
          Try again
        </Button>
      )}
      <Button look="quiet" aria-label={`Cancel: do not add ${name}`} onClick={() => uploads.cancel(id)}>
        Cancel
      </Button>
    </li>
  )
}
