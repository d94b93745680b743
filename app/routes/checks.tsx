import { useEffect, useRef } from 'react'
import { NavLink, Outlet, useRevalidator } from 'react-router'
import { withoutAside } from '#core/findings'
import { findingsOf } from '#server/sites'
import { useSite } from '../document/site-context'
import { requireSite } from '../owner.server'
import { loadOrLatest, NotFetched } from '../parts/unless-offline'
import type { Route } from './+types/checks'

export async function loader({ request, params }: Route.LoaderArgs) {
  const { site, revision } = await requireSite(request, params.siteId, 'look')
  return { ...(await findingsOf(site, request.signal)), revision }
}

export const clientLoader = (args: Route.ClientLoaderArgs) => loadOrLatest('routes/checks', args)

/** Its parts, by their addresses below it. */
const parts = [
  { to: '.', title: 'Findings' },
  { to: 'links', title: 'Who leads to whom' },
  { to: 'weight', title: 'What pages weigh' },
  { to: 'finished', title: 'Finished pages' },
  { to: 'outside', title: 'Addresses outside' },
  { to: 'spelling', title: 'Spelling' },
  { to: 'words', title: 'Words' },
] as const

export default function ChecksView({ loaderData }: Route.ComponentProps) {
  const { settled, site } = useSite()
  const revalidator = useRevalidator()
  // What was saved while this view was on its way may not be in it.
  const asked = useRef(loaderData?.revision ?? settled)
  useEffect(() => {
    if (asked.current >= settled) return
    asked.current = settled
    void revalidator.revalidate()
  }, [settled, revalidator])
  if (!loaderData) return <NotFetched />
  const { open, aside } = withoutAside(loaderData.findings, site.checking)
  return (
    <div className="grid h-full min-h-0 grid-rows-[auto_1fr]">
      <nav aria-label="Checks" className="flex flex-wrap gap-x-6 border-b border-rule px-7 pt-3">
        {parts.map(({ to, title }) => (
          <NavLink
            key={to}
            to={to}
            end
            className="border-b-3 border-transparent pt-1 pb-1.5 whitespace-nowrap text-quiet hover:text-ink aria-[current=page]:border-ink aria-[current=page]:font-semibold aria-[current=page]:text-ink"
          >
            {title}
          </NavLink>
        ))}
      </nav>
      <Outlet context={{ open, aside } satisfies CheckedSite} />
    </div>
  )
}

/** What the parts of Checks share. */
export type CheckedSite = ReturnType<typeof withoutAside>
