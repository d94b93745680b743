import { useEffect, useRef, useState } from 'react'
import { useNavigate, useSearchParams } from 'react-router'
import type { FrameMark, Remark } from '#core/bringing'
import type { BringingView, BringingWishes } from '#server/bringing'
import { count } from '../parts/format'
import type { HowFar } from '../parts/use-rate'
import type { Place } from '../parts/picks/place-search'
import { noPlace, type PlaceValues } from '../upload/place/place-fields'
import {
  ask,
  askForLong,
  asPost,
  begin,
  fetchFromHost,
  learnHost,
  NotTaken,
  sendFolder,
  sendZip,
  type Sent,
  type Telling,
  unreadable,
} from './send-site'
import type { Dropped } from '../parts/files-of-drop'
import { takeHanded } from './handed'

/** The site that pages join, the pages of it that they may come under, and the one that was chosen for it. */
export interface JoinedSite {
  readonly id: string
  readonly name: string
  readonly places: readonly Place[]
  readonly under: string | undefined
}

type State =
  | { readonly kind: 'choosing' }
  | { readonly kind: 'host' }
  /** From this computer. */
  | { readonly kind: 'sending'; readonly words: string; readonly far: HowFar }
  /** From a host, to the server. */
  | { readonly kind: 'fetching'; readonly words: string; readonly done: number; readonly of: number }
  | {
      readonly kind: 'looking'
      readonly id: string
      readonly view: BringingView | null
      /** Whether it is being looked at anew. */
      readonly isBusy: boolean
      readonly done: number
      readonly of: number
    }
  | { readonly kind: 'making'; readonly id: string; readonly view: BringingView }

/** How long a plan rests before it is worked out what comes of a correction. */
const correctAfterMs = 600

const asTheyAre: BringingWishes = {
  names: 'kept',
  lifts: true,
  generates: true,
  planBy: 'found',
  same: 'leave',
  frame: 'own',
}

/**
 * Files that are brought in: sent or fetched, understood, corrected, and made a site of, or pages of one.
 * @param into the site that they join; null for a new one
 */
