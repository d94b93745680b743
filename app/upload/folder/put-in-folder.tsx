import { useState } from 'react'
import { useAccountId, useSite } from '../../document/site-context'
import { Button } from '../../parts/button'
import { count, size } from '../../parts/format'
import { AnyList } from '../../parts/long-list'
import { Caution, Outcome, Refusal } from '../../parts/notice'
import { Path } from '../../parts/path'
import { StateMark } from '../../parts/state-mark'
import { DialogFrame } from '../../writing/dialog-frame'
import type { Beside, PutFiles } from './put-files'
import { useFolder } from './use-folder'

/** The site as files in a folder of this computer: what differs there is shown, and written once that was seen. */
export function PutInFolder({ onClose }: { onClose: () => void }) {
  const { site } = useSite()
  const { step, before, choose, again, put, cancel } = useFolder(useAccountId(), site.id)
  return (
    <DialogFrame title="The site in a folder" open onClose={onClose}>
      <div className="grid min-h-0 grid-cols-[minmax(0,1fr)] grid-rows-[minmax(0,1fr)_auto] gap-4 px-7 pb-5">
        {step.at === 'choosing' ? (
          <>
            <div className="grid gap-3">
              {step.problem !== null && <Refusal>{step.problem}</Refusal>}
              <p>
                Choose a folder of this computer. What is in it is held against the site and shown before
                anything is written; whatever else is there stays.
              </p>
            </div>
            <span className="flex flex-wrap gap-3">
              {before && (
                <Button look="go" onClick={() => void again()}>
                  Use “{before.folder.name}” again
                </Button>
              )}
              <Button look={before ? 'plain' : 'go'} onClick={() => void choose()}>
                Choose a folder…
              </Button>
              <Button onClick={onClose}>Cancel</Button>
            </span>
          </>
        ) : step.at === 'compared' ? (
          <Differences
            key={step.beside.kept.folder.name}
            beside={step.beside}
            onPut={put}
            onClose={onClose}
          />
        ) : step.at === 'done' ? (
          <Ended put={step.put} onClose={onClose} />
        ) : (
          <>
            <p role="status" className="grid gap-2">
              {step.at === 'looking' ? 'Looking at what is there…' : 'Writing…'}
              {step.all > 0 && ` ${step.done} of ${count(step.all, 'file')}`}
              <progress className="w-full" max={Math.max(step.all, 1)} value={step.done} aria-hidden />
            </p>
            <span>
              <Button onClick={cancel}>Cancel</Button>
            </span>
          </>
        )}
      </div>
    </DialogFrame>
  )
}

