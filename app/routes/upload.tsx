import { useState } from 'react'
import { data, useSearchParams } from 'react-router'
import {
  addPracticeHost,
  askDelivery,
  askToPutBack,
  callForDelivery,
  cancelDelivery,
  compareKnown,
  findDelivery,
  findDestination,
  goOnNow,
  listDeliveries,
  listDestinations,
  listKnownHosts,
  lookThere,
  offersPracticeHost,
  pauseDelivery,
  publicKeyOf,
  removeDestination,
  saveDestination,
  seenOf,
  setByItself,
  testDestination,
  addKnownHost,
} from '#server/deliveries'
import { Problem } from '#core/problems'
import { notFound, pool } from '#server/platform'
import { useSelection } from '../document/site-context'
import { checkInput, readForm, destinationOwner, requireSite } from '../owner.server'
import { readByItself, readDestination, readWishes, uploadIntent } from '../upload/upload-input.server'
import type { UploadAnswer } from '../upload/answer'
import { DestinationView } from '../upload/destination-view'
import { showComparison } from '../upload/there/comparison.server'
import { DestinationForm } from '../upload/place/destination-form'
import { loadOrLatest, NotFetched, sendOrTell } from '../parts/unless-offline'
import type { Route } from './+types/upload'

export async function loader({ request, params }: Route.LoaderArgs) {
  const stored = await requireSite(request, params.siteId, 'deliver')
  const destinations = await listDestinations(pool(), params.siteId)
  const wanted = new URL(request.url).searchParams.get('to')
  const destination = destinations.find((one) => one.id === wanted) ?? destinations[0] ?? null
  // A partner goes where the site goes; the owner's other hosts are the owner's alone.
  const known = stored.role === 'owner' ? await listKnownHosts(pool(), stored.account.id, params.siteId) : []
  const others = { known, practice: offersPracticeHost(destinations) }
  if (!destination)
    return { destinations, destination, deliveries: [], comparison: null, seen: null, ...others }
  const [comparison, deliveries] = await Promise.all([
    compareKnown(stored, destination.id, request.signal),
    listDeliveries(pool(), destination.id, 30),
  ])
  const shown = await showComparison(comparison, stored.site, destination.traits, request.signal)
  const seen = deliveries[0] ? await seenOf(pool(), deliveries[0].id) : null
  return { destinations, destination, deliveries, comparison: shown, seen, ...others }
}

type Answered = UploadAnswer | ReturnType<typeof data<UploadAnswer>>

export async function action({ request, params }: Route.ActionArgs): Promise<Answered> {
  const stored = await requireSite(request, params.siteId, 'deliver')
  const { account, site } = stored
  const owner = destinationOwner(stored)
  const form = await readForm(request)
  try {
    const { intent, id } = checkInput(uploadIntent, form)
    const own = async () => {
      const found = id && (await findDestination(pool(), id, site.id, account.id))
      if (!found) throw notFound()
      return found
    }
    const ownDelivery = async () => {
      const found = id && (await findDelivery(pool(), id, site.id))
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
        return { saved: await addPracticeHost(site, owner) }
      case 'use-host':
        if (!id) throw notFound()
        return { saved: await addKnownHost(id, site, owner, request.signal) }
      case 'key':
        return { publicKey: await publicKeyOf(stored.ownerId) }
      case 'remove':
        if (id) await removeDestination(id, owner)
        return { removed: true }
      case 'compare':
        await lookThere(await own(), stored, request.signal)
        return { compared: true }
      case 'send': {
        const to = { destinationId: (await own()).id, accountId: account.id }
        const delivery = await askDelivery(stored, to, readWishes(form), request.signal)
        if (!delivery) throw new Problem('under-way')
        await callForDelivery()
        return { sending: delivery.id }
      }
      case 'put-back': {
        const delivery = await askToPutBack(await ownDelivery(), account.id)
        if (!delivery) throw new Problem('under-way')
        await callForDelivery()
        return { sending: delivery.id }
      }
      case 'go-on':
        await goOnNow(pool(), (await ownDelivery()).id)
        await callForDelivery()
        return { goingOn: true }
      case 'pause':
        await pauseDelivery(pool(), (await ownDelivery()).id)
        return { paused: true }
      case 'cancel':
        await cancelDelivery(pool(), (await ownDelivery()).id)
        return { cancelled: true }
      case 'by-itself': {
        const minutes = readByItself(form)
        await setByItself((await own()).id, account.id, minutes)
        return { byItself: minutes }
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

export const clientLoader = (args: Route.ClientLoaderArgs) => loadOrLatest('routes/upload', args)

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
    <DestinationView
      key={destination.id}
      destination={destination}
      comparison={loaderData.comparison!}
      deliveries={loaderData.deliveries}
      seen={loaderData.seen}
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
