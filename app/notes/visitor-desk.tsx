import { useEffect, useRef, useState } from 'react'
import { useRevalidator } from 'react-router'
import { encodePath } from '#core/markup'
import { asJson, isJson } from '../document/post'
import { Button } from '../parts/button'
import { count, moment } from '../parts/format'
import { useKeptText } from './use-kept-text'
import { NoteItem, type ShownNote } from './note-item'
import { LeadsOutside } from '../preview/leads-outside'
import { type Leaving, readPreviewMessage } from '../preview/messages'
import { LostFrame, useFrameWatch } from '../preview/use-frame-watch'
import { useReloads } from '../preview/use-reloads'
import { useStableActions } from '../parts/use-stable-actions'
import { Refusal } from '../parts/notice'

/** A page of the site that is looked at. */
interface LookPage {
  readonly id: string
  readonly label: string
  readonly path: string
  readonly depth: number
  readonly number: string
}

export interface ShownLook {
  readonly siteName: string
  readonly revision: number
  readonly endsAt: Date
  /** Where it is served from, for some minutes. */
  readonly base: string
  readonly pages: readonly LookPage[]
  readonly homeId: string
  readonly notes: readonly ShownNote[]
}

type Place = NonNullable<ShownNote['place']>

/** What others wrote or changed meanwhile is asked for this often; an address of the preview is good for longer. */
const askEveryMs = 20_000
const nameKey = 'rubricant name'

