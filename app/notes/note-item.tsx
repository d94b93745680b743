import { useId, useState } from 'react'
import { Button } from '../parts/button'
import { moment } from '../parts/format'
import { useKeptText } from './use-kept-text'

/** A note as it came from the server. */
export interface ShownNote {
  readonly id: string
  readonly pageId: string | null
  readonly place: { readonly tag: string; readonly nth: number; readonly quote: string } | null
  readonly author: string
  readonly isOurs: boolean
  readonly text: string
  readonly madeAt: string | Date
  readonly answers: readonly {
    readonly id: string
    readonly author: string
    readonly isOurs: boolean
    readonly text: string
    readonly madeAt: string | Date
  }[]
  readonly settled: { readonly at: string | Date; readonly by: string; readonly with: string | null } | null
}

/** One note with its answers, and what may be done with it. */
export function NoteItem({
  note,
  onGo,
  onAnswer,
  onSettle,
  onReopen,
  onRemove,
}: {
  note: ShownNote
  /** Leads to the place it is about; null where it is about a page as a whole. */
  onGo: (() => void) | null
  /** @returns whether it was taken */
  onAnswer: ((text: string) => Promise<boolean>) | null
  onSettle?: () => void
  onReopen?: () => void
  onRemove?: () => void
}) {
  const { author, text, madeAt, answers, place, settled } = note
  const [isAnswering, setAnswering] = useState(false)
  return (
    <li className={`border-b border-rule py-3 ${settled ? 'text-quiet' : ''}`} data-note={note.id}>
      <p className="flex items-baseline gap-2 text-sm text-quiet">
        <span className="font-semibold text-ink">{author}</span>
        <span suppressHydrationWarning>{moment(madeAt)}</span>
      </p>
      {place && place.quote !== '' && (
        <p className="mt-0.5 truncate border-l-2 border-lapis pl-2 text-sm text-quiet" title={place.quote}>
          {place.quote}
        </p>
      )}
      <p className="mt-1 break-words whitespace-pre-line">{text}</p>
      {answers.length > 0 && (
        <ul className="mt-2 grid gap-2 border-l border-rule pl-3">
          {answers.map((answer) => (
            <li key={answer.id}>
              <p className="text-sm text-quiet">
                <span className="font-semibold text-ink">{answer.author}</span>{' '}
                <span suppressHydrationWarning>{moment(answer.madeAt)}</span>
              </p>
              <p className="break-words whitespace-pre-line">{answer.text}</p>
            </li>
          ))}
        </ul>
      )}
      {settled && (
        <p className="mt-2 text-sm text-verdigris" suppressHydrationWarning>
          Settled by {settled.by}, {moment(settled.at)}
          {settled.with && `, with ${settled.with}`}
        </p>
      )}
      {isAnswering && onAnswer ? (
        <AnswerForm
          name={`on ${note.id}`}
          to={author}
          onSend={async (words) => {
            const isTaken = await onAnswer(words)
            if (isTaken) setAnswering(false)
            return isTaken
          }}
          onCancel={() => setAnswering(false)}
        />
      ) : (
        <p className="mt-2 flex flex-wrap gap-4 text-sm">
          {onGo && (
            <button type="button" className="link" onClick={onGo}>
              Go there
            </button>
          )}
          {onAnswer && (
            <button type="button" className="link" onClick={() => setAnswering(true)}>
              Answer<span className="sr-only"> {author}</span>
            </button>
          )}
          {onSettle && !settled && (
            <button type="button" className="link" onClick={onSettle}>
              Settle<span className="sr-only"> the note of {author}</span>
            </button>
          )}
          {onReopen && settled && (
            <button type="button" className="link" onClick={onReopen}>
              Open it again
            </button>
          )}
          {onRemove && (
            <button type="button" className="link ml-auto" onClick={onRemove}>
              Remove<span className="sr-only"> the note of {author}</span>
            </button>
          )}
        </p>
      )}
    </li>
  )
}

function AnswerForm({
  name,
  to,
  onSend,
  onCancel,
}: {
  /** Under which what is typed is kept. */
  name: string
  to: string
  /** @returns whether it was taken */
  onSend: (text: string) => Promise<boolean>
  onCancel: () => void
}) {
  const [text, setText] = useKeptText(name)
  const [isSending, setSending] = useState(false)
  const field = useId()
  return (
    <form
      className="mt-2 grid gap-2"
      onSubmit={(event) => {
        event.preventDefault()
        if (text.trim() === '') return
        setSending(true)
        void onSend(text)
          .then((isTaken) => isTaken && setText(''))
          .finally(() => setSending(false))
      }}
    >
      <label htmlFor={field} className="sr-only">
        Your answer to {to}
      </label>
      <textarea
        id={field}
        className="area !font-sans"
        rows={2}
        maxLength={4000}
        autoFocus
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <span className="flex gap-3">
        <Button type="submit" className="!py-1" disabled={isSending || text.trim() === ''}>
          Send the answer
        </Button>
        <Button
          look="quiet"
          onClick={() => {
            setText('')
            onCancel()
          }}
        >
          Leave it
        </Button>
      </span>
    </form>
  )
}
