import { createContext, type ReactNode, useCallback, useContext, useEffect, useMemo, useState } from 'react'
import { useSite } from '../document/site-context'
import { asJson, isJson } from '../document/post'
import type { ShownNote } from './note-item'
import type { NoteFields } from './note-input.server'

/** What may be asked of notes; see `note-input.server.ts`. */
type NoteAction =
  | ({ readonly do: 'note' } & NoteFields)
  | { readonly do: 'answer'; readonly id: string; readonly text: string }
  | { readonly do: 'settle' | 'reopen' | 'remove'; readonly id: string }

interface NotesValue {
  readonly notes: readonly ShownNote[]
  /** Fetches them again: somebody has written. */
  readonly load: () => void
  /** @returns whether it was done; the reason why not is in `problem` */
  readonly act: (action: NoteAction) => Promise<boolean>
  readonly problem: string | null
}

const NotesContext = createContext<NotesValue | null>(null)
const none: readonly ShownNote[] = []

export function NotesProvider({ children }: { children: ReactNode }) {
  const { site } = useSite()
  const address = `/sites/${site.id}/notes`
  const [notes, setNotes] = useState(none)
  const [problem, setProblem] = useState<string | null>(null)
  const load = useCallback(() => {
    fetch(address)
      .then(async (response) => {
        if (!response.ok || !isJson(response)) return
        const told = (await response.json()) as { notes: ShownNote[] }
        // Most sites have none: nothing has to be drawn again then.
        setNotes((now) => (now.length === 0 && told.notes.length === 0 ? now : told.notes))
      })
      .catch(() => {
        // The next event brings them.
      })
  }, [address])
  useEffect(load, [load])
  const act = useCallback(
    async (action: NoteAction) => {
      setProblem(null)
      try {
        const response = await fetch(address, {
          method: 'POST',
          headers: asJson,
          body: JSON.stringify(action),
        })
        const told = (isJson(response) ? await response.json() : {}) as {
          notes?: ShownNote[]
          problem?: { message: string }
        }
        if (told.notes) setNotes(told.notes)
        else setProblem(told.problem?.message ?? 'This could not be done. Try again in a moment.')
        return Boolean(told.notes)
      } catch {
        setProblem('No connection. What you wrote is still here.')
        return false
      }
    },
    [address],
  )
  const value = useMemo(() => ({ notes, load, act, problem }), [notes, load, act, problem])
  return <NotesContext value={value}>{children}</NotesContext>
}

export function useNotes(): NotesValue {
  const value = useContext(NotesContext)
  if (!value) throw new Error('Used outside NotesProvider')
  return value
}

/** How many notes are open, by page; those on the plan under the empty name. */
export function useOpenNotes(): ReadonlyMap<string, number> {
  const { notes } = useNotes()
  return useMemo(() => {
    const open = new Map<string, number>()
    for (const { pageId, settled } of notes)
      if (!settled) open.set(pageId ?? '', (open.get(pageId ?? '') ?? 0) + 1)
    return open
  }, [notes])
}
