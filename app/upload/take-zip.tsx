import { Popover } from 'radix-ui'
import { useEffect, useRef, useState } from 'react'
import type { AmountsOfZips } from '../routes/answers/files/zips'
import { ask, type Told } from '../parts/ask'
import { count, moment, size } from '../parts/format'
import { useIntoFolder } from './folder/into-folder'
import { PopoverFrame } from '../parts/popover-frame'

/** What is in a ZIP, and the way to it. */
function Taking({
  href,
  words,
  amount: { fileCount, sizeBytes },
  onTaken,
}: {
  href: string
  words: string
  amount: { fileCount: number; sizeBytes: number }
  onTaken: () => void
}) {
  return (
    <p className="flex items-baseline justify-between gap-4">
      <a className="link" href={href} download onClick={onTaken}>
        {words}
      </a>
      <span className="text-quiet tabular-nums">
        {count(fileCount, 'file')}, {size(sizeBytes)}
      </span>
    </p>
  )
}

/**
 * The site as files, for who puts it on a host by hand: a ZIP of it, whole or what has changed since it was taken last, or
 * a folder of this computer.
 */
export function TakeZip({
  siteId,
  className,
  side = 'bottom',
  words,
  wordsOfFolder,
}: {
  siteId: string
  className: string
  /** Where what opens has room. */
  side?: 'top' | 'bottom'
  /** What opens it, and what it is called where the browser can write into folders. */
  words: string
  wordsOfFolder: string
}) {
  const opener = useRef<HTMLButtonElement>(null)
  const intoFolder = useIntoFolder(opener)
  const [open, setOpen] = useState(false)
  const address = `/sites/${siteId}/site.zip`
  const [answer, setAnswer] = useState<AmountsOfZips | { readonly problem: Told } | null>(null)
  useEffect(() => {
    if (!open) return
    const abort = new AbortController()
    setAnswer(null)
    ask<AmountsOfZips>(`/sites/${siteId}/zips`, { signal: abort.signal }).then(setAnswer, () => {})
    return () => abort.abort()
  }, [open, siteId])
  const told = answer && !('problem' in answer) ? answer : null
  const since = told?.since
  /** Whether it was taken since this was opened: what is gone is told until it is closed, and never again. */
  const [taken, setTaken] = useState(false)
  const onTaken = () => (since && since.goneCount > 0 ? setTaken(true) : setOpen(false))
  return (
    <Popover.Root
      open={open}
      onOpenChange={(next) => {
        setOpen(next)
        setTaken(false)
      }}
    >
      <Popover.Trigger ref={opener} className={className}>
        {intoFolder ? wordsOfFolder : words}
      </Popover.Trigger>
      {intoFolder?.dialog}
      <PopoverFrame label="The site as files" side={side} className="grid w-[26rem] gap-2 bg-paper">
        {answer && 'problem' in answer ? (
          <p role="alert">{answer.problem.message}</p>
        ) : !told ? (
          <p role="status">Counting…</p>
        ) : (
          <>
            <Taking href={address} words="The whole site as a ZIP" amount={told.whole} onTaken={onTaken} />
            {since && since.fileCount > 0 && !taken && (
              <Taking
                href={`${address}?only=changed`}
                words={`What changed since ${moment(since.takenAt)}`}
                amount={since}
                onTaken={onTaken}
              />
            )}
            {since && since.goneCount > 0 && (
              <Gone gone={since.gone} goneCount={since.goneCount} isOpen={taken} />
            )}
            <p className="text-sm text-quiet">
              {!since
                ? 'Once you have it, what changes from then on can be taken by itself.'
                : since.fileCount === 0
                  ? `No file has changed since you took it, ${moment(since.takenAt)}.`
                  : 'Counted from the last one that you took to its end.'}
            </p>
            {intoFolder && (
              <p className="border-t border-rule pt-2">
                <button
                  type="button"
                  className="link"
                  onClick={() => {
                    setOpen(false)
                    intoFolder.open()
                  }}
                >
                  Into a folder of this computer…
                </button>
              </p>
            )}
          </>
        )}
      </PopoverFrame>
    </Popover.Root>
  )
}

/** What no ZIP can remove. */
function Gone({ gone, goneCount, isOpen }: { gone: readonly string[]; goneCount: number; isOpen: boolean }) {
  return (
    <details className="text-sm" open={isOpen}>
      <summary className="cursor-pointer">
        {goneCount === 1 ? 'One file is' : `${goneCount} files are`} in the site no more: remove{' '}
        {goneCount === 1 ? 'it' : 'them'} at your host.
      </summary>
      <ul
        className="mt-1 max-h-40 overflow-auto font-mono text-[13px]"
        tabIndex={0}
        aria-label="Files in the site no more"
      >
        {gone.map((path) => (
          <li key={path} className="break-all">
            {path}
          </li>
        ))}
        {goneCount > gone.length && <li>and {goneCount - gone.length} more</li>}
      </ul>
    </details>
  )
}
