import { data } from 'react-router'
import { namesOf } from '#core/naming'
import { realPlaces, treeOf } from '#core/plan'
import { listNotes, openSharedLook } from '#server/notes'
import { lookBase } from '#server/preview'
import { VisitorDesk } from '../notes/visitor-desk'
import { OutsideFrame } from '../parts/outside-frame'
import { loadOrLatest, NotFetched, useRememberedViews } from '../parts/unless-offline'
import type { Route } from './+types/shared-look'

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: loaderData?.look ? `A look at ${loaderData.look.siteName}` : 'A look – Rubricant' },
  // The address is the key: it is for whoever it was given to.
  { name: 'robots', content: 'noindex' },
]

/** A site as visitors would see it, for whoever holds the address. */
export async function loader({ params }: Route.LoaderArgs) {
  const held = await openSharedLook(params.token)
  if (!held) return data({ look: null }, { status: 410 })
  const { site, revision } = held
  const { pages } = namesOf(site)
  return {
    look: {
      siteName: site.name,
      revision,
      endsAt: held.endsAt,
      base: lookBase(site.id, held.id),
      pages: realPlaces(treeOf(site)).map(({ page, depth, number }) => ({
        id: page.id,
        label: page.label,
        path: pages.get(page.id)?.path ?? '',
        depth,
        number,
      })),
      homeId: site.homeId,
      notes: await listNotes(site.id, held.id),
    },
  }
}

export const clientLoader = (args: Route.ClientLoaderArgs) => loadOrLatest('routes/shared-look', args)

export default function SharedLookRoute({ loaderData }: Route.ComponentProps) {
  useRememberedViews()
  if (!loaderData) return <NotFetched />
  if (loaderData.look) return <VisitorDesk look={loaderData.look} />
  return (
    <OutsideFrame email={null}>
      <div className="mx-auto max-w-xl px-4 sm:px-8 py-16">
        <h1 className="mb-4 text-[34px]">This look has ended</h1>
        <p className="text-[17px] text-quiet">
          It ran out, or was withdrawn. Ask whoever sent it for another address.
        </p>
      </div>
    </OutsideFrame>
  )
}
