import { ChevronDown, ChevronRight } from 'lucide-react'
import { useEffect, useId, useState } from 'react'
import type { Page } from '#core/site'
import { useSite } from '../document/site-context'
import { Button } from '../parts/button'
import { count } from '../parts/format'
import type { QuotedPlace } from '../preview/messages'
import { NoteItem } from './note-item'
import { useNotes } from './notes-context'
import { useKeptText } from './use-kept-text'
import { Refusal } from '../parts/notice'

/** What is noted on a page, or on the plan; in its margin, where there is anything, and to be opened otherwise. */
export function PageNotes({
  page,
  place,
  onGo,
  onUnpin,
}: {
  /** Null for the plan. */
  page: Page | null
  /** The place that was clicked on last: a note is pinned there. */
  place: QuotedPlace | null
  onGo?: (place: QuotedPlace) => void
  onUnpin?: () => void
}) {
  const { notes, act, problem } = useNotes()
  const { store, site } = useSite()
  const mayWrite = store.may('write')
  const here = notes.filter(({ pageId }) => pageId === (page?.id ?? null))
  const open = here.filter(({ settled }) => !settled)
  const [isOpen, setOpen] = useState(open.length > 0)
  const hasOpen = open.length > 0
  // A note that comes in while its page is shown wants to be seen.
  useEffect(() => {
    if (hasOpen) setOpen(true)
  }, [hasOpen])
  const [showsSettled, setShowsSettled] = useState(false)
  const shown = showsSettled ? here : open
  const region = useId()
  return (
    <section aria-label="Notes" className="min-w-0 border-t border-rule">
      <h2 className="font-sans text-[15px]">
        <button
          type="button"
          aria-expanded={isOpen}
          aria-controls={region}
          className="flex w-full items-center gap-1.5 px-4 py-2 text-left hover:bg-vellum"
          onClick={() => setOpen(!isOpen)}
        >
          {isOpen ? <ChevronDown size={14} /> : <ChevronRight size={14} />}
          {hasOpen ? count(open.length, 'note') : 'Notes'}
          <span className="text-sm text-quiet">
            on{' '}
            {page ? (
              <>
                “<bdi>{page.label}</bdi>”
              </>
            ) : (
              'the plan'
            )}
          </span>
        </button>
      </h2>
      <div id={region} hidden={!isOpen} className="max-h-[38vh] overflow-y-auto px-4 pb-3">
        <ul>
          {shown.map((note) => (
            <NoteItem
              key={note.id}
              note={note}
              onGo={note.place && onGo ? () => onGo(note.place!) : null}
              onAnswer={(text) => act({ do: 'answer', id: note.id, text })}
              onSettle={mayWrite ? () => void act({ do: 'settle', id: note.id }) : undefined}
              onReopen={mayWrite ? () => void act({ do: 'reopen', id: note.id }) : undefined}
              onRemove={mayWrite && note.settled ? () => void act({ do: 'remove', id: note.id }) : undefined}
            />
          ))}
        </ul>
        {here.length > open.length && (
          <p className="py-2">
            <button type="button" className="link text-sm" onClick={() => setShowsSettled(!showsSettled)}>
              {showsSettled ? 'Hide what is settled' : `${count(here.length - open.length, 'settled note')}`}
            </button>
          </p>
        )}
        {problem && <Refusal className="my-2 text-sm">{problem}</Refusal>}
        <OwnNote
          key={page?.id ?? ''}
          name={`${site.id} ${page?.id ?? 'plan'}`}
          place={place}
          onUnpin={onUnpin}
          onSend={(text) =>
            act({
              do: 'note',
              pageId: page?.id ?? null,
              place: place && { tag: place.tag, nth: place.nth, quote: place.quote },
              text,
            })
          }
        />
      </div>
    </section>
  )
}

/** A note for those one works with. */
function OwnNote({
  name,
  place,
  onUnpin,
  onSend,
}: {
  /** Under which what is typed is kept. */
  name: string
  place: QuotedPlace | null
  onUnpin?: () => void
  onSend: (text: string) => Promise<boolean>
}) {
  const [text, setText] = useKeptText(name)
  const field = useId()
  return (
    <form
      className="grid grid-cols-[minmax(0,1fr)] gap-2 pt-3"
      onSubmit={(event) => {
        event.preventDefault()
        if (text.trim() === '') return
        void onSend(text).then((taken) => {
          if (!taken) return
          setText('')
          onUnpin?.()
        })
      }}
    >
      {place && text !== '' && (
        <p className="flex items-baseline gap-3 text-sm">
          <span className="min-w-0 flex-1 truncate border-l-2 border-lapis pl-2">
            {place.quote || 'The place you clicked on'}
          </span>
          <button type="button" className="link" onClick={onUnpin}>
            Not this place
          </button>
        </p>
      )}
      <span className="flex items-end gap-3">
        <label htmlFor={field} className="sr-only">
          A note for those you work with
        </label>
        <textarea
          id={field}
          className="area !font-sans flex-1"
          rows={1}
          maxLength={4000}
          placeholder="A note for those you work with"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        <Button type="submit" className="!py-1.5" disabled={text.trim() === ''}>
          Note it
        </Button>
      </span>
    </form>
  )
}
