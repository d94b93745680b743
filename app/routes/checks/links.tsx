import { useMemo, useState } from 'react'
import { ancestorsOf } from '#core/plan'
import { nameLabel } from '#core/naming'
import { defaultScheme } from '#core/site'
import { graphOfSite } from '#server/sites'
import { graphSvg } from '../../checks/graph/graph-export'
import { layOutGraph } from '../../checks/graph/graph-layout'
import { LinkPicture } from '../../checks/graph/link-picture'
import { LinkTable } from '../../checks/graph/link-table'
import { useSelection, useSite } from '../../document/site-context'
import { requireSite } from '../../owner.server'
import { count } from '../../parts/format'
import { saveFile } from '../../parts/picks/files'
import { Pick } from '../../parts/picks/pick'
import { loadOrLatest, NotFetched } from '../../parts/unless-offline'
import type { Route } from './+types/links'

export async function loader({ request, params }: Route.LoaderArgs) {
  const { site } = await requireSite(request, params.siteId, 'look')
  return graphOfSite(site, request.signal)
}

export const clientLoader = (args: Route.ClientLoaderArgs) => loadOrLatest('routes/checks/links', args)

type Loaded = NonNullable<Route.ComponentProps['loaderData']>

export default function LinksView({ loaderData }: Route.ComponentProps) {
  return loaderData ? <Links nodes={loaderData.nodes} /> : <NotFetched />
}

function Links({ nodes }: Loaded) {
  const { site, tree } = useSite()
  const { selected, select } = useSelection()
  const [shownAs, setShownAs] = useState<'picture' | 'table'>('picture')
  const pages = useMemo(
    () =>
      nodes.map((node) => {
        const page = tree.byId.get(node.id)
        const section = page && node.id !== site.homeId ? (ancestorsOf(tree, page)[0]?.id ?? page.id) : ''
        return { ...node, label: page?.label ?? '', section }
      }),
    [nodes, tree, site.homeId],
  )
  const layout = useMemo(() => layOutGraph(pages), [pages])
  const links = layout.links.length
  const summary = `${count(pages.length, 'page')} and ${count(links, 'link')} in their texts. ${stepsSaid(pages)}`
  const title = `${site.name}: who leads to whom`
  const stem = nameLabel(site.name, defaultScheme, site.language).name
  const place = pages.findIndex(({ id }) => id === selected.id)
  return (
    <div className="grid h-full min-h-0 grid-rows-[auto_1fr_auto]">
      <div className="flex flex-wrap items-baseline gap-x-6 gap-y-1 px-7 pt-4 pb-2">
        <h2 className="sr-only">Who leads to whom</h2>
        <p className="max-w-prose font-serif text-[18px]">
          {summary} Shown as{' '}
          <Pick
            label="Shown as"
            value={shownAs}
            options={[
              { value: 'picture', words: 'a picture' },
              { value: 'table', words: 'a table' },
            ]}
            onPick={setShownAs}
          />
        </p>
        <button
          type="button"
          className="link ml-auto text-sm"
          onClick={() => saveFile(graphSvg(layout, title), `${stem}-links.svg`, 'image/svg+xml')}
        >
          Save as SVG
        </button>
      </div>
      {shownAs === 'picture' ? (
        <LinkPicture layout={layout} label={summary} selectedId={selected.id} onSelect={select} />
      ) : (
        <LinkTable pages={pages} selectedId={selected.id} onSelect={select} />
      )}
      <Neighbours
        label={selected.label}
        to={pages[place]?.to.map((one) => pages[one]!) ?? null}
        from={pages.filter(({ to }) => to.includes(place))}
        isListed={pages[place]?.isListed ?? false}
        onSelect={select}
      />
    </div>
  )
}

function stepsSaid(pages: readonly { readonly steps: number | null }[]): string {
  const numbers = new Map<number, number>()
  let lost = 0
  for (const { steps } of pages)
    if (steps === null) lost += 1
    else if (steps > 0) numbers.set(steps, (numbers.get(steps) ?? 0) + 1)
  const said = [...numbers]
    .sort(([a], [b]) => a - b)
    .map(([steps, many]) => `${many} at ${count(steps, 'click')}`)
  const away = said.length > 0 ? `From the home page: ${said.join(', ')}.` : ''
  return lost === 0 ? away : `${away} No way leads to ${count(lost, 'page')}.`
}

/** How many of them are named. */
const mostNamed = 12

interface Named {
  readonly id: string
  readonly label: string
}

/** What the chosen page leads to and what leads to it, in words. */
function Neighbours({
  label,
  to,
  from,
  isListed,
  onSelect,
}: {
  label: string
  to: readonly Named[] | null
  from: readonly Named[]
  isListed: boolean
  onSelect: (id: string) => void
}) {
  if (!to) return <p className="border-t border-rule px-7 py-2 text-quiet">“{label}” is a trial page.</p>
  const list = (pages: readonly Named[]) => (
    <>
      {pages.slice(0, mostNamed).map(({ id, label: words }, index) => (
        <span key={id}>
          {index > 0 && ', '}
          <button type="button" className="link" onClick={() => onSelect(id)}>
            {words}
          </button>
        </span>
      ))}
      {pages.length > mostNamed && ` and ${count(pages.length - mostNamed, 'more', 'more')}`}
    </>
  )
  return (
    <div className="max-h-28 overflow-auto border-t border-rule px-7 py-2" aria-live="polite">
      <p>
        <b className="font-semibold">{label}</b> <span className="text-lapis">leads to</span>{' '}
        {to.length > 0 ? list(to) : <span className="text-quiet">no page in its text</span>}.{' '}
        <span className="text-ochre">Led to by</span>{' '}
        {from.length > 0 ? list(from) : <span className="text-quiet">no text</span>}
        {isListed && <span className="text-quiet">{from.length > 0 ? ', and' : ';'} listed in menus</span>}.
      </p>
    </div>
  )
}
