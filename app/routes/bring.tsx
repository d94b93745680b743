import { treeOf } from '#core/plan'
import { ChooseSite } from '../bringing/choose-site'
import { FoundPlan } from '../bringing/found-plan'
import { FoundTemplates } from '../bringing/found-templates'
import { FromHost } from '../bringing/from-host'
import { Joining, Otherwise, WishesSentence } from '../bringing/understood'
import { UnderWay } from '../bringing/under-way'
import { Remarks } from '../bringing/remarks'
import { useBringing } from '../bringing/use-bringing'
import { requireAccount, requireSite } from '../owner.server'
import { Button } from '../parts/button'
import { count, shownAddress } from '../parts/format'
import { placesOf } from '../parts/picks/places-of'
import { OutsideFrame } from '../parts/outside-frame'
import type { Route } from './+types/bring'

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: `${loaderData?.into ? 'Bring pages in' : 'Bring a site in'} – Rubricant` },
]

/** The site that pages join and the pages that they may come under, as the address says it. */
export async function loader({ request }: Route.LoaderArgs) {
  const { id: accountId, email } = await requireAccount(request)
  const query = new URL(request.url).searchParams
  const siteId = query.get('into')
  if (siteId === null) return { accountId, email, into: null }
  const { site } = await requireSite(request, siteId, 'manage')
  const places = placesOf(treeOf(site), ({ id }) => id !== site.homeId)
  const asked = query.get('under')
  const under = places.find(({ id }) => id === asked)?.id ?? undefined
  return { accountId, email, into: { id: site.id, name: site.name, places, under } }
}

export default function Bring({ loaderData }: Route.ComponentProps) {
  const { accountId, email, into } = loaderData
  const bringing = useBringing(into)
  const { state, wishes, name, problem, draft } = bringing
  const view = 'view' in state ? state.view : null
  const remarks = [...bringing.unsent, ...(view?.remarks ?? [])]
  const what = into ? 'them' : 'it'
  const nothingComes = view?.joining?.pages === 0
  const isReading = state.kind === 'looking' && view === null
  return (
    <OutsideFrame email={email} accountId={accountId}>
      <div className="mx-auto max-w-6xl px-4 sm:px-8 py-8">
        <h1 className="mb-5 text-[34px]">{into ? `Bring pages into ${into.name}` : 'Bring a site in'}</h1>
        {problem !== null && (
          <p role="alert" className="mb-4 text-rubric">
            {problem}
          </p>
        )}
        {state.kind === 'choosing' && (
          <ChooseSite
            onFolder={bringing.bringFolder}
            onZip={bringing.bringZip}
            isJoining={into !== null}
            onHost={bringing.chooseHost}
            onExample={bringing.bringExample}
          />
        )}
        {state.kind === 'host' && (
          <FromHost
            values={bringing.place}
            set={(part) => bringing.setPlace((was) => ({ ...was, ...part }))}
            learn={bringing.learnKey}
            onFetch={bringing.bringFromHost}
            onLeave={bringing.leave}
          />
        )}
        {(state.kind === 'sending' || state.kind === 'fetching' || isReading) && (
          <UnderWay
            words={'words' in state ? state.words : 'Reading its pages, and what they share…'}
            far={state.kind === 'sending' ? state.far : null}
            done={state.kind === 'sending' ? 0 : state.done}
            of={state.kind === 'sending' ? 0 : state.of}
            isPausing={bringing.isPausing}
            onLeave={bringing.leave}
          />
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
                    dir="auto"
                    onChange={(event) => bringing.setName(event.target.value)}
                  />
                </label>
              )}
              <WishesSentence
                wishes={wishes}
                places={into?.places ?? null}
                same={view.joining?.same.filter(({ kind }) => kind === 'page').length ?? 0}
                onWish={bringing.wish}
              />
              {view.joining && <Joining joining={view.joining} />}
              <div className="my-4 flex flex-wrap items-center gap-4">
                <Button
                  look="go"
                  disabled={state.kind === 'making' || nothingComes || draft !== null}
                  onClick={() => bringing.make(state.id, view)}
                >
                  {state.kind === 'making' ? `Bringing ${what} in…` : `Bring ${what} in`}
                </Button>
                <Button look="quiet" onClick={bringing.leave}>
                  Leave {what}
                </Button>
                {(draft !== null || (state.kind === 'looking' && state.isBusy)) && (
                  <span role="status" className="text-sm text-quiet">
                    Working out what comes of it…
                  </span>
                )}
                <span className="text-sm text-quiet">
                  {count(view.joining?.pages ?? view.lineCount, 'page')}, {count(view.fileCount, 'file')}
                  {!into &&
                    view.publicAddress !== '' &&
                    `, which visitors find at ${shownAddress(view.publicAddress)}`}
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
                      onClick={() => bringing.putBack(state.id)}
                    >
                      Put back the plan that was found
                    </Button>
                  )}
                </p>
              )}
              <FoundPlan
                lines={draft ?? view.lines}
                onCorrect={into || state.kind === 'making' ? null : bringing.correctPlan}
              />
              {view.lineCount > view.lines.length && (
                <p className="mt-2 text-sm text-quiet">
                  {count(view.lineCount - view.lines.length, 'page')} more{' '}
                  {view.lineCount - view.lines.length === 1 ? 'comes' : 'come'} in, and{' '}
                  {view.lineCount - view.lines.length === 1 ? 'is' : 'are'} not listed here.
                </p>
              )}
            </div>
            <div className="min-w-0">
              {view.templates.length > 0 && (
                <>
                  <h2 className="mb-2 text-[20px]">What {into ? 'these' : 'its'} pages share</h2>
                  <FoundTemplates
                    view={view}
                    isBusy={state.kind === 'looking' && state.isBusy}
                    onMove={state.kind === 'making' ? null : bringing.moveEdges}
                  />
                  <h2 className="mt-6 mb-2 text-[20px]">What comes out otherwise than it was</h2>
                  <Otherwise view={view} />
                </>
              )}
              {remarks.length > 0 && (
                <>
                  <h2 className="mt-6 mb-2 text-[20px]">Worth knowing</h2>
                  <Remarks remarks={remarks} />
                </>
              )}
            </div>
          </div>
        )}
      </div>
    </OutsideFrame>
  )
}
