import { useEffect, useRef, useState } from 'react'
import { data, useFetcher, useSearchParams } from 'react-router'
import {
  addPracticeHost,
  askDelivery,
  callForDelivery,
  cancelDelivery,
  compareKnown,
  findDelivery,
  findDestination,
  goOnNow,
  listDeliveries,
  listDestinations,
  listKnownDestinations,
  lookThere,
  offersPracticeHost,
  removeDestination,
  saveDestination,
  testDestination,
} from '#server/deliveries'
import { isProtocol, protocols } from '#core/delivery'
import { Problem } from '#core/problems'
import { notFound, pool } from '#server/platform'
import { useSelection, useSite } from '../document/site-context'
import { checkInput, readForm, requireSite } from '../owner.server'
import { Button } from '../parts/button'
import { count } from '../parts/format'
import { readDestination, uploadIntent } from '../upload/upload-input.server'
import type { UploadAnswer } from '../upload/answer'
import { AsSeen } from '../upload/as-seen'
import { showComparison } from '../upload/comparison.server'
import { DeliveryBar } from '../upload/delivery-bar'
import { DestinationForm } from '../upload/destination-form'
import { Earlier } from '../upload/earlier'
import { FilesToSend } from '../upload/files-to-send'
import { loadOrLatest, NotFetched, sendOrTell } from '../parts/unless-offline'
import type { Route } from './+types/upload'

export async function loader({ request, params }: Route.LoaderArgs) {
  const stored = await requireSite(request, params.siteId)
  const destinations = await listDestinations(pool(), params.siteId)
  const wanted = new URL(request.url).searchParams.get('to')
  const destination = destinations.find((one) => one.id === wanted) ?? destinations[0] ?? null
  const known = await listKnownDestinations(pool(), stored.account.id, params.siteId)
  const others = { known, practice: offersPracticeHost(destinations) }
  if (!destination) return { destinations, destination, deliveries: [], comparison: null, ...others }
  const [comparison, deliveries] = await Promise.all([
    compareKnown(stored, destination.id, request.signal),
    listDeliveries(pool(), destination.id, 8),
  ])
  const shown = showComparison(comparison, stored.site)
  return { destinations, destination, deliveries, comparison: shown, ...others }
}

type Answered = UploadAnswer | ReturnType<typeof data<UploadAnswer>>

export async function action({ request, params }: Route.ActionArgs): Promise<Answered> {
  const stored = await requireSite(request, params.siteId)
  const { account, site } = stored
  const owner = { siteId: site.id, accountId: account.id }
  const form = await readForm(request)
  try {
    const { intent, id } = checkInput(uploadIntent, form)
    const own = async () => {
      const found = id && (await findDestination(pool(), id, site.id, account.id))
      if (!found) throw notFound()
      return found
    }
    switch (intent) {
      case 'test': {
        const { form: values, hostKey } = readDestination(form)
        return { test: await testDestination(values, id, owner, hostKey, request.signal) }
      }
      case 'save': {
        const { form: values, hostKey } = readDestination(form)
        if (!hostKey) throw new Problem('not-tested')
        return { saved: await saveDestination(values, id, owner, hostKey, request.signal) }
      }
      case 'practice':
        return { saved: await addPracticeHost(site, account.id) }
      case 'remove':
        if (id) await removeDestination(id, owner)
        return { removed: true }
      case 'compare':
        await lookThere(await own(), stored, request.signal)
        return { compared: true }
      case 'send': {
        const wishes = { removeLeftovers: form.removeLeftovers === 'on', goesOn: true }
        const { id: destinationId } = await own()
        const to = { destinationId, accountId: account.id }
        const delivery = await askDelivery(stored, to, wishes, request.signal)
        if (!delivery) throw new Problem('under-way')
        await callForDelivery()
        return { sending: delivery.id }
      }
      case 'go-on': {
        const delivery = id && (await findDelivery(pool(), id, site.id))
        if (!delivery) throw notFound()
        await goOnNow(pool(), delivery.id)
        await callForDelivery()
        return { goingOn: true }
      }
      case 'cancel': {
        const delivery = id && (await findDelivery(pool(), id, site.id))
        if (!delivery) throw notFound()
        await cancelDelivery(pool(), delivery.id)
        return { cancelled: true }
      }
    }
  } catch (error) {
    if (error instanceof Problem) {
      const field = (error.detail as { field?: string } | null)?.field ?? null
      return data<UploadAnswer>(
        { problem: { code: error.code, message: error.message, field } },
        { status: 422 },
      )
    }
    throw error
  }
}

export const clientLoader = ({ request, serverLoader }: Route.ClientLoaderArgs) =>
  loadOrLatest(request, serverLoader)
// What the first page came with is remembered as well.
clientLoader.hydrate = true as const

export const clientAction = ({ serverAction }: Route.ClientActionArgs) => sendOrTell(() => serverAction())

type Loaded = NonNullable<Route.ComponentProps['loaderData']>

export default function UploadView({ loaderData }: Route.ComponentProps) {
  return loaderData ? <Destinations loaderData={loaderData} /> : <NotFetched />
}

