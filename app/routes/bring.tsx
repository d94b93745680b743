import { useEffect, useRef, useState } from 'react'
import { useNavigate, useSearchParams } from 'react-router'
import { ancestorsOf, treeOf } from '#core/plan'
import type { BringingView, BringingWishes } from '#server/bringing'
import { ChooseSite } from '../bringing/choose-site'
import {
  ask,
  askForLong,
  begin,
  fetchFromHost,
  learnHost,
  type FolderFile,
  NotTaken,
  sendFolder,
  sendZip,
} from '../bringing/send-site'
import { FromHost } from '../bringing/from-host'
import { FoundPlan } from '../bringing/found-plan'
import { FoundTemplates, Joining, Otherwise, WishesSentence } from '../bringing/understood'
import { requireAccount, requireSite } from '../owner.server'
import { Button } from '../parts/button'
import { count } from '../parts/format'
import { OutsideFrame } from '../parts/outside-frame'
import { noPlace, type PlaceValues } from '../upload/place/place-fields'
import type { Route } from './+types/bring'

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: `${loaderData?.into ? 'Bring pages in' : 'Bring a site in'} – Rubricant` },
]

/** The site that pages join and the pages that they may come under, as the address says it. */
export async function loader({ request }: Route.LoaderArgs) {
  const { email } = await requireAccount(request)
  const query = new URL(request.url).searchParams
  const siteId = query.get('into')
  if (siteId === null) return { email, into: null }
  const { site } = await requireSite(request, siteId, 'manage')
  const { byId } = treeOf(site)
  const page = byId.get(query.get('under') ?? '')
  const under = page && page.id !== site.homeId ? [...ancestorsOf(treeOf(site), page), page] : []
  return {
    email,
    into: { id: site.id, name: site.name, places: under.map(({ id, label }) => ({ id, label })) },
  }
}

