import { useCallback } from 'react'
import { useRevalidator } from 'react-router'
import { withoutAside } from '#core/findings'
import { looksOf } from '#server/sites'
import { FindingGroups } from '../../checks/finding-groups'
import { LongWorkBar } from '../../checks/long-work'
import { useLongWork } from '../../checks/use-long-work'
import { useSite } from '../../document/site-context'
import { requireSite } from '../../owner.server'
import { count } from '../../parts/format'
import { StateMark } from '../../parts/state-mark'
import { loadOrLatest, NotFetched } from '../../parts/unless-offline'
import type { Route } from './+types/finished'

export async function loader({ request, params }: Route.LoaderArgs) {
  const { site } = await requireSite(request, params.siteId, 'look')
  return looksOf(site, request.signal)
}

export const clientLoader = (args: Route.ClientLoaderArgs) => loadOrLatest('routes/checks/finished', args)

export default function FinishedView({ loaderData }: Route.ComponentProps) {
  return loaderData ? <Finished looked={loaderData} /> : <NotFetched />
}

function Finished({ looked }: { looked: NonNullable<Route.ComponentProps['loaderData']> }) {
  const { site } = useSite()
  const revalidator = useRevalidator()
  const again = useCallback(() => void revalidator.revalidate(), [revalidator])
  const { work, start, cancel } = useLongWork(`/sites/${site.id}/finished-pages`, again)
  const { findings, pageCount, unlookedCount } = looked
  const { open } = withoutAside(findings, site.checking)
  const lookedCount = pageCount - unlookedCount
  return (
    <div className="h-full overflow-auto px-7 pt-5 pb-10">
      <h2 className="sr-only">Finished pages</h2>
      <p className="max-w-prose font-serif text-[20px]">
        {lookedCount === 0
          ? `${count(pageCount, 'page')} as they come out, not looked at yet.`
          : unlookedCount === 0
            ? `All ${count(pageCount, 'page')} were looked at as they come out.`
            : `${count(lookedCount, 'page')} of ${pageCount} were looked at as they come out; the others are new or have changed.`}
      </p>
      <p className="mt-1 mb-4 max-w-prose text-quiet">
        Each is held against what the HTML Standard allows where, and against what people need who do not see,
        hear or point; its text against what is behind it, in the light and the dark set. Nothing in it is
        run, and styles of other sites are not known.
      </p>
      {(unlookedCount > 0 || work.state === 'running') && (
        <LongWorkBar
          work={work}
          words={lookedCount === 0 ? 'Look at all of them' : `Look at ${count(unlookedCount, 'page')}`}
          thing="page"
          onStart={() => void start()}
          onCancel={cancel}
        />
      )}
      {unlookedCount === 0 && open.length === 0 && pageCount > 0 && (
        <StateMark state="done" word="nothing found" />
      )}
      <div className="mt-6">
        <FindingGroups findings={open} by="rule" level="h3" />
      </div>
    </div>
  )
}
