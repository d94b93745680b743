import { useEffect, useRef } from 'react'
import { Link, useRevalidator } from 'react-router'
import { type Finding, findFindings } from '#core/findings'
import type { Site } from '#core/site'
import { getTexts, textFrom } from '#server/database/blobs'
import { loadFacts } from '#server/database/facts'
import { pool } from '#server/database/pool'
import { useSelection, useSite } from '../document/site-context'
import { requireSite } from '../owner.server'
import { count } from '../parts/format'
import { StateMark } from '../parts/state-mark'
import { loadOrLatest, NotFetched } from '../parts/unless-offline'
import type { Route } from './+types/checks'

export async function loader({ request, params }: Route.LoaderArgs) {
  const { site } = await requireSite(request, params.siteId)
  return answerChecks(site, request.signal)
}

/** Lines are told for texts that something is wrong in: those are few, and read in portions. */
async function answerChecks(site: Site, signal: AbortSignal) {
  const contents = site.pages.filter((page) => !page.trial).map((page) => page.content)
  const factsOf = await loadFacts(pool(), contents)
  const sources = await getTexts(
    pool(),
    site.templates.map((template) => template.source),
  )
  const templateOf = textFrom(sources)
  const missing = new Set<string>()
  const look = (textOf: (hash: string) => string) => findFindings(site, { factsOf, textOf })
  // Once without the texts of pages, to know which are asked for; then with those, some at a time.
  look((hash) => {
    if (sources.has(hash)) return templateOf(hash)
    missing.add(hash)
    return ''
  })
  const lines = new Map<string, string>()
  const wanted = [...missing]
  for (let at = 0; at < wanted.length; at += textsAtOnce) {
    signal.throwIfAborted()
    for (const [hash, text] of await getTexts(pool(), wanted.slice(at, at + textsAtOnce)))
      // Only where lines end matters for telling a line.
      lines.set(hash, text.replace(/[^\n]/g, ' '))
  }
  const findings = look((hash) => sources.get(hash) ?? lines.get(hash) ?? '')
  return { findings: findings.slice(0, mostFindings), findingCount: findings.length }
}

/** Texts read from the database at a time. */
const textsAtOnce = 100
/** Findings sent to a window; whoever has more begins with these. */
const mostFindings = 20_000
/** Findings of one rule drawn one by one; of more, the rest is counted. */
const drawnOfRule = 300

const ruleTitles: Record<string, string> = {
  'broken-reference': 'Links and references that lead nowhere',
  'link-to-trial': 'Links to trial pages',
  'too-large': 'More than can be sent',
  'base-address': 'Addresses that would lead every link elsewhere',
  'markup-error': 'HTML that a browser has to guess at',
  'nameless-label': 'Labels that make no name',
  'name-clash': 'Names told apart',
  'repeated-title': 'Titles used twice',
}

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
          <h3 className="text-[19px]">{ruleTitles[rule] ?? rule}</h3>
          <p className="mb-2 max-w-prose text-quiet">{list[0]!.why}</p>
          <ul className="border-t border-rule">
            {list.slice(0, drawnOfRule).map((finding, index) => (
              <FindingLine key={index} finding={finding} />
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

function FindingLine({ finding }: { finding: Finding }) {
  const { tree, site } = useSite()
  const { select } = useSelection()
  const page = finding.pageId === null ? null : tree.byId.get(finding.pageId)
  return (
    <li className="grid grid-cols-[11rem_1fr_auto] gap-4 border-b border-rule py-2">
      {page ? (
        <button type="button" className="link truncate text-left" onClick={() => select(page.id)}>
          {page.label}
        </button>
      ) : (
        <span className="text-quiet">Shared template</span>
      )}
      <span>
        {finding.what}
        {finding.line !== undefined && <span className="text-quiet"> Line {finding.line}.</span>}
      </span>
      <Link
        className="link"
        to={{
          pathname: `/sites/${site.id}/${page ? (finding.rule.includes('name') ? 'plan' : 'pages') : 'template'}`,
          search: page ? `?page=${page.id}` : '',
        }}
        onClick={() => page && select(page.id)}
      >
        Mend it
      </Link>
    </li>
  )
}
