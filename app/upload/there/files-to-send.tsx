import { useMemo } from 'react'
import { AnyList } from '../../parts/long-list'
import { count, size } from '../../parts/format'
import { Caution } from '../../parts/notice'
import { Path } from '../../parts/path'
import { StateMark } from '../../parts/state-mark'
import type { Chosen } from './chosen'
import type { ShownComparison } from './comparison.server'
import { type ListRow, rowsOf } from './rows'

type Shown = ShownComparison['files'][number]
type Left = ShownComparison['leftovers'][number]

/** What differs between the site and the destination, to be chosen from, and what is there beside it. */
export function FilesToSend({
  comparison,
  chosen,
  comparing,
  looked,
  onLook,
  onTake,
}: {
  comparison: ShownComparison
  chosen: Chosen
  comparing: boolean
  looked: boolean
  /** Shows a file as it is here and there. */
  onLook: (path: string) => void
  /** Takes files from there. */
  onTake: (paths: readonly string[]) => void
}) {
  const { files, toSend, leftovers, leftoverCount, alsoThere } = comparison
  const rows = useMemo(() => rowsOf(files), [files])
  const left = useMemo(() => rowsOf(leftovers), [leftovers])
  const theirs = files.filter(({ state }) => state === 'changed there').map(({ path }) => path)
  const hiding = leftovers.filter(({ mayHide }) => mayHide)
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
          <>
            {theirs.length > 0 && (
              <Caution className="mb-2">
                {theirs.length === 1 ? 'One file was' : `${theirs.length} files were`} changed there by
                somebody else. What you send takes the place of {theirs.length === 1 ? 'it' : 'them'}; look at
                the difference, or{' '}
                <button type="button" className="link" onClick={() => onTake(theirs)}>
                  take {theirs.length === 1 ? 'it' : 'them'} here
                </button>
                .
              </Caution>
            )}
            {files.length > 1 && (
              <label className="flex items-center gap-2.5 pb-1">
                <Tick
                  files={files}
                  isIn={chosen.isChosen}
                  onChange={(isIn) =>
                    chosen.choose(
                      files.map(({ path }) => path),
                      isIn,
                    )
                  }
                />
                <span className="text-sm text-quiet">{count(toSend, 'file')}</span>
              </label>
            )}
            <Rows label="Files to send" rows={rows}>
              {(row) =>
                row.kind === 'folder' ? (
                  <FolderRow row={row} isIn={chosen.isChosen} onChange={chosen.choose} verb="send" />
                ) : (
                  <FileRow
                    file={row.file}
                    isUnderFolder={rows.length > files.length}
                    isIn={chosen.isChosen(row.file.path)}
                    verb="send"
                    onChange={(isIn) => chosen.choose([row.file.path], isIn)}
                    mark={<StateMark state={row.file.state} word={wordOf(row.file.state)} />}
                    look={row.file.state === 'new' || row.file.state === 'gone there' ? null : 'Difference'}
                    onLook={onLook}
                  />
                )
              }
            </Rows>
            {toSend > files.length && (
              <p className="pt-1 text-quiet">and {count(toSend - files.length, 'more file', 'more files')}</p>
            )}
            <ChoiceNotes chosen={chosen} />
          </>
        )}
      </section>
      {leftovers.length > 0 && (
        <section aria-label="Also there">
          <h3 className="mt-5 mb-1.5 text-[19px]">Also there</h3>
          {hiding.length > 0 && (
            <Caution className="mb-2">
              Many hosts put a page such as <span className="font-mono text-[13px]">{hiding[0]!.path}</span>{' '}
              into a new account and show it in the place of your home page. Look into it, and tick it to have
              it removed.
            </Caution>
          )}
          {leftoverCount > 0 && (
            <label className="flex items-center gap-2.5 pb-1">
              <input
                type="checkbox"
                checked={chosen.isEveryLeftover}
                onChange={(event) => chosen.remove(chosen.ours, event.target.checked)}
              />
              Remove the {leftoverCount === 1 ? 'one file' : `${leftoverCount} files`} there that the site no
              longer has
            </label>
          )}
          <Rows label="Files also there" rows={left}>
            {(row) =>
              row.kind === 'folder' ? (
                <FolderRow row={row} isIn={chosen.isRemoved} onChange={chosen.remove} verb="remove" />
              ) : (
                <FileRow
                  file={row.file}
                  isUnderFolder={left.length > leftovers.length}
                  isIn={chosen.isRemoved(row.file.path)}
                  verb="remove"
                  onChange={(isIn) => chosen.remove([row.file.path], isIn)}
                  mark={<StateMark state={row.file.state} word={leftWord(row.file)} />}
                  look="Look"
                  onLook={onLook}
                />
              )
            }
          </Rows>
          {alsoThere > leftovers.length && (
            <p className="pt-1 text-quiet">
              and {count(alsoThere - leftovers.length, 'more file', 'more files')}
            </p>
          )}
        </section>
      )}
    </>
  )
}

/** Files under their folders. */
function Rows<T>({
  label,
  rows,
  children,
}: {
  label: string
  rows: readonly ListRow<T>[]
  children: (row: ListRow<T>) => React.ReactNode
}) {
  return (
    <AnyList label={label} rows={rows} rowHeight={30} drawnAtMost={80} height="max-h-[55vh]">
      {children}
    </AnyList>
  )
}

