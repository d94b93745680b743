import { useRef, useState } from 'react'
import { useNavigate } from 'react-router'
import { size } from '../parts/format'

type State =
  | { readonly kind: 'waiting' }
  | { readonly kind: 'sending'; readonly name: string; readonly sent: number; readonly of: number }
  | { readonly kind: 'failed'; readonly why: string }

/** Makes a site again of an archive that was taken away; tells how far it is, and can be called off. */
export function TakeArchive() {
  const input = useRef<HTMLInputElement>(null)
  const [state, setState] = useState<State>({ kind: 'waiting' })
  const request = useRef<XMLHttpRequest | null>(null)
  const navigate = useNavigate()
  const send = (file: File) => {
    setState({ kind: 'sending', name: file.name, sent: 0, of: file.size })
    // `fetch` tells nothing of how far a body has got.
    const sending = new XMLHttpRequest()
    request.current = sending
    sending.open('POST', '/sites/take-in')
    sending.responseType = 'json'
    sending.upload.onprogress = ({ loaded }) =>
      setState({ kind: 'sending', name: file.name, sent: loaded, of: file.size })
    sending.onload = () => {
      const told = sending.response as { id?: string; problem?: { message: string } } | null
      if (told?.id) void navigate(`/sites/${told.id}/plan`)
      else setState({ kind: 'failed', why: told?.problem?.message ?? 'This could not be taken. Try again.' })
    }
    sending.onerror = () => setState({ kind: 'failed', why: 'The connection was cut. Nothing was made.' })
    sending.onabort = () => setState({ kind: 'waiting' })
    sending.send(file)
  }
  return (
    <>
      <button
        type="button"
        className="link"
        disabled={state.kind === 'sending'}
        onClick={() => input.current?.click()}
      >
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
          if (file) send(file)
        }}
      />
      {state.kind === 'sending' && (
        <span role="status" className="flex items-baseline gap-3">
          {state.sent < state.of
            ? `${state.name}: ${size(state.sent)} of ${size(state.of)}`
            : `${state.name}: reading what is in it…`}
          <button type="button" className="link" onClick={() => request.current?.abort()}>
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
