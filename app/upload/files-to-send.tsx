import { count, size } from '../parts/format'
import { Path } from '../parts/path'
import { StateMark } from '../parts/state-mark'
import type { ShownComparison } from './comparison.server'

/** What differs between the site and the destination, and what is there beside it. */
export function FilesToSend({
  comparison,
  comparing,
  looked,
}: {
  comparison: ShownComparison
  comparing: boolean
  looked: boolean
}) {
  const { files, toSend, leftovers } = comparison
  return (
    <>
      <section aria-label="To send">
        <h3 className="mt-5 mb-1.5 text-[19px]">To send</h3>
        {comparing && !looked ? (
          <p className="text-quiet">Looking at what is there…</p>
        ) : toSend === 0 ? (
          <p className="text-quiet">
            <StateMark state="same" word="Everything there is as it is here." />
          </p>
        ) : (
          <ul>
            {files.map((file) => (
              <li
                key={file.path}
                className="grid grid-cols-[minmax(0,1fr)_4.5rem_14rem] items-center gap-4 leading-7"
              >
                <Path path={file.path} />
                <span className="text-right text-sm text-quiet">{size(file.sizeBytes)}</span>
                <StateMark state={file.state} word={wordOf(file.state, file.isHome)} />
              </li>
            ))}
            {toSend > files.length && (
              <li className="pt-1 text-quiet">
                and {count(toSend - files.length, 'more file', 'more files')}
              </li>
            )}
          </ul>
        )}
      </section>
      {leftovers.length > 0 && (
        <section aria-label="Also there">
          <h3 className="mt-5 mb-1.5 text-[19px]">Also there</h3>
          <ul>
            {leftovers.map((file) => (
              <li
                key={file.path}
                className="grid grid-cols-[minmax(0,1fr)_4.5rem_14rem] items-center gap-4 leading-7"
              >
                <Path path={file.path} />
                <span className="text-right text-sm text-quiet">{size(file.sizeBytes)}</span>
                <StateMark
                  state={file.state}
                  word={file.state === 'stray' ? 'not from this site' : 'no longer in the site'}
                />
              </li>
            ))}
          </ul>
        </section>
      )}
    </>
  )
}

function wordOf(state: ShownComparison['files'][number]['state'], isHome: boolean): string {
  const word = state === 'other there' ? 'replaces a different file' : state
  return isHome ? `${word}, sent last` : word
}