/** A tick for several files: on, off, or for some of them. */
function Tick({
  files,
  isIn,
  onChange,
  label,
}: {
  files: readonly { readonly path: string }[]
  isIn: (path: string) => boolean
  onChange: (isIn: boolean) => void
  label?: string
}) {
  const number = files.filter(({ path }) => isIn(path)).length
  const isAll = number === files.length
  return (
    <input
      type="checkbox"
      aria-label={label}
      checked={isAll}
      ref={(box) => {
        if (box) box.indeterminate = !isAll && number > 0
      }}
      onChange={() => onChange(!isAll)}
    />
  )
}

/** A row's tick, name, size, state, and the way to look at it; what may be removed has more to say of itself. */
const tracksOf = (verb: string) =>
  `grid items-center gap-3 max-sm:grid-cols-[1rem_minmax(0,1fr)_auto_auto] ${verb === 'remove' ? 'sm:grid-cols-[1rem_minmax(0,1fr)_4rem_11rem_4.5rem]' : 'sm:grid-cols-[1rem_minmax(0,1fr)_4rem_9rem_4.5rem]'}`

function FolderRow({
  row: { folder, files },
  isIn,
  onChange,
  verb,
}: {
  row: Extract<ListRow<Shown | Left>, { kind: 'folder' }>
  isIn: (path: string) => boolean
  onChange: (paths: readonly string[], isIn: boolean) => void
  verb: string
}) {
  const name = folder === '' ? 'at the top' : folder
  return (
    <label className={`${tracksOf(verb)} border-t border-rule`}>
      <Tick
        files={files}
        isIn={isIn}
        label={`${verb} all ${name}`}
        onChange={(next) =>
          onChange(
            files.map(({ path }) => path),
            next,
          )
        }
      />
      <span className="truncate font-mono text-[13px] text-quiet">{name}</span>
      <span className="col-span-2 pl-2 sm:col-span-3 text-sm text-quiet">{count(files.length, 'file')}</span>
    </label>
  )
}

function FileRow({
  file: { path, sizeBytes },
  isUnderFolder,
  isIn,
  verb,
  onChange,
  mark,
  look,
  onLook,
}: {
  file: { readonly path: string; readonly sizeBytes: number }
  /** Whether the folder it is in stands above it. */
  isUnderFolder: boolean
  isIn: boolean
  /** What ticking it has done with it. */
  verb: string
  onChange: (isIn: boolean) => void
  mark: React.ReactNode
  /** What the way to look at it is called; null where there is nothing to look at. */
  look: string | null
  onLook: (path: string) => void
}) {
  return (
    <span className={tracksOf(verb)}>
      <input
        type="checkbox"
        aria-label={`${verb} ${path}`}
        checked={isIn}
        onChange={(event) => onChange(event.target.checked)}
      />
      <Path
        path={isUnderFolder ? path.slice(path.lastIndexOf('/') + 1) : path}
        className={isIn || verb === 'remove' ? '' : 'text-quiet'}
      />
      <span className="text-right text-sm text-quiet max-sm:hidden">{size(sizeBytes)}</span>
      {mark}
      {look ? (
        <button type="button" className="link justify-self-start text-sm" onClick={() => onLook(path)}>
          {look}
          <span className="sr-only"> of {path}</span>
        </button>
      ) : (
        <span />
      )}
    </span>
  )
}

/** Files that are named in a sentence before the rest is counted. */
const named = 3

/** What visitors would see if only what is chosen were sent. */
function ChoiceNotes({ chosen }: { chosen: Chosen }) {
  const { missing, staying, isAll, sendCount } = chosen
  if (isAll) return null
  return (
    <div role="status" className="mt-3 grid gap-2">
      {missing.length > 0 && (
        <div className="border-l-3 border-rubric bg-rubric-wash px-3 py-2">
          {missing.slice(0, named).map((one) => (
            <p key={one.path}>
              <span className="font-mono text-[13px]">{one.for}</span>
              {one.count > 1 && ` and ${count(one.count - 1, 'page')} more`} would be shown without{' '}
              <span className="font-mono text-[13px]">{one.path}</span> as it is here.
            </p>
          ))}
          {missing.length > named && <p>The same holds for {count(missing.length - named, 'more file')}.</p>}
          <button
            type="button"
            className="link"
            onClick={() =>
              chosen.choose(
                missing.map(({ path }) => path),
                true,
              )
            }
          >
            Send what they need, too
          </button>
        </div>
      )}
      {sendCount > 0 && staying.length > 0 && (
        <p className="text-quiet">
          {staying.length <= named ? (
            <span className="font-mono text-[13px]">{staying.join(', ')}</span>
          ) : (
            count(staying.length, 'page')
          )}{' '}
          {staying.length === 1 ? 'stays' : 'stay'} as visitors see {staying.length === 1 ? 'it' : 'them'}{' '}
          now, with the menus of then.
        </p>
      )}
    </div>
  )
}

const wordOf = (state: Shown['state']) => (state === 'other there' ? 'a different file' : state)

function leftWord({ state, mayHide }: Left): string {
  if (state === 'to remove') return 'no longer in the site'
  return mayHide ? 'may hide your home page' : 'not from this site'
}
