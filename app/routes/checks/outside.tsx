import { useCallback } from 'react'
import { useOutletContext, useRevalidator } from 'react-router'
import { outsideOf } from '#server/sites'
import { FindingLine } from '../../checks/finding-line'
import { LongWorkBar } from '../../parts/long-work'
import { useLongWork } from '../../parts/use-long-work'
import { useSite } from '../../document/site-context'
import { requireSite } from '../../owner.server'
import { count, moment } from '../../parts/format'
import { StateMark } from '../../parts/state-mark'
import { loadOrLatest, NotFetched } from '../../parts/unless-offline'
import type { CheckedSite } from '../checks'
import type { Route } from './+types/outside'

export async function loader({ request, params }: Route.LoaderArgs) {
  const { site } = await requireSite(request, params.siteId, 'look')
  return outsideOf(site)
}

export const clientLoader = (args: Route.ClientLoaderArgs) => loadOrLatest('routes/checks/outside', args)

export default function OutsideView({ loaderData }: Route.ComponentProps) {
  return loaderData ? <Outside summary={loaderData} /> : <NotFetched />
}

function Outside({ summary }: { summary: NonNullable<Route.ComponentProps['loaderData']> }) {
  const { site } = useSite()
  const { open } = useOutletContext<CheckedSite>()
  const revalidator = useRevalidator()
  const again = useCallback(() => void revalidator.revalidate(), [revalidator])
  const { work, start, cancel } = useLongWork(`/sites/${site.id}/outside`, again)
  const { addressCount, followedCount, followedAt, unsure } = summary
  const found = open.filter(({ rule }) => rule.startsWith('outside-'))
  return (
    <div className="h-full overflow-auto px-7 pt-5 pb-10">
      <h2 className="sr-only">Addresses outside</h2>
      <p className="max-w-prose font-serif text-[20px]">
        {addressCount === 0
          ? 'Nothing here leads outside.'
          : `The site leads to ${count(addressCount, 'address', 'addresses')} outside. ${followedWords(addressCount, followedCount)}${followedCount === 0 ? '' : `, the last ${moment(followedAt!)}`}.`}
      </p>
      {addressCount > 0 && (
        <>
          <p className="mt-1 mb-4 max-w-prose text-quiet">
            Each is asked once, one after the other at each server, and nothing but whether it is there. This
            tells those servers the address of yours.
          </p>
          <LongWorkBar
            work={work}
            words={`Follow ${addressCount === 1 ? 'it' : 'them'}${followedCount === 0 ? '' : ' again'}`}
            thing="address"
            isLook={followedCount === 0 ? 'go' : 'plain'}
            onStart={() => void start()}
            onCancel={cancel}
          />
        </>
      )}
      {followedCount > 0 && found.length === 0 && work.state === 'idle' && (
        <p className="mt-6">
          <StateMark state="done" word="all that were followed lead somewhere" />
        </p>
      )}
      {found.length > 0 && (
        <ul className="mt-6">
          {found.map((finding) => (
            <FindingLine key={finding.key} finding={finding} />
          ))}
        </ul>
      )}
      {unsure.length > 0 && (
        <section className="mt-8">
          <h3 className="text-[18px]">To be looked at by yourself</h3>
          <p className="mb-2 max-w-prose text-quiet">
            These servers do not answer programs, so nothing is known of what a visitor would meet.
          </p>
          <ul>
            {unsure.map(({ address, status }) => (
              <li key={address} className="flex gap-4 border-t border-rule py-1.5">
                <a className="link truncate" href={address} target="_blank" rel="noreferrer">
                  {address}
                </a>
                <span className="ml-auto shrink-0 text-quiet">it said {status}</span>
              </li>
            ))}
          </ul>
        </section>
      )}
    </div>
  )
}

/** How many of some addresses were followed. */
function followedWords(addresses: number, followed: number): string {
  if (addresses === 1) return followed === 0 ? 'It was not followed yet' : 'It was followed'
  if (followed === 0) return 'None of them was followed yet'
  if (followed === addresses) return 'All were followed'
  return `${followed} of them ${followed === 1 ? 'was' : 'were'} followed`
}