export function useBringing(into: JoinedSite | null) {
  const navigate = useNavigate()
  const [state, setState] = useState<State>({ kind: 'choosing' })
  const [wishes, setWishes] = useState<BringingWishes>({
    ...asTheyAre,
    into: into?.id,
    under: into?.under,
  })
  const [name, setName] = useState<string | null>(null)
  /** What the window did not even send. */
  const [unsent, setUnsent] = useState<readonly Remark[]>([])
  const [problem, setProblem] = useState<string | null>(null)
  const [isPausing, setPausing] = useState(false)
  const [request] = useState(() => ({ id: '' }))
  const ending = useRef<AbortController | null>(null)
  // Files that were taken from a destination wait already: they are looked at first, in the place of the site's own.
  const [query] = useSearchParams()
  const waiting = query.get('waiting')
  const begun = useRef(false)
  useEffect(() => {
    if (waiting === null || begun.current) return
    begun.current = true
    const asked: BringingWishes = { ...wishes, same: 'replace', frame: 'site' }
    setWishes(asked)
    void attempt((telling) => look(waiting, asked, telling), { kind: 'choosing' })
    // Once, for what the address names.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [waiting])
  // Whoever leaves wants no more of it.
  useEffect(() => () => ending.current?.abort(), [])

  /** Does what may take long, until it is called off. */
  async function attempt(work: (telling: Telling) => Promise<void>, back: State): Promise<void> {
    ending.current?.abort()
    const own = (ending.current = new AbortController())
    setProblem(null)
    setPausing(false)
    const onPause = (isNow: boolean) => own.signal.aborted || setPausing(isNow)
    try {
      await work({ signal: own.signal, onPause })
    } catch (error) {
      if (own.signal.aborted) return
      setProblem(error instanceof NotTaken ? error.message : 'This could not be done. Try again in a moment.')
      setState(back.kind === 'looking' ? { ...back, isBusy: false } : back)
    }
  }

  const post = <T>(id: string, what: object, telling: Telling) =>
    ask<T>(`/bringing/${id}`, asPost(what), telling)

  /** Has the plan be as it was corrected, or as it was found, and looks again. */
  async function correct(id: string, lines: BringingView['lines'] | null, telling: Telling): Promise<void> {
    const plan = lines && lines.map(({ was, label, depth }) => ({ path: was, label, depth }))
    await post(id, { plan }, telling)
    await look(id, wishes, telling)
    // What was corrected meanwhile is newer than what has come.
    setDraft((was) => (was === lines ? null : was))
  }

  /** Has the edges of slots be where they were moved to; null where they were found. */
  const moveEdges = (marks: readonly FrameMark[] | null) => {
    if (state.kind !== 'looking') return
    const { id } = state
    void attempt(async (telling) => {
      if (draft) await correct(id, draft, telling)
      await post(id, { marks }, telling)
      await look(id, wishes, telling)
    }, state)
  }

  async function look(id: string, asked: BringingWishes, telling: Telling): Promise<void> {
    const looking = (done: number, of: number) =>
      setState((was) => ({
        kind: 'looking',
        id,
        view: was.kind === 'looking' ? was.view : null,
        isBusy: true,
        done,
        of,
      }))
    looking(0, 0)
    const said = Object.entries(asked).filter(([, value]) => value !== undefined)
    const query = new URLSearchParams(said.map(([key, value]) => [key, String(value)]))
    const view = await askForLong<BringingView>(`/bringing/${id}?${query}`, telling, looking)
    setState({ kind: 'looking', id, view, isBusy: false, done: 0, of: 0 })
  }

  const bring = (
    words: string,
    all: Sent,
    called: string,
    send: (id: string, telling: Telling, tell: (sent: Sent) => void) => Promise<unknown>,
    example = false,
  ) =>
    void attempt(
      async (telling) => {
        const tell = ({ files, bytes }: Sent) =>
          setState({
            kind: 'sending',
            words,
            far: { files, allFiles: all.files, bytes, allBytes: all.bytes },
          })
        tell({ files: 0, bytes: 0 })
        setUnsent([])
        const { id } = await begin(called, example, telling)
        await send(id, telling, tell)
        await look(id, wishes, telling)
      },
      { kind: 'choosing' },
    )
  const bringFolder = ({ files, unread: refused }: Dropped) =>
    bring(
      `Sending ${count(files.length, 'file')}…`,
      { files: files.length, bytes: files.reduce((sum, { file }) => sum + file.size, 0) },
      files[0]?.path.split('/')[0] ?? '',
      async (id, telling, tell) => {
        const failed = await sendFolder(id, files, telling, tell)
        setUnsent([...refused.map((path) => ({ path, why: unreadable })), ...failed])
      },
    )

  // What was dropped on the site that it joins is on its way at once.
  const [given] = useState(takeHanded)
  useEffect(() => {
    if (given === null || begun.current) return
    begun.current = true
    bringFolder({ files: given, unread: [] })
    // Once, for what was handed over.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [given])

  // Kept here: what was typed is there again when a host did not answer.
  const [place, setPlace] = useState(noPlace)
  /** What waits for files of a host; begun once, however often its key is asked for. */
  const hosted = useRef<string | null>(null)
  const beginHosted = async (telling: Telling): Promise<string> =>
    (hosted.current ??= (await begin('', false, telling)).id)
  async function learnKey(place: PlaceValues): Promise<string | null> {
    let hostKey: string | null = null
    await attempt(async (telling) => {
      hostKey = await learnHost(await beginHosted(telling), place, telling)
    }, state)
    return hostKey
  }
  const bringFromHost = (place: PlaceValues, hostKey: string) =>
    void attempt(
      async (telling) => {
        setState({ kind: 'fetching', words: `Fetching from ${place.host}…`, done: 0, of: 0 })
        const id = await beginHosted(telling)
        // Files of one place alone: what a cut or a mistaken folder left is not mixed with what comes next.
        hosted.current = null
        await fetchFromHost(id, place, hostKey, telling.signal, (done, of) =>
          setState((was) => (was.kind === 'fetching' ? { ...was, done, of } : was)),
        )
        await look(id, wishes, telling)
      },
      { kind: 'host' },
    )

  /** The plan as it is being corrected, until it has been worked out what comes of it. */
  const [draft, setDraft] = useState<BringingView['lines'] | null>(null)
  useEffect(() => {
    if (draft === null || state.kind !== 'looking') return
    const { id } = state
    const timer = setTimeout(
      () => void attempt((telling) => correct(id, draft, telling), state),
      correctAfterMs,
    )
    return () => clearTimeout(timer)
    // With each correction, and not with what comes of it.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [draft])
  function putBack(id: string): void {
    setDraft(null)
    void attempt((telling) => correct(id, null, telling), state)
  }

  function wish(part: Partial<BringingWishes>): void {
    const asked = { ...wishes, ...part }
    setWishes(asked)
    if (state.kind !== 'looking') return
    const { id } = state
    // What is corrected but not sent goes first.
    void attempt(async (telling) => {
      if (draft) await correct(id, draft, telling)
      await look(id, asked, telling)
    }, state)
  }

  function make(id: string, view: BringingView): void {
    request.id ||= crypto.randomUUID()
    void attempt(
      async (telling) => {
        setState({ kind: 'making', id, view })
        const made = { ...wishes, name: name ?? view.name, request: request.id }
        const { siteId } = await post<{ siteId: string }>(id, made, telling)
        await navigate(`/sites/${siteId}/plan`)
      },
      { kind: 'looking', id, view, isBusy: false, done: 0, of: 0 },
    )
  }

  function leave(): void {
    ending.current?.abort()
    if ('id' in state) void fetch(`/bringing/${state.id}`, asPost({ drop: true })).catch(() => {})
    request.id = ''
    setName(null)
    setDraft(null)
    setProblem(null)
    setUnsent([])
    setState({ kind: 'choosing' })
  }

  return {
    state,
    wishes,
    wish,
    /** What the site is called; null as it was found. */
    name,
    setName,
    problem,
    /** The line is down, or whoever works here is signed out: it goes on by itself. */
    isPausing,
    unsent,
    bringFolder,
    bringZip: (file: File) =>
      bring(
        `Sending ${file.name}…`,
        { files: 0, bytes: file.size },
        file.name.replace(/\.zip$/i, ''),
        (id, telling, tell) => sendZip(id, file, telling, tell),
      ),
    bringExample: () => bring('Unpacking Saltings Ferry…', { files: 0, bytes: 0 }, '', async () => {}, true),
    chooseHost() {
      setProblem(null)
      setState({ kind: 'host' })
    },
    place,
    setPlace,
    learnKey,
    bringFromHost,
    draft,
    correctPlan: setDraft,
    putBack,
    moveEdges,
    make,
    leave,
  }
}