/** A site as visitors would see it, with a margin for notes. */
export function VisitorDesk({ look }: { look: ShownLook }) {
  const { pages, homeId } = look
  const revalidator = useRevalidator()
  const [pageId, setPageId] = useState<string | null>(homeId)
  const [place, setPlace] = useState<Place | null>(null)
  const [notes, setNotes] = useState(look.notes)
  const [seen, setSeen] = useState(look.notes)
  if (seen !== look.notes) {
    setSeen(look.notes)
    setNotes(look.notes)
  }
  const [problem, setProblem] = useState<string | null>(null)
  const [author, setAuthor] = useState('')
  const frame = useRef<HTMLIFrameElement>(null)
  const base = useRef(look.base)
  const [first] = useState(look.base)
  const shown = pages.find((page) => page.id === pageId) ?? null
  const [leaving, setLeaving] = useState<Leaving | null>(null)

  useEffect(() => {
    base.current = look.base
  }, [look.base])
  // The browser's storage is not there on the server.
  useEffect(() => setAuthor(readName()), [])
  const { loaded } = useStableActions({ loaded: useReloads(frame, look.revision) })
  const ask = revalidator.revalidate
  /** What the frame shows, or is to show. */
  const at = useRef(pages.find(({ id }) => id === homeId)?.path ?? '')
  const { watch, isLost } = useFrameWatch(frame, async () => {
    // Its address may have run out.
    await ask()
    if (frame.current) frame.current.src = base.current + encodePath(at.current)
  })
  useEffect(() => watch.began(true), [watch])
  const lead = (path: string) => {
    at.current = path
    if (frame.current) frame.current.src = base.current + encodePath(path)
    watch.began()
  }
  useEffect(() => {
    const timer = setInterval(() => {
      if (!document.hidden) void ask()
    }, askEveryMs)
    return () => clearInterval(timer)
  }, [ask])
  useEffect(() => {
    const hear = (event: MessageEvent) => {
      if (event.source !== frame.current?.contentWindow) return
      const told = readPreviewMessage(event.data)
      if (!told) return
      if ('reloads' in told) {
        watch.began()
        return
      }
      if ('expired' in told) {
        void ask().then(() => {
          if (frame.current) frame.current.src = base.current + told.expired
        })
        return
      }
      if ('outside' in told || 'form' in told) {
        setLeaving(told)
        return
      }
      setLeaving(null)
      const page = pages.find(({ path }) => path === told.path || path === `${told.path}index.html`)
      if ('place' in told) {
        if (page) setPageId(page.id)
        setPlace(told.place)
      } else {
        at.current = told.path
        loaded(told)
        watch.told()
        if (!page) return
        setPageId(page.id)
        setPlace((now) => (page.id === pageId ? now : null))
      }
    }
    addEventListener('message', hear)
    return () => removeEventListener('message', hear)
  }, [pages, ask, pageId, loaded, watch])

  const goTo = (id: string | null) => {
    setPageId(id)
    setPlace(null)
    const to = pages.find((page) => page.id === id)
    if (to) lead(to.path)
  }
  const show = (at: Place) => frame.current?.contentWindow?.postMessage({ rubricantShow: at }, '*')
  const send = async (request: object): Promise<boolean> => {
    setProblem(null)
    if (author.trim() === '') {
      setProblem('Say who you are, so that your note can be answered.')
      return false
    }
    keepName(author)
    try {
      const response = await fetch(`${location.pathname.replace(/\/$/, '')}/notes`, {
        method: 'POST',
        headers: asJson,
        body: JSON.stringify({ author, ...request }),
      })
      const answer = (isJson(response) ? await response.json() : {}) as {
        notes?: ShownNote[]
        problem?: { message: string }
      }
      if (answer.notes) setNotes(answer.notes)
      else setProblem(answer.problem?.message ?? 'This could not be sent. Try again in a moment.')
      return Boolean(answer.notes)
    } catch {
      setProblem('No connection. What you wrote is still here.')
      return false
    }
  }

  const here = notes.filter((note) => note.pageId === pageId)
  const open = (id: string | null) => notes.filter((note) => note.pageId === id && !note.settled).length
  return (
    <div className="grid min-h-dvh grid-cols-[minmax(0,1fr)] grid-rows-[auto_1fr] desk:h-dvh desk:overflow-hidden">
      <header className="flex flex-wrap items-center gap-x-6 gap-y-1 border-b border-rule px-5 py-2">
        <h1 className="text-[25px]">{look.siteName}</h1>
        <label className="flex min-w-0 items-baseline gap-2">
          <span className="text-sm text-quiet">You see</span>
          <select
            className="max-w-64 min-w-0 border-b border-rule bg-transparent py-0.5"
            value={pageId ?? ''}
            onChange={(event) => goTo(event.target.value === '' ? null : event.target.value)}
          >
            <option value="">the plan{withCount(open(null))}</option>
            {pages.map((page) => (
              <option key={page.id} value={page.id}>
                {'\u00a0'.repeat(2 * page.depth)}
                {page.label}
                {withCount(open(page.id))}
              </option>
            ))}
          </select>
        </label>
        <span className="ml-auto text-sm text-quiet" suppressHydrationWarning>
          A look until {moment(look.endsAt)}. What you note is read by whoever makes this site.
        </span>
      </header>
      <main className="grid min-h-0 grid-cols-[minmax(0,1fr)] desk:grid-cols-[minmax(0,1fr)_22rem]">
        <div className="grid min-h-[60vh] grid-rows-[auto_minmax(0,1fr)] bg-vellum p-3 desk:min-h-0">
          {leaving === null ? <span /> : <LeadsOutside leaving={leaving} onClose={() => setLeaving(null)} />}
          <div className={`relative h-full min-h-[60vh] w-full desk:min-h-0 ${shown ? '' : 'hidden'}`}>
            {isLost && <LostFrame />}
            <iframe
              ref={frame}
              onLoad={() => watch.loaded()}
              title={shown ? `The page ${shown.label}` : look.siteName}
              src={first + encodePath(pages.find(({ id }) => id === homeId)?.path ?? '')}
              sandbox="allow-scripts allow-forms"
              className="h-full min-h-[60vh] w-full border border-rule bg-white desk:min-h-0"
            />
          </div>
          {!shown && (
            <nav aria-label="The plan" className="h-full overflow-auto border border-rule bg-paper p-6">
              <ul>
                {pages.map((page) => (
                  <li key={page.id} style={{ paddingLeft: `${1.5 * page.depth}rem` }} className="py-1">
                    <button type="button" className="link" onClick={() => goTo(page.id)}>
                      <bdi>{page.label}</bdi>
                    </button>
                    <span className="ml-3 font-mono text-xs text-quiet">/{page.path}</span>
                  </li>
                ))}
              </ul>
            </nav>
          )}
        </div>
        <aside
          aria-label="Notes"
          className="flex min-h-0 flex-col border-rule max-desk:border-t desk:border-l"
        >
          <h2 className="px-5 pt-4 text-[22px]">Notes on {shown ? `“${shown.label}”` : 'the plan'}</h2>
          <div
            className="min-h-0 flex-1 overflow-y-auto px-5"
            tabIndex={0}
            role="region"
            aria-label="Notes so far"
          >
            {here.length === 0 ? (
              <p className="py-3 text-quiet">
                None yet. {shown && 'Click on a place in the page to say something about it.'}
              </p>
            ) : (
              <ul>
                {here.map((note) => (
                  <NoteItem
                    key={note.id}
                    note={note}
                    onGo={note.place ? () => show(note.place!) : null}
                    onAnswer={(text) => send({ do: 'answer', id: note.id, text })}
                  />
                ))}
              </ul>
            )}
          </div>
          <NoteForm
            key={`${pageId}`}
            name={`${homeId} ${pageId ?? 'plan'}`}
            about={shown?.label ?? null}
            place={place}
            onUnpin={() => setPlace(null)}
            author={author}
            onAuthor={setAuthor}
            problem={problem}
            onSend={async (text) => {
              const taken = await send({ do: 'note', pageId, place, text })
              if (taken) setPlace(null)
              return taken
            }}
          />
        </aside>
      </main>
    </div>
  )
}

