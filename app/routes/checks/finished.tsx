import { useCallback, useEffect, useRef, useState } from 'react'
import { useRevalidator } from 'react-router'
import { withoutAside } from '#core/findings'
import { looksOf } from '#server/sites'
import { FindingGroups } from '../../checks/finding-groups'
import { LongWorkBar } from '../../parts/long-work'
import { useLongWork } from '../../parts/use-long-work'
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

type Looked = NonNullable<Route.ComponentProps['loaderData']>

/**
 * Looks at colours again by itself when a style sheet changed, as after each colour that is mended: that is soon done.
 * Once for each change, so that what fails or is cancelled does not begin again.
 */
function useColoursAgain({ isForColours }: Looked, start: () => Promise<void>) {
  const { settled, store } = useSite()
  const begunFor = useRef<number | null>(null)
  const mayBegin = isForColours && store.may('write')
  useEffect(() => {
    if (!mayBegin || begunFor.current === settled) return
    begunFor.current = settled
    void start()
  }, [mayBegin, settled, start])
}

/** What was found when all was looked at last, to be read while colours are looked at again. */
function useLastWhole(looked: Looked): Looked {
  const [whole, setWhole] = useState(looked)
  if (looked !== whole && !looked.isForColours) setWhole(looked)
  return whole
}

function Finished({ looked }: { looked: Looked }) {
  const { site } = useSite()
  const revalidator = useRevalidator()
  const again = useCallback(() => void revalidator.revalidate(), [revalidator])
  const { work, start, cancel } = useLongWork(`/sites/${site.id}/finished-pages`, again)
  useColoursAgain(looked, start)
  const { pageCount, unlookedCount } = looked
  const whole = useLastWhole(looked)
  const isAgain = looked.isForColours && work.state === 'running'
  const { open } = withoutAside((isAgain ? whole : looked).findings, site.checking)
  const lookedCount = pageCount - unlookedCount
  return (
    <div className="h-full overflow-auto px-7 pt-5 pb-10">
      <h2 className="sr-only">Finished pages</h2>
      <p className="max-w-prose font-serif text-[20px]">
        {looked.isForColours
          ? `The styles of ${count(unlookedCount, 'page')} have changed.`
          : lookedCount === 0
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
          words={
            looked.isForColours
              ? 'Look at their colours'
              : lookedCount === 0
                ? 'Look at all of them'
                : `Look at ${count(unlookedCount, 'page')}`
          }
          thing="page"
          onStart={() => void start()}
          onCancel={cancel}
        />
      )}
      {unlookedCount === 0 && open.length === 0 && pageCount > 0 && (
        <StateMark state="done" word="nothing found" />
      )}
      <div className={isAgain ? 'mt-6 opacity-60' : 'mt-6'} inert={isAgain}>
        <FindingGroups findings={open} by="rule" level="h3" />
      </div>
    </div>
  )
}
