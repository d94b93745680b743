import { useEffect, useRef, useState } from 'react'
import { useNavigate } from 'react-router'
import { asPost, begin, NotTaken } from '../bringing/send-site'
import { size } from '../parts/format'
import { sendFile } from '../parts/send-file'
import { useAsksBeforeLeaving } from '../parts/use-asks-before-leaving'

type State =
  | { readonly kind: 'waiting' }
  | { readonly kind: 'sending'; readonly name: string; readonly sent: number; readonly of: number }
  | { readonly kind: 'failed'; readonly why: string }

/** Sends an archive, and has a site made of it; @throws `NotTaken` */
async function takeIn(
  file: File,
  signal: AbortSignal,
  onSent: (bytes: number) => void,
  onPause: (isPausing: boolean) => void,
): Promise<string> {
  const bringing = (await begin(file.name, false, { signal, onPause })).id
  const upload = crypto.randomUUID()
  const taken = await sendFile<{ readonly id: string }>(
    {
      file,
      at: '/sites/take-in',
      query: { request: crypto.randomUUID(), bringing, upload },
      portionsAt: `/bringing/${bringing}/uploads/${upload}`,
    },
    signal,
    { onSent, onPause },
  )
  if (!('problem' in taken)) return taken.id
  // Nobody goes on with what has come of it.
  void fetch(`/bringing/${bringing}`, asPost({ drop: true })).catch(() => {})
  throw new NotTaken(taken.problem)
}

/** Makes a site again of an archive that was taken away; tells how far it is, and can be called off. */
export function TakeArchive() {
  const input = useRef<HTMLInputElement>(null)
  const [state, setState] = useState<State>({ kind: 'waiting' })
  const [isPausing, setPausing] = useState(false)
  const ending = useRef<AbortController | null>(null)
  // Whoever leaves wants no more of it.
  useEffect(() => () => ending.current?.abort(), [])
  const navigate = useNavigate()
  const send = async (file: File) => {
    const own = (ending.current = new AbortController())
    const tell = (next: State) => own.signal.aborted || setState(next)
    const onSent = (sent: number) => tell({ kind: 'sending', name: file.name, sent, of: file.size })
    setPausing(false)
    onSent(0)
    try {
      const id = await takeIn(file, own.signal, onSent, (isNow) => own.signal.aborted || setPausing(isNow))
      void navigate(`/sites/${id}/plan`)
    } catch (error) {
      tell({
        kind: 'failed',
        why: error instanceof NotTaken ? error.message : 'This could not be taken. Try again.',
      })
    }
  }
  const isSending = state.kind === 'sending'
  useAsksBeforeLeaving(isSending)
  return (
    <>
      <button type="button" className="link" disabled={isSending} onClick={() => input.current?.click()}>
        Bring one back
      </button>
      <input
        ref={input}
        type="file"
        accept=".zip,application/zip"
        hidden
        aria-label="The archive of a site"
        onChange={(event) => {
          const [file] = event.currentTarget.files ?? []
          event.currentTarget.value = ''
          if (file) void send(file)
        }}
      />
      {state.kind === 'sending' && (
        <span role="status" className="flex items-baseline gap-3">
          {state.sent < state.of
            ? `${state.name}: ${size(state.sent)} of ${size(state.of)}`
            : `${state.name}: reading what is in it…`}
          {isPausing && <span className="text-quiet">goes on by itself when the line is back</span>}
          <button
            type="button"
            className="link"
            onClick={() => {
              ending.current?.abort()
              setState({ kind: 'waiting' })
            }}
          >
            Cancel
          </button>
        </span>
      )}
      {state.kind === 'failed' && (
        <span role="alert" className="text-rubric">
          {state.why}
        </span>
      )}
    </>
  )
}