const withCount = (open: number) => (open > 0 ? ` (${count(open, 'note')})` : '')

function NoteForm({
  name,
  about,
  place,
  onUnpin,
  author,
  onAuthor,
  problem,
  onSend,
}: {
  /** Under which what is typed is kept. */
  name: string
  /** The page; null for the plan. */
  about: string | null
  place: Place | null
  onUnpin: () => void
  author: string
  onAuthor: (name: string) => void
  problem: string | null
  /** @returns whether it was taken */
  onSend: (text: string) => Promise<boolean>
}) {
  const [text, setText] = useKeptText(name)
  const [isSending, setSending] = useState(false)
  return (
    <form
      className="grid grid-cols-[minmax(0,1fr)] gap-3 border-t border-rule px-5 py-4"
      onSubmit={(event) => {
        event.preventDefault()
        setSending(true)
        void onSend(text)
          .then((taken) => taken && setText(''))
          .finally(() => setSending(false))
      }}
    >
      {place ? (
        <p className="flex items-baseline gap-3 text-sm">
          <span className="min-w-0 flex-1 truncate border-l-2 border-lapis pl-2">
            {place.quote || 'The place you clicked on'}
          </span>
          <button type="button" className="link" onClick={onUnpin}>
            Not this place
          </button>
        </p>
      ) : (
        about !== null && <p className="text-sm text-quiet">About the page as a whole.</p>
      )}
      {problem && <Refusal className="text-sm">{problem}</Refusal>}
      <label className="block text-sm text-quiet">
        What you have to say
        <textarea
          className="area !font-sans !text-[15px] text-ink"
          rows={3}
          required
          maxLength={4000}
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
      </label>
      <label className="block text-sm text-quiet">
        Your name
        <input
          className="field text-[15px] text-ink"
          required
          maxLength={60}
          autoComplete="name"
          value={author}
          onChange={(event) => onAuthor(event.target.value)}
        />
      </label>
      <span>
        <Button type="submit" look="go" disabled={isSending}>
          Leave the note
        </Button>
      </span>
    </form>
  )
}

/** The name somebody used before; a browser that keeps nothing asks again. */
function readName(): string {
  try {
    return localStorage.getItem(nameKey) ?? ''
  } catch {
    return ''
  }
}

function keepName(name: string): void {
  try {
    localStorage.setItem(nameKey, name)
  } catch {
    // Asked for again the next time.
  }
}