function Destinations({ loaderData }: { loaderData: Loaded }) {
  const { destination, destinations, known, practice } = loaderData
  const [params, setParams] = useSearchParams()
  const { selected } = useSelection()
  const [editing, setEditing] = useState<'new' | 'this' | null>(null)
  const choose = (id: string) => setParams({ page: selected.id, to: id }, { replace: true })
  const done = (id: string | null) => {
    setEditing(null)
    if (id) choose(id)
  }
  if (!destination || editing === 'new')
    return (
      <DestinationForm
        destination={null}
        first={!destination}
        known={known}
        practice={practice}
        onDone={done}
        onCancel={destination ? () => setEditing(null) : null}
      />
    )
  if (editing === 'this')
    return (
      <DestinationForm
        key={destination.id}
        destination={destination}
        first={false}
        onDone={done}
        onCancel={() => setEditing(null)}
      />
    )
  return (
    <Destination
      key={destination.id}
      loaderData={loaderData}
      switcher={
        <span className="flex items-center gap-4 text-sm">
          {destinations.length > 1 && (
            <select
              aria-label="Destination"
              className="field !w-auto"
              value={params.get('to') ?? destination.id}
              onChange={(event) => choose(event.target.value)}
            >
              {destinations.map((one) => (
                <option key={one.id} value={one.id}>
                  {one.name}
                </option>
              ))}
            </select>
          )}
          <button type="button" className="link" onClick={() => setEditing('this')}>
            Change
          </button>
          <button type="button" className="link" onClick={() => setEditing('new')}>
            Add another
          </button>
        </span>
      }
    />
  )
}

function Destination({ loaderData, switcher }: { loaderData: Loaded; switcher: React.ReactNode }) {
  const { comparison, deliveries } = loaderData
  const destination = loaderData.destination!
  const { site } = useSite()
  const compare = useFetcher<UploadAnswer>()
  const send = useFetcher<UploadAnswer>()
  const [removeLeftovers, setRemoveLeftovers] = useState(false)
  const latest = deliveries[0]
  const running = latest && (latest.state === 'waiting' || latest.state === 'running') ? latest : null
  const comparing = compare.state !== 'idle'
  const problem = [send.data, compare.data].find((one) => one && 'problem' in one)

  // What is there is asked for once, when nobody has looked yet.
  const asked = useRef(false)
  useEffect(() => {
    if (destination.listedAt !== null || asked.current || running) return
    asked.current = true
    void compare.submit({ intent: 'compare', id: destination.id }, { method: 'post' })
  }, [destination, compare, running])

  if (!comparison) return null
  const { toSend, bytesToSend, leftoverCount } = comparison
  return (
    <div className="grid h-full min-h-0 grid-rows-[1fr_auto]">
      <div className="min-h-0 overflow-auto px-7 pt-6 pb-6">
        <div className="mb-2 flex items-baseline justify-between gap-4">
          <h2 className="truncate text-[26px]">{destination.name}</h2>
          {switcher}
        </div>
        <p className="mb-1 text-quiet">
          {isProtocol(destination.protocol) ? protocols[destination.protocol].title : ''} to{' '}
          <span className="font-mono text-[13px]">
            {destination.host}:{destination.port}
          </span>
          , folder{' '}
          <span className="font-mono text-[13px]">{destination.folder || '(the account’s own)'}</span>, shown
          at{' '}
          <a
            className="link font-mono text-[13px]"
            href={destination.publicAddress}
            target="_blank"
            rel="noreferrer"
          >
            {destination.publicAddress}
          </a>
        </p>
        {problem && 'problem' in problem && (
          <p role="alert" className="my-3 border-l-3 border-rubric bg-rubric-wash px-3 py-2">
            {problem.problem.message}
          </p>
        )}
        <FilesToSend comparison={comparison} comparing={comparing} looked={destination.listedAt !== null} />
        {leftoverCount > 0 && (
          <label className="mt-3 flex items-center gap-2">
            <input
              type="checkbox"
              checked={removeLeftovers}
              onChange={(event) => setRemoveLeftovers(event.target.checked)}
            />
            Remove the {leftoverCount === 1 ? 'one file' : `${leftoverCount} files`} there that the site no
            longer has
          </label>
        )}
        {latest?.state === 'done' && <AsSeen siteId={site.id} destinationId={destination.id} />}
        <Earlier deliveries={deliveries} publicAddress={destination.publicAddress} />
      </div>
      <DeliveryBar
        running={running}
        latest={latest ?? null}
        summary={{ toSend, bytesToSend }}
        publicAddress={destination.publicAddress}
        actions={
          <>
            {/* Forms, so that they work before the window's program is there. */}
            <send.Form method="post">
              <input type="hidden" name="id" value={destination.id} />
              <input type="hidden" name="removeLeftovers" value={removeLeftovers ? 'on' : ''} />
              <Button
                type="submit"
                name="intent"
                value="send"
                look="go"
                disabled={
                  (toSend === 0 && !(removeLeftovers && leftoverCount > 0)) ||
                  send.state !== 'idle' ||
                  comparing
                }
              >
                {toSend === 0
                  ? removeLeftovers && leftoverCount > 0
                    ? 'Remove what is left over'
                    : 'Nothing to send'
                  : `Send ${count(toSend, 'file')}`}
              </Button>
            </send.Form>
            <compare.Form method="post">
              <input type="hidden" name="id" value={destination.id} />
              <Button type="submit" name="intent" value="compare" disabled={comparing}>
                {comparing ? 'Comparing…' : 'Compare again'}
              </Button>
            </compare.Form>
          </>
        }
        zip={`/sites/${site.id}/site.zip`}
        onGoOn={(id) => void send.submit({ intent: 'go-on', id }, { method: 'post' })}
        onCancel={(id) => void send.submit({ intent: 'cancel', id }, { method: 'post' })}
      />
    </div>
  )
}
