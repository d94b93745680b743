import { Link, redirect, useNavigation } from 'react-router'
import { isGrave, withoutAside } from '#core/findings'
import { mayRole, type Site } from '#core/site'
import { eachOf, pool } from '#server/platform'
import {
  changeRole,
  endInvitation,
  findingsOf,
  invite,
  listHandedOut,
  listInvitations,
  listPeople,
  loadSite,
  removePerson,
  requireRight,
} from '#server/sites'
import { endSharedLook, listSharedLooks, shareLook } from '#server/notes'
import { checkInput, readForm, requireSite, tellProblem } from '../owner.server'
import { count } from '../parts/format'
import { Refusal } from '../parts/notice'
import { OutsideFrame } from '../parts/outside-frame'
import { HandedOut } from '../people/handed-out'
import { HandedAddresses } from '../people/handed-addresses'
import { HandOutForm, InviteForm, LookForm } from '../people/invite-forms'
import { MadeAddress } from '../people/made-address'
import {
  handOutInput,
  invitationInput,
  inviteInput,
  lookInput,
  peopleIntent,
  personInput,
  roleInput,
} from '../people/people-input.server'
import { PeopleList } from '../people/people-list'
import { sendOrSay } from '../parts/unless-offline'
import type { Route } from './+types/people'

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: `People of ${loaderData?.site.name ?? 'a site'} – Rubricant` },
]

/** Findings of a copy that its author has not put aside. */
async function countFindings(site: Site, signal: AbortSignal) {
  const { open } = withoutAside((await findingsOf(site, signal)).findings, site.checking)
  return { findingCount: open.length, graveCount: open.filter(isGrave).length }
}

/** Copies whose findings are counted side by side. */
const copiesAtOnce = 3

export async function loader({ request, params }: Route.LoaderArgs) {
  const { site, account, role } = await requireSite(request, params.siteId, 'look')
  const manages = mayRole(role, 'manage')
  const people = (await listPeople(pool(), site.id)).map((one) => ({
    ...one,
    // Addresses are for those who invite; to the others a name is enough.
    email: manages ? one.email : '',
    isYou: one.accountId === account.id,
  }))
  const common = { email: account.email, site: { id: site.id, name: site.name }, people, manages }
  if (!manages) return { ...common, invitations: [], looks: [], copies: [] }
  const now = Date.now()
  const invitations = (await listInvitations(pool(), site.id)).map((one) => ({
    ...one,
    hasEnded: one.endsAt.getTime() <= now,
  }))
  const taken = await listHandedOut(pool(), site.id, account.id)
  const counts = new Map<string, { findingCount: number; graveCount: number }>()
  await eachOf(taken, copiesAtOnce, async ({ siteId }) => {
    const copy = await loadSite(pool(), siteId, account.id)
    if (copy) counts.set(siteId, await countFindings(copy.site, request.signal))
  })
  const none = { findingCount: 0, graveCount: 0 }
  const copies = taken.map((one) => ({ ...one, ...(counts.get(one.siteId) ?? none) }))
  return { ...common, invitations, looks: await listSharedLooks(site.id), copies }
}

