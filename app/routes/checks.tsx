import { useEffect, useRef, useState } from 'react'
import { Link, useRevalidator } from 'react-router'
import { type Finding, ruleOf } from '#core/findings'
import { nameLabel } from '#core/naming'
import { defaultScheme } from '#core/site'
import { findingsOf } from '#server/sites'
import { reportAsHtml, reportAsJson } from '../checks/report'
import { sureWay, useMend } from '../document/use-mend'
import { useSelection, useSite } from '../document/site-context'
import { requireSite } from '../owner.server'
import { count } from '../parts/format'
import { saveFile } from '../parts/picks/files'
import { Pick } from '../parts/picks/pick'
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

/** What findings are put together by. */
type Order = 'rule' | 'page'

function Findings({ findings }: { findings: readonly Finding[] }) {
  const { revision, site, names } = useSite()
  const revalidator = useRevalidator()
  const seen = useRef(revision)
  useEffect(() => {
    if (seen.current === revision) return
    seen.current = revision
    void revalidator.revalidate()
  }, [revision, revalidator])

  const [letters, setLetters] = useState('')
  const [order, setOrder] = useState<Order>('rule')
  const labels = new Map([
    ...site.templates.map((one) => [one.id, one.name] as const),
    ...site.pages.map((one) => [one.id, one.label] as const),
  ])
  const wanted = letters.trim().toLowerCase()
  const shown =
    wanted === ''
      ? findings
      : findings.filter(({ rule, what, place }) =>
          `${what} ${ruleOf(rule).title} ${labels.get(place.id) ?? ''}`.toLowerCase().includes(wanted),
        )
  const groups = new Map<string, Finding[]>()
  for (const finding of shown) {
    const key = order === 'rule' ? finding.rule : finding.place.id
    const group = groups.get(key)
    if (group) group.push(finding)
    else groups.set(key, [finding])
  }
  const stem = nameLabel(site.name, defaultScheme, site.language).name
  return (
    <div className="h-full overflow-auto px-7 pt-6 pb-10">
      <div className="mb-4 flex flex-wrap items-baseline gap-x-6 gap-y-2">
        <h2 className="text-[26px]">Findings</h2>
        {findings.length > 0 && (
          <>
            <span className="font-serif text-[17px]">
              {count(shown.length, 'finding')},{' '}
              <Pick<Order>
                label="Order"
                value={order}
                options={[
                  { value: 'rule', words: 'by rule' },
                  { value: 'page', words: 'by page' },
                ]}
                onPick={setOrder}
              />
            </span>
            <input
              type="search"
              aria-label="Only those with these letters"
              placeholder="Only those with…"
              className="field !w-56 text-[15px]"
              value={letters}
              onChange={(event) => setLetters(event.target.value)}
            />
            <span className="ml-auto flex gap-4 text-sm">
              <button
                type="button"
                className="link"
                onClick={() =>
                  saveFile(reportAsHtml(site, names, shown), `${stem}-findings.html`, 'text/html')
                }
              >
                Save as a page
              </button>
              <button
                type="button"
                className="link"
                onClick={() =>
                  saveFile(reportAsJson(site, names, shown), `${stem}-findings.json`, 'application/json')
                }
              >
                as JSON
              </button>
            </span>
          </>
        )}
      </div>
      {findings.length === 0 && (
        <p className="flex items-center gap-3">
          <StateMark state="done" word="nothing found" />
          <span className="text-quiet">
            Every link of the site leads somewhere, every page has a name and a title of its own.
          </span>
        </p>
      )}
      {findings.length > 0 && shown.length === 0 && (
        <p className="text-quiet">No finding has these letters.</p>
      )}
      {[...groups].map(([key, list]) => (
        <section key={key} className="mb-7">
          <div className="flex flex-wrap items-baseline justify-between gap-x-4">
            <h3 className="text-[19px]">{order === 'rule' ? ruleOf(key).title : labels.get(key)}</h3>
            {order === 'rule' && <MendAll findings={list} title={ruleOf(key).title} />}
          </div>
          {order === 'rule' && <p className="mb-2 max-w-prose text-quiet">{ruleOf(key).why}</p>}
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
