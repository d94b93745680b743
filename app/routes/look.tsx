import { useEffect } from 'react'
import { pool } from '#server/platform'
import { previewBase } from '#server/preview'
import { undoTitles } from '#server/sites'
import { SiteProvider, useSelection, useSite } from '../document/site-context'
import { useSiteEvents } from '../document/use-site-events'
import { requireSite } from '../owner.server'
import { PreviewWindow } from '../preview/preview-window'
import { SignedOut } from '../session/signed-out'
import type { Route } from './+types/look'

export async function loader({ request, params }: Route.LoaderArgs) {
  const { site, revision, role, account } = await requireSite(request, params.siteId, 'look')
  return {
    site,
    revision,
    role,
    accountId: account.id,
    titles: await undoTitles(pool(), site.id, account.id),
    base: previewBase(request, site.id),
  }
}

// The store keeps the site up to date by differences; reading it whole again would lose its place.
export const shouldRevalidate = () => false

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: `Preview of ${loaderData?.site.name ?? 'a site'} – Rubricant` },
]

/** The preview in a tab of its own: beside another screen, say. It follows what is written elsewhere. */
export default function LookRoute({ loaderData }: Route.ComponentProps) {
  const { accountId, site, revision, titles, role, base } = loaderData
  return (
    <SiteProvider key={site.id} {...{ accountId, site, revision, titles, role }}>
      <div className="grid h-dvh grid-cols-[minmax(0,1fr)] grid-rows-[auto_1fr]">
        <div>
          <SignedOut accountId={accountId} />
        </div>
        <Look base={base} />
      </div>
    </SiteProvider>
  )
}

function Look({ base }: { base: string }) {
  const { site, store } = useSite()
  const { selected } = useSelection()
  useSiteEvents(site.id, (event) => {
    if (event.kind === 'revision') void store.heard(event.revision)
    else if (event.kind === 'gap') void store.catchUp()
  })
  useEffect(() => {
    document.title = `Preview of ${selected.label} – ${site.name}`
  }, [selected.label, site.name])
  return (
    <main className="min-h-0">
      <h1 className="sr-only">Preview of {selected.label}</h1>
      <PreviewWindow base={base} isAlone />
    </main>
  )
}