type State =
  | { readonly kind: 'choosing' }
  | { readonly kind: 'host' }
  | { readonly kind: 'sending'; readonly words: string; readonly done: number; readonly of: number }
  | {
      readonly kind: 'looking'
      readonly id: string
      readonly view: BringingView | null
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

export default function Bring({ loaderData }: Route.ComponentProps) {
  const { email, into } = loaderData
  const navigate = useNavigate()
  const [state, setState] = useState<State>({ kind: 'choosing' })
  const [wishes, setWishes] = useState<BringingWishes>({
    ...asTheyAre,
    into: into?.id,
    under: into?.places.at(-1)?.id,
  })
  const [name, setName] = useState<string | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
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
    void attempt((signal) => look(waiting, asked, signal), { kind: 'choosing' })
    // Once, for what the address names.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [waiting])
  // Whoever leaves wants no more of it.
  useEffect(() => () => ending.current?.abort(), [])

  /** Does what may take long, until it is called off. */
  async function attempt(work: (signal: AbortSignal) => Promise<void>, back: State): Promise<void> {
    ending.current?.abort()
    const own = (ending.current = new AbortController())
    setProblem(null)
    try {
      await work(own.signal)
    } catch (error) {
      if (own.signal.aborted) return
      setProblem(error instanceof NotTaken ? error.message : 'This could not be done. Try again in a moment.')
      setState(back)
    }
  }

  /** Has the plan be as it was corrected, or as it was found, and looks again. */
  async function correct(
    id: string,
    lines: BringingView['lines'] | null,
    signal: AbortSignal,
  ): Promise<void> {
    const plan = lines && lines.map(({ was, label, depth }) => ({ path: was, label, depth }))
    await ask(`/bringing/${id}`, {
      method: 'POST',
      signal,
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ plan }),
    })
    await look(id, wishes, signal)
    // What was corrected meanwhile is newer than what has come.
    setDraft((was) => (was === lines ? null : was))
  }

  async function look(id: string, asked: BringingWishes, signal: AbortSignal): Promise<void> {
    const looking = (done: number, of: number) =>
      setState((was) => ({ kind: 'looking', id, view: was.kind === 'looking' ? was.view : null, done, of }))
    looking(0, 0)
    const said = Object.entries(asked).filter(([, value]) => value !== undefined)
    const query = new URLSearchParams(said.map(([key, value]) => [key, String(value)]))
    const view = await askForLong<BringingView>(`/bringing/${id}?${query}`, signal, looking)
    setState({ kind: 'looking', id, view, done: 0, of: 0 })
  }

  const bring = (
    words: string,
    of: number,
    called: string,
    send: (id: string, signal: AbortSignal) => Promise<unknown>,
    example = false,
  ) =>
    void attempt(
      async (signal) => {
        setState({ kind: 'sending', words, done: 0, of })
        const { id } = await begin(called, example, signal)
        await send(id, signal)
        await look(id, wishes, signal)
      },
      { kind: 'choosing' },
    )
  const bringFolder = (files: readonly FolderFile[]) =>
    bring(
      `Sending ${count(files.length, 'file')}…`,
      files.length,
      files[0]?.path.split('/')[0] ?? '',
      (id, signal) =>
        sendFolder(id, files, signal, (done) =>
          setState((was) => (was.kind === 'sending' ? { ...was, done } : was)),
        ),
    )

  // Kept here: what was typed is there again when a host did not answer.
  const [place, setPlace] = useState(noPlace)
  /** What waits for files of a host; begun once, however often its key is asked for. */
  const hosted = useRef<string | null>(null)
  const beginHosted = async (signal: AbortSignal): Promise<string> =>
    (hosted.current ??= (await begin('', false, signal)).id)
  async function learnKey(place: PlaceValues): Promise<string | null> {
    let hostKey: string | null = null
    await attempt(async (signal) => {
      hostKey = await learnHost(await beginHosted(signal), place, signal)
    }, state)
    return hostKey
  }
  const bringFromHost = (place: PlaceValues, hostKey: string) =>
    void attempt(
      async (signal) => {
        setState({ kind: 'sending', words: `Fetching from ${place.host}…`, done: 0, of: 0 })
        const id = await beginHosted(signal)
        // Files of one place alone: what a cut or a mistaken folder left is not mixed with what comes next.
        hosted.current = null
        await fetchFromHost(id, place, hostKey, signal, (done, of) =>
          setState((was) => (was.kind === 'sending' ? { ...was, done, of } : was)),
        )
        await look(id, wishes, signal)
      },
      { kind: 'host' },
    )

  /** The plan as it is being corrected, until it has been worked out what comes of it. */
  const [draft, setDraft] = useState<BringingView['lines'] | null>(null)
  useEffect(() => {
    if (draft === null || state.kind !== 'looking') return
    const { id } = state
    const timer = setTimeout(
      () => void attempt((signal) => correct(id, draft, signal), state),
      correctAfterMs,
    )
    return () => clearTimeout(timer)
    // With each correction, and not with what comes of it.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [draft])
  function putBack(id: string): void {
    setDraft(null)
    void attempt((signal) => correct(id, null, signal), state)
  }

  function wish(part: Partial<BringingWishes>): void {
    const asked = { ...wishes, ...part }
    setWishes(asked)
    if (state.kind !== 'looking') return
    const { id } = state
    // What is corrected but not sent goes first.
    void attempt(async (signal) => {
      if (draft) await correct(id, draft, signal)
      await look(id, asked, signal)
    }, state)
  }

  function make(id: string, view: BringingView): void {
    request.id ||= crypto.randomUUID()
    void attempt(
      async (signal) => {
        setState({ kind: 'making', id, view })
        const { siteId } = await ask<{ siteId: string }>(`/bringing/${id}`, {
          method: 'POST',
          signal,
          headers: { 'content-type': 'application/json' },
          body: JSON.stringify({ ...wishes, name: name ?? view.name, request: request.id }),
        })
        await navigate(`/sites/${siteId}/plan`)
      },
      { kind: 'looking', id, view, done: 0, of: 0 },
    )
  }

  function leave(): void {
    ending.current?.abort()
    if ('id' in state)
      void fetch(`/bringing/${state.id}`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ drop: true }),
      }).catch(() => {})
    request.id = ''
    setName(null)
    setDraft(null)
    setProblem(null)
    setState({ kind: 'choosing' })
  }

  const view = 'view' in state ? state.view : null
  const what = into ? 'them' : 'it'
  const nothingComes = view?.joining?.pages === 0
  const isReading = state.kind === 'looking' && view === null
  return (
    <OutsideFrame email={email}>
      <div className="mx-auto max-w-6xl px-8 py-8">
        <h1 className="mb-5 text-[34px]">{into ? `Bring pages into ${into.name}` : 'Bring a site in'}</h1>
        {problem !== null && (
          <p role="alert" className="mb-4 text-rubric">
            {problem}
          </p>
        )}
        {state.kind === 'choosing' && (
          <ChooseSite
            onFolder={bringFolder}
            onZip={(file) =>
              bring(`Sending ${file.name}…`, 0, file.name.replace(/\.zip$/i, ''), (id, signal) =>
                sendZip(id, file, signal),
              )
            }
            isJoining={into !== null}
            onHost={() => {
              setProblem(null)
              setState({ kind: 'host' })
            }}
            onExample={() => bring('Unpacking Saltings Ferry…', 0, '', async () => {}, true)}
          />
        )}
        {state.kind === 'host' && (
          <FromHost
            values={place}
            set={(part) => setPlace((was) => ({ ...was, ...part }))}
            learn={learnKey}
            onFetch={bringFromHost}
            onLeave={leave}
          />
        )}
        {(state.kind === 'sending' || isReading) && (
          <div role="status" className="grid justify-items-start gap-3">
            <p className="font-serif text-[18px]">
              {state.kind === 'sending' ? state.words : 'Reading its pages, and what they share…'}
            </p>
            <progress
              className="w-80"
              aria-label="Progress"
              {...(state.of > 0 && { value: state.done, max: state.of })}
            />
            <Button onClick={leave}>Call it off</Button>
          </div>
        )}
        {view && 'id' in state && (
          <div className="grid gap-x-10 gap-y-6 desk:grid-cols-[minmax(0,7fr)_minmax(0,5fr)]">
            <div className="min-w-0">
              {!into && (
                <label className="mb-3 block text-sm text-quiet">
                  The site is called
                  <input
                    className="field font-serif !text-[24px] text-ink"
                    value={name ?? view.name}
                    maxLength={200}
                    onChange={(event) => setName(event.target.value)}
                  />
                </label>
              )}
              <WishesSentence
                wishes={wishes}
                places={into?.places ?? null}
                same={view.joining?.same.filter(({ kind }) => kind === 'page').length ?? 0}
                onWish={wish}
              />
              {view.joining && <Joining joining={view.joining} />}
              <div className="my-4 flex flex-wrap items-center gap-4">
                <Button
                  look="go"
                  disabled={state.kind === 'making' || nothingComes || draft !== null}
                  onClick={() => make(state.id, view)}
                >
                  {state.kind === 'making' ? `Bringing ${what} in…` : `Bring ${what} in`}
                </Button>
                <Button look="quiet" onClick={leave}>
                  Leave {what}
                </Button>
                {draft !== null && (
                  <span role="status" className="text-sm text-quiet">
                    Working out what comes of it…
                  </span>
                )}
                <span className="text-sm text-quiet">
                  {count(view.joining?.pages ?? view.lines.length, 'page')}, {count(view.fileCount, 'file')}
                </span>
              </div>
              {!into && (
                <p className="mb-2 flex flex-wrap items-baseline gap-x-4 text-sm text-quiet">
                  <span>
                    Otherwise than it is meant? Type a label; move a line with Alt and the arrow keys.
                  </span>
                  {view.isCorrected && (
                    <Button
                      look="quiet"
                      className="underline underline-offset-4"
                      onClick={() => putBack(state.id)}
                    >
                      Put back the plan that was found
                    </Button>
                  )}
                </p>
              )}
              <FoundPlan
                lines={draft ?? view.lines}
                onCorrect={into || state.kind === 'making' ? null : setDraft}
              />
            </div>
            <div className="min-w-0">
              {view.templates.length > 0 && (
                <>
                  <h2 className="mb-2 text-[20px]">What {into ? 'these' : 'its'} pages share</h2>
                  <FoundTemplates view={view} />
                  <h2 className="mt-6 mb-2 text-[20px]">What comes out otherwise than it was</h2>
                  <Otherwise view={view} />
                </>
              )}
              {view.remarks.length > 0 && (
                <>
                  <h2 className="mt-6 mb-2 text-[20px]">Worth knowing</h2>
                  <ul className="max-h-72 overflow-auto text-sm" tabIndex={0} aria-label="Worth knowing">
                    {view.remarks.map(({ path, why }, index) => (
                      <li key={index} className="py-0.5">
                        <span className="font-mono">{path}</span> <span className="text-quiet">{why}</span>
                      </li>
                    ))}
                  </ul>
                </>
              )}
            </div>
          </div>
        )}
      </div>
    </OutsideFrame>
  )
}
