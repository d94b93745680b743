import { useEffect, useRef } from 'react'
import { Link, useRevalidator } from 'react-router'
import { type Finding, ruleOf } from '#core/findings'
import { findingsOf } from '#server/sites'
import { sureWay, useMend } from '../document/use-mend'
import { useSelection, useSite } from '../document/site-context'
import { requireSite } from '../owner.server'
import { count } from '../parts/format'
import { StateMark } from '../parts/state-mark'
import { loadOrLatest, NotFetched } from '../parts/unless-offline'
import type { Route } from './+types/checks'

export async function loader({ request, params }: Route.LoaderArgs) {
  const { site } = await requireSite(request, params.siteId)
  return findingsOf(site, request.signal)
}

/** Findings of one rule drawn one by one; of more, the rest is counted. */
const drawnOfRule = 300

export const clientLoader = ({ request, serverLoader }: Route.ClientLoaderArgs) =>
  loadOrLatest(request, serverLoader)
// What the first page came with is remembered as well.
clientLoader.hydrate = true as const

export default function ChecksView({ loaderData }: Route.ComponentProps) {
  return loaderData ? <Findings findings={loaderData.findings} /> : <NotFetched />
}

function Findings({ findings }: { findings: readonly Finding[] }) {
  const { revision } = useSite()
  const revalidator = useRevalidator()
  const seen = useRef(revision)
  useEffect(() => {
    if (seen.current === revision) return
    seen.current = revision
    void revalidator.revalidate()
  }, [revision, revalidator])

  const groups = new Map<string, Finding[]>()
  for (const finding of findings) {
    const group = groups.get(finding.rule)
    if (group) group.push(finding)
    else groups.set(finding.rule, [finding])
  }
  return (
    <div className="h-full overflow-auto px-7 pt-6 pb-10">
      <h2 className="mb-4 text-[26px]">Findings</h2>
      {findings.length === 0 && (
        <p className="flex items-center gap-3">
          <StateMark state="done" word="nothing found" />
          <span className="text-quiet">
            Every link of the site leads somewhere, every page has a name and a title of its own.
          </span>
        </p>
      )}
      {[...groups].map(([rule, list]) => (
        <section key={rule} className="mb-7">
          <div className="flex flex-wrap items-baseline justify-between gap-x-4">
            <h3 className="text-[19px]">{ruleOf(rule).title}</h3>
            <MendAll findings={list} title={ruleOf(rule).title} />
          </div>
          <p className="mb-2 max-w-prose text-quiet">{ruleOf(rule).why}</p>
          <ul className="border-t border-rule">
            {list.slice(0, drawnOfRule).map((finding) => (
              <FindingLine key={finding.key} finding={finding} />
            ))}
            {list.length > drawnOfRule && (
              <li className="py-2 text-quiet">
                and {count(list.length - drawnOfRule, 'more', 'more')}; the register counts them by page
              </li>
            )}
          </ul>
        </section>
      ))}
    </div>
  )
}

/** One step for all findings of a rule that can be mended in one way only. */
function MendAll({ findings, title }: { findings: readonly Finding[]; title: string }) {
  const { mend, problem } = useMend()
  const sure = findings.flatMap((finding) => {
    const way = sureWay(finding)
    return way ? [[finding, way] as const] : []
  })
  if (sure.length < 2) return null
  return (
    <span className="flex flex-wrap items-baseline gap-x-4">
      {problem !== null && (
        <span role="alert" className="text-rubric">
          {problem}
        </span>
      )}
      <button type="button" className="link" onClick={() => void mend(sure)}>
        {sure.length === findings.length
          ? `Mend all ${sure.length}`
          : `Mend the ${sure.length} that are sure`}
        <span className="sr-only"> of: {title}</span>
      </button>
    </span>
  )
}

function FindingLine({ finding }: { finding: Finding }) {
  const { tree, site } = useSite()
  const { select } = useSelection()
  const { mend, problem } = useMend()
  const { place } = finding
  const page = place.kind === 'page' ? tree.byId.get(place.id) : null
  const view = page ? (finding.place.line === undefined ? 'plan' : 'pages') : 'template'
  return (
    <li className="grid items-start gap-x-4 gap-y-1 border-b border-rule py-2 desk:grid-cols-[11rem_1fr_auto]">
      {page ? (
        <button type="button" className="link truncate text-left" onClick={() => select(page.id)}>
          {page.label}
        </button>
      ) : (
        <span className="truncate text-quiet">{site.templates.find(({ id }) => id === place.id)?.name}</span>
      )}
      <span>
        {finding.what}
        {place.line !== undefined && (
          <span className="text-quiet">
            {' '}
            {place.slot !== undefined && `Slot ${place.slot}, `}
            {place.slot === undefined ? 'Line' : 'line'} {place.line}, column {place.column}.
          </span>
        )}
        {problem !== null && (
          <span role="alert" className="block text-rubric">
            {problem}
          </span>
        )}
      </span>
      <span className="flex flex-wrap gap-x-4 gap-y-1 desk:flex-col desk:items-end">
        {finding.mends.map((one) => (
          <button
            key={one.words}
            type="button"
            className="link max-w-72 truncate"
            title={one.words}
            onClick={() => void mend([[finding, one]])}
          >
            {one.words}
          </button>
        ))}
        <Link
          className="link"
          to={{ pathname: `/sites/${site.id}/${view}`, search: page ? `?page=${page.id}` : '' }}
          onClick={() => page && select(page.id)}
        >
          {finding.mends.length === 0 ? 'Mend it' : 'Go there'}
        </Link>
      </span>
    </li>
  )
}
