import { useState } from 'react'
import { lines, secondsOn, type PageWeight } from '#core/weighing'
import { weightsOfSite } from '#server/sites'
import { HeavyFiles } from '../../checks/weight/heavy-files'
import { type Stretch, WeightBars } from '../../checks/weight/weight-bars'
import { useSelection, useSite } from '../../document/site-context'
import { requireSite } from '../../owner.server'
import { count, size } from '../../parts/format'
import { Pick } from '../../parts/picks/pick'
import { loadOrLatest, NotFetched } from '../../parts/unless-offline'
import type { Route } from './+types/weight'

export async function loader({ request, params }: Route.LoaderArgs) {
  const { site } = await requireSite(request, params.siteId, 'look')
  return { weights: await weightsOfSite(site, request.signal) }
}

export const clientLoader = (args: Route.ClientLoaderArgs) => loadOrLatest('routes/checks/weight', args)

export default function WeightView({ loaderData }: Route.ComponentProps) {
  return loaderData ? <Weights weights={loaderData.weights} /> : <NotFetched />
}

const limits = [100_000, 200_000, 500_000, 1_000_000, 2_000_000, 5_000_000]

function Weights({ weights }: { weights: readonly PageWeight[] }) {
  const { site, tree, store } = useSite()
  const { selected, select } = useSelection()
  const [stretch, setStretch] = useState<Stretch | null>(null)
  const { mostPageBytes } = site.checking
  const over = weights.filter(({ total }) => total > mostPageBytes).length
  const [heaviest] = weights
  const options = [...new Set([...limits, mostPageBytes])].sort((a, b) => a - b)
  return (
    <div className="grid h-full min-h-0 grid-rows-[auto_1fr_auto]">
      <div className="px-7 pt-4 pb-3">
        <h2 className="sr-only">What pages weigh</h2>
        <p className="max-w-prose font-serif text-[18px]">
          A page with all that it needs may weigh{' '}
          <Pick
            label="A page may weigh"
            value={String(mostPageBytes)}
            options={options.map((bytes) => ({ value: String(bytes), words: size(bytes) }))}
            onPick={(value) =>
              store.change({ kind: 'setMostWeight', bytes: Number(value), was: mostPageBytes })
            }
            after="."
          />{' '}
          {over === 0
            ? 'None weighs more.'
            : `${count(over, 'page')} ${over === 1 ? 'weighs' : 'weigh'} more.`}{' '}
          {heaviest &&
            `“${tree.byId.get(heaviest.pageId)?.label}”, the heaviest, takes about ${said(secondsOn(lines.slow, heaviest))} on ${lines.slow.name} and ${said(secondsOn(lines.fast, heaviest))} on ${lines.fast.name}.`}
        </p>
      </div>
      <WeightBars
        weights={weights}
        limit={mostPageBytes}
        selectedId={selected.id}
        chosen={stretch}
        onChoose={(one) => {
          setStretch(one)
          select(one.pageId)
        }}
      />
      <HeavyFiles
        weight={weights.find(({ pageId }) => pageId === selected.id) ?? null}
        label={selected.label}
        kind={stretch?.pageId === selected.id ? stretch.kind : null}
      />
    </div>
  )
}

const said = (seconds: number) => (seconds < 1 ? `${seconds.toFixed(1)} s` : `${Math.round(seconds)} s`)