/** Files there that differ from the site's, to be chosen from. */
function Differences({
  beside,
  onPut,
  onClose,
}: {
  beside: Beside
  onPut: ReturnType<typeof useFolder>['put']
  onClose: () => void
}) {
  const differing = beside.files.filter(({ state }) => state !== 'same')
  const theirs = differing.filter(({ state }) => state === 'changed there' || state === 'other there')
  /** What somebody else wrote is written over only where that is asked for: nothing brings it back. */
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set(theirs.map(({ path }) => path)))
  const [isRemoving, setRemoving] = useState(false)
  const { otherCount, leftovers } = beside
  const chosen = differing.filter(({ path }) => !left.has(path))
  const removing = isRemoving ? leftovers.map(({ path }) => path) : []
  const bytes = chosen.reduce((sum, { sizeBytes }) => sum + sizeBytes, 0)
  const name = beside.kept.folder.name
  const words =
    removing.length > 0 && chosen.length === 0
      ? `Remove ${count(removing.length, 'file')}`
      : chosen.length > 0
        ? `Write ${count(chosen.length, 'file')}, ${size(bytes)}`
        : 'Write nothing'
  return (
    <>
      <div className="grid min-h-0 grid-cols-[minmax(0,1fr)] content-start gap-3 overflow-auto">
        {differing.length === 0 ? (
          <p role="status">
            <StateMark state="same" word={`Everything in “${name}” is as it is here.`} />
          </p>
        ) : (
          <p role="status">
            {count(differing.length, 'file')} of {beside.files.length} {differing.length === 1 ? 'is' : 'are'}{' '}
            not in “{name}” as here.
          </p>
        )}
        {theirs.length > 0 && (
          <Caution>
            {theirs.length === 1 ? 'One of them was' : `${theirs.length} of them were`} not written there from
            here, or changed since. Nothing brings back what stands there once it is written over:{' '}
            <button
              type="button"
              className="link"
              onClick={() => setLeft(new Set())}
              disabled={left.size === 0}
            >
              write {theirs.length === 1 ? 'it' : 'them'} all the same
            </button>
          </Caution>
        )}
        {differing.length > 0 && (
          <AnyList
            label="Files that differ"
            rows={differing}
            rowHeight={30}
            drawnAtMost={80}
            height="h-[34vh]"
          >
            {({ path, state, sizeBytes }) => (
              <label className="grid grid-cols-[1rem_minmax(0,1fr)_4rem_9rem] items-center gap-3 max-sm:grid-cols-[1rem_minmax(0,1fr)_auto]">
                <input
                  type="checkbox"
                  aria-label={`write ${path}`}
                  checked={!left.has(path)}
                  onChange={({ target }) => {
                    const next = new Set(left)
                    if (target.checked) next.delete(path)
                    else next.add(path)
                    setLeft(next)
                  }}
                />
                <Path path={path} />
                <span className="text-right text-sm text-quiet max-sm:hidden">{size(sizeBytes)}</span>
                <StateMark state={state} />
              </label>
            )}
          </AnyList>
        )}
        {leftovers.length > 0 && (
          <label className="flex items-center gap-2.5">
            <input
              type="checkbox"
              checked={isRemoving}
              onChange={(event) => setRemoving(event.target.checked)}
            />
            Remove {leftovers.length === 1 ? 'the one file' : `the ${leftovers.length} files`} that the site
            no longer has
          </label>
        )}
        {otherCount > 0 && (
          <p className="text-sm text-quiet">
            {otherCount === 1 ? 'One other file there stays' : `${otherCount} other files there stay`} as{' '}
            {otherCount === 1 ? 'it is' : 'they are'}.
          </p>
        )}
      </div>
      <span className="flex flex-wrap gap-3">
        {(differing.length > 0 || leftovers.length > 0) && (
          <Button
            look={removing.length > 0 && chosen.length === 0 ? 'remove' : 'go'}
            disabled={chosen.length === 0 && removing.length === 0}
            onClick={() => void onPut(beside, chosen, removing)}
          >
            {words}
          </Button>
        )}
        <Button onClick={onClose}>
          {differing.length === 0 && leftovers.length === 0 ? 'Close' : 'Cancel'}
        </Button>
      </span>
    </>
  )
}

/** Of those that failed for one reason; there may be thousands. */
const namedAtMost = 8

function sayFailed(failed: PutFiles['failed']): string {
  const byReason = Object.entries(Object.groupBy(failed, ({ why }) => why))
  return byReason
    .map(([why, files = []]) => {
      const named = files.slice(0, namedAtMost).map(({ path }) => path)
      const more = files.length > namedAtMost ? [`${files.length - namedAtMost} more`] : []
      return `${[...named, ...more].join(', ')} (${why})`
    })
    .join('; ')
}

function Ended({ put, onClose }: { put: PutFiles; onClose: () => void }) {
  const { writtenCount, removedCount, failed, kept } = put
  return (
    <>
      <div className="grid min-h-0 content-start gap-3 overflow-auto">
        <Outcome>
          {count(writtenCount, 'file')} {writtenCount === 1 ? 'was' : 'were'} written into “{kept.folder.name}
          ”{removedCount > 0 && `, and ${removedCount} removed`}.
        </Outcome>
        {failed.length > 0 && (
          <Refusal>
            {count(failed.length, 'file')} could not be: {sayFailed(failed)}.
          </Refusal>
        )}
        {writtenCount > 0 && !navigator.userAgent.includes('Windows') && (
          <p className="text-sm text-quiet">
            Your browser makes new files so that you alone can read them. Whoever copies them to a web space
            with their rights as they are lets everybody read them there: files 644, folders 755.
          </p>
        )}
      </div>
      <span>
        <Button look="go" onClick={onClose}>
          Close
        </Button>
      </span>
    </>
  )
}