export async function action({ request, params }: Route.ActionArgs) {
  const { site, account, role } = await requireSite(request, params.siteId, 'look')
  const form = await readForm(request)
  return tellProblem(async () => {
    // To leave is for everybody who takes part; all else is for who manages it.
    if (form.intent !== 'leave') requireRight(role, 'manage')
    const { intent } = checkInput(peopleIntent, form)
    const addressOf = (token: string, of = 'invitations') => `${new URL(request.url).origin}/${of}/${token}`
    switch (intent) {
      case 'invite': {
        const asked = checkInput(inviteInput, form)
        return { made: addressOf(await invite(site.id, account.id, asked)), for: 'one' as const }
      }
      case 'hand-out': {
        const asked = checkInput(handOutInput, form)
        const token = await invite(site.id, account.id, { ...asked, gives: 'copy' })
        return { made: addressOf(token), for: 'many' as const }
      }
      case 'look': {
        const asked = checkInput(lookInput, form)
        return { made: addressOf(await shareLook(site.id, account.id, asked), 'looks'), for: 'look' as const }
      }
      case 'end-look':
        await endSharedLook(site.id, checkInput(invitationInput, form).id)
        return { done: true }
      case 'withdraw':
        await endInvitation(pool(), site.id, checkInput(invitationInput, form).id)
        return { done: true }
      case 'role': {
        const { id, role } = checkInput(roleInput, form)
        await changeRole(site.id, id, role)
        return { done: true }
      }
      case 'remove':
        await removePerson(site.id, checkInput(personInput, form).id)
        return { done: true }
      case 'leave':
        await removePerson(site.id, account.id)
        return redirect('/sites')
    }
  })
}

export const clientAction = ({ serverAction }: Route.ClientActionArgs) => sendOrSay(() => serverAction())

export default function People({ loaderData, actionData }: Route.ComponentProps) {
  const { email, site, people, manages, invitations, looks, copies } = loaderData
  const busy = useNavigation().state !== 'idle'
  const made = actionData && 'made' in actionData ? actionData : null
  return (
    <OutsideFrame email={email}>
      <div className="mx-auto grid max-w-4xl grid-cols-[minmax(0,1fr)] gap-12 px-4 py-8 sm:px-8 sm:py-12">
        <div>
          <p>
            <Link className="link" to={`/sites/${site.id}/plan`}>
              Back to {site.name}
            </Link>
          </p>
          <h1 className="mt-2 text-[34px]">People</h1>
        </div>
        {actionData && 'problem' in actionData && <Refusal>{actionData.problem}</Refusal>}
        <section aria-labelledby="taking-part">
          <h2 id="taking-part" className="mb-3 text-[24px]">
            Who takes part
          </h2>
          <PeopleList people={people} manages={manages} />
        </section>
        {manages && (
          <>
            <section aria-labelledby="look">
              <h2 id="look" className="mb-3 text-[24px]">
                A look for somebody else
              </h2>
              {made?.for === 'look' && (
                <MadeAddress
                  address={made.made}
                  what="Whoever opens this address sees the site as visitors would, and can leave notes."
                />
              )}
              <LookForm busy={busy} />
              <HandedAddresses
                addresses={looks.map((one) => ({
                  ...one,
                  label: one.label || 'Somebody',
                  about: count(one.noteCount, 'note'),
                }))}
                what="look"
                intent="end-look"
              />
            </section>
            <section aria-labelledby="invite">
              <h2 id="invite" className="mb-3 text-[24px]">
                Invite somebody
              </h2>
              {made?.for === 'one' && (
                <MadeAddress address={made.made} what="Pass this address on to the one person it is for." />
              )}
              <InviteForm busy={busy} />
              <HandedAddresses
                addresses={invitations.flatMap((one) =>
                  one.gives === 'copy' || one.hasEnded
                    ? []
                    : [{ ...one, label: one.label || 'Somebody', about: `as ${one.gives}` }],
                )}
                what="address"
                intent="withdraw"
              />
            </section>
            <section aria-labelledby="hand-out">
              <h2 id="hand-out" className="mb-3 text-[24px]">
                Hand it out as a start
              </h2>
              {made?.for === 'many' && (
                <MadeAddress
                  address={made.made}
                  what="Pass this address on to everybody who begins with it."
                />
              )}
              <HandOutForm busy={busy} />
              <HandedAddresses
                addresses={invitations.flatMap((one) =>
                  one.gives !== 'copy' || one.hasEnded
                    ? []
                    : [{ ...one, label: one.label || 'A start for many', about: 'takes a copy' }],
                )}
                what="address"
                intent="withdraw"
              />
              <HandedOut copies={copies} />
            </section>
          </>
        )}
      </div>
    </OutsideFrame>
  )
}
