import { useEffect, useMemo, useState } from 'react'
import { useSite } from '../../document/site-context'
import { isJson } from '../../document/post'
import { Button } from '../../parts/button'
import { Difference } from '../../parts/difference/difference'
import { hunksOf } from '../../parts/difference/hunks'
import { count, size } from '../../parts/format'
import { DialogFrame } from '../../writing/dialog-frame'

/** A file whose two sides are looked at. */
export interface Looked {
  readonly path: string
  /** `here`, `there`, or a delivery; and what that is called. */
  readonly was: { readonly side: string; readonly called: string }
  readonly now: { readonly side: string; readonly called: string }
}

/** A file as it is on one side; null bytes where it is not there. */
type Read =
  | { readonly kind: 'reading' }
  | { readonly kind: 'failed'; readonly why: string }
  | { readonly kind: 'read'; readonly bytes: Uint8Array | null; readonly type: string }

const reading: Read = { kind: 'reading' }

function useSide(siteId: string, to: string, path: string, side: string): Read {
  const [read, setRead] = useState<Read>(reading)
  useEffect(() => {
    const abort = new AbortController()
    const query = new URLSearchParams({ to, path, side })
    fetch(`/sites/${siteId}/difference?${query}`, { signal: abort.signal })
      .then(async (response) => {
        if (response.status === 204) return setRead({ kind: 'read', bytes: null, type: '' })
        if (!response.ok) {
          const answer = isJson(response)
            ? ((await response.json()) as { problem?: { message: string } })
            : {}
          throw new Error(answer.problem?.message ?? 'It could not be fetched. Try again in a moment.')
        }
        const bytes = new Uint8Array(await response.arrayBuffer())
        setRead({ kind: 'read', bytes, type: response.headers.get('content-type') ?? '' })
      })
      .catch((error: Error) => {
        if (!abort.signal.aborted)
          setRead({
            kind: 'failed',
            why: error instanceof TypeError ? 'The server does not answer.' : error.message,
          })
      })
    return () => abort.abort()
  }, [siteId, to, path, side])
  return read
}

/** Texts longer than this are told by their sizes: nobody reads them line by line. */
const readableBytes = 1_000_000

/** Bytes as a text, whatever their letters; null for what is none. */
function textOf(bytes: Uint8Array): string | null {
  if (bytes.length > readableBytes || bytes.subarray(0, 8_000).includes(0)) return null
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes)
  } catch {
    return new TextDecoder('windows-1252').decode(bytes)
  }
}

/** A file as it is on two sides: a text line by line, a picture beside a picture, anything else by its size. */
export function DifferenceDialog({
  to,
  looked,
  onClose,
  onTake,
}: {
  /** The destination. */
  to: string
  looked: Looked
  onClose: () => void
  /** Takes the file from there, where that can be wanted. */
  onTake: ((path: string) => void) | null
}) {
  return (
    <DialogFrame title={looked.path} open onClose={onClose}>
      <Sides to={to} looked={looked} onClose={onClose} onTake={onTake} />
    </DialogFrame>
  )
}

function Sides({ to, looked: { path, was, now }, onClose, onTake }: Parameters<typeof DifferenceDialog>[0]) {
  const { site } = useSite()
  const before = useSide(site.id, to, path, was.side)
  const after = useSide(site.id, to, path, now.side)
  const failed = [before, after].find((side) => side.kind === 'failed')
  return (
    <div className="grid min-h-0 grid-rows-[minmax(0,1fr)_auto]">
      {failed ? (
        <p role="alert" className="px-7 pb-5 text-rubric">
          {failed.why}
        </p>
      ) : before.kind !== 'read' || after.kind !== 'read' ? (
        <p role="status" className="px-7 pb-5 text-quiet">
          Fetching it…
        </p>
      ) : (
        <Both was={{ ...before, called: was.called }} now={{ ...after, called: now.called }} />
      )}
      <div className="flex items-center gap-4 border-t border-rule bg-vellum px-7 py-3">
        <Button look={onTake ? 'plain' : 'go'} onClick={onClose}>
          Close
        </Button>
        {onTake && before.kind === 'read' && before.bytes && (
          <Button onClick={() => onTake(path)}>Take it here</Button>
        )}
      </div>
    </div>
  )
}

interface SideView {
  readonly bytes: Uint8Array | null
  readonly type: string
  readonly called: string
}

function Both({ was, now }: { was: SideView; now: SideView }) {
  const isPicture = [was, now].some(({ type }) => type.startsWith('image/'))
  const [before, after] = useMemo(() => {
    const read = ({ bytes }: SideView) => (bytes === null ? '' : textOf(bytes))
    return isPicture ? [null, null] : [read(was), read(now)]
  }, [was, now, isPicture])
  const hunks = useMemo(
    () => (before === null || after === null ? null : hunksOf(before, after)),
    [before, after],
  )
  if (isPicture)
    return (
      <div className="grid min-h-0 grid-cols-2 gap-4 overflow-auto px-7 pb-5">
        {[was, now].map((side) => (
          <Picture key={side.called} side={side} />
        ))}
      </div>
    )
  const differs = hunks?.filter(({ kind }) => kind === 'other').length ?? 0
  const absent = [was, now].find(({ bytes }) => bytes === null)
  return (
    <div className="grid min-h-0 grid-rows-[auto_minmax(0,1fr)]">
      <p className="px-7 pb-1 text-quiet">
        {absent ? (
          <>It is not {absent.called}.</>
        ) : hunks === null ? (
          <>
            {size(was.bytes!.length)} {was.called}, {size(now.bytes!.length)} {now.called}. It is no text, or
            too long to be read here.
          </>
        ) : differs === 0 ? (
          <>
            It is the same {was.called} and {now.called}.
          </>
        ) : (
          <>
            {count(differs, 'stretch', 'stretches')} differ{differs === 1 ? 's' : ''}:{' '}
            <span className="bg-verdigris-wash px-1">− {was.called}</span>,{' '}
            <span className="bg-ochre-wash px-1">+ {now.called}</span>.
          </>
        )}
      </p>
      {hunks !== null && (
        <Difference label="What differs" hunks={hunks} sides={[was.called, now.called]} alike="alike" />
      )}
    </div>
  )
}

function Picture({ side: { bytes, type, called } }: { side: SideView }) {
  const [address, setAddress] = useState<string | null>(null)
  useEffect(() => {
    if (bytes === null) return
    const made = URL.createObjectURL(new Blob([bytes as BlobPart], { type }))
    setAddress(made)
    return () => URL.revokeObjectURL(made)
  }, [bytes, type])
  return (
    <figure className="grid content-start gap-1.5">
      <figcaption className="text-quiet">
        {called}
        {bytes !== null && `, ${size(bytes.length)}`}
      </figcaption>
      {bytes === null ? (
        <p className="text-quiet">It is not there.</p>
      ) : (
        address && (
          <img src={address} alt={`The picture ${called}`} className="max-w-full border border-rule" />
        )
      )}
    </figure>
  )
}
