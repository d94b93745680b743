import { useState } from 'react'
import { useOutletContext } from 'react-router'
import { type Finding, type Grade, isGrave, ruleOf } from '#core/findings'
import { nameLabel } from '#core/naming'
import { defaultScheme } from '#core/site'
import { AsideForm, AsideList } from '../../checks/aside'
import { FindingLine } from '../../checks/finding-line'
import { reportAsHtml, reportAsJson } from '../../checks/report'
import { useSite } from '../../document/site-context'
import { sureWay, useMend } from '../../document/use-mend'
import { count } from '../../parts/format'
import { saveFile } from '../../parts/picks/files'
import { Pick } from '../../parts/picks/pick'
import { StateMark } from '../../parts/state-mark'
import type { CheckedSite } from '../checks'

/** Findings of one rule drawn one by one; of more, the rest is counted. */
const drawnOfRule = 300

/** What findings are put together by. */
type Order = 'grade' | 'rule' | 'page'

const gradeTitles: Readonly<Record<Grade, string>> = {
  breaks: 'What does not work',
  hinders: 'What stands in the way',
  detail: 'Details',
}

export default function FindingsView() {
  const { open, aside } = useOutletContext<CheckedSite>()
  const { site, names } = useSite()
  const [letters, setLetters] = useState('')
  const [order, setOrder] = useState<Order>('grade')
  const labels = new Map([
    ...site.templates.map((one) => [one.id, one.name] as const),
    ...site.files.map((one) => [one.id, one.label] as const),
    ...site.pages.map((one) => [one.id, one.label] as const),
  ])
  const wanted = letters.trim().toLowerCase()
  const shown =
    wanted === ''
      ? open
      : open.filter(({ rule, what, place }) =>
          `${what} ${ruleOf(rule).title} ${labels.get(place.id) ?? ''}`.toLowerCase().includes(wanted),
        )
  const grave = shown.filter(isGrave).length
  const stem = nameLabel(site.name, defaultScheme, site.language).name
  return (
    <div className="h-full overflow-auto px-7 pt-5 pb-10">
      <div className="mb-4 flex flex-wrap items-baseline gap-x-6 gap-y-2">
        <h2 className="sr-only">Findings</h2>
        {open.length > 0 && (
          <>
            <span className="font-serif text-[20px]">
              {count(grave, 'finding')} and {count(shown.length - grave, 'detail')},{' '}
              <Pick<Order>
                label="Order"
                value={order}
                options={[
                  { value: 'grade', words: 'the gravest first' },
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
              className="field !w-52 text-[15px]"
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
      {open.length === 0 && (
        <p className="flex items-center gap-3">
          <StateMark state="done" word="nothing found" />
          <span className="text-quiet">
            Every link of the site leads somewhere, every page has a name and a title of its own.
          </span>
        </p>
      )}
      {open.length > 0 && shown.length === 0 && <p className="text-quiet">No finding has these letters.</p>}
      {order === 'grade' ? (
        (['breaks', 'hinders', 'detail'] as const).map((grade) => {
          const list = shown.filter(({ rule }) => ruleOf(rule).grade === grade)
          if (list.length === 0) return null
          return (
            <section key={grade} aria-labelledby={`grade-${grade}`} className="mb-6">
              <h3 id={`grade-${grade}`} className="mb-1 text-[22px]">
                {gradeTitles[grade]}
              </h3>
              <Groups findings={list} by="rule" level="h4" titleOf={(key) => ruleOf(key).title} />
            </section>
          )
        })
      ) : (
        <Groups
          findings={shown}
          by={order}
          level="h3"
          titleOf={(key) => (order === 'rule' ? ruleOf(key).title : (labels.get(key) ?? ''))}
        />
      )}
      <AsideList aside={aside} labels={labels} />
    </div>
  )
}

/** Findings of one rule or one page each under their heading, those that are grave opened. */
function Groups({
  findings,
  by,
  level: Heading,
  titleOf,
}: {
  findings: readonly Finding[]
  by: 'rule' | 'page'
  level: 'h3' | 'h4'
  titleOf: (key: string) => string
}) {
  const groups = new Map<string, Finding[]>()
  for (const finding of findings) {
    const key = by === 'rule' ? finding.rule : finding.place.id
    const group = groups.get(key)
    if (group) group.push(finding)
    else groups.set(key, [finding])
  }
  return [...groups].map(([key, list]) => (
    <details key={key} className="group border-t border-rule" open={list.some(isGrave) || by === 'page'}>
      <summary className="flex cursor-pointer flex-wrap items-baseline gap-x-3 py-2 [&::-webkit-details-marker]:hidden">
        <span aria-hidden className="w-3 text-faint group-open:rotate-90">
          ›
        </span>
        <Heading className="text-[18px]">{titleOf(key)}</Heading>
        <span className="text-quiet">{list.length}</span>
      </summary>
      <div className="mb-4 pl-6">
        {by === 'rule' && (
          <div className="mb-1 flex flex-wrap items-start justify-between gap-x-6">
            <p className="max-w-prose text-quiet">{ruleOf(key).why}</p>
            <ForAll findings={list} title={titleOf(key)} />
          </div>
        )}
        <ul>
          {list.slice(0, drawnOfRule).map((finding) => (
            <FindingLine key={finding.key} finding={finding} />
          ))}
          {list.length > drawnOfRule && (
            <li className="border-t border-rule py-2 text-quiet">
              and {count(list.length - drawnOfRule, 'more', 'more')}; the register counts them by page
            </li>
          )}
        </ul>
      </div>
    </details>
  ))
}

/** One step for all findings of a rule: mended where that can be done in one way only, or put aside. */
function ForAll({ findings, title }: { findings: readonly Finding[]; title: string }) {
  const { mend, problem } = useMend()
  const [asking, setAsking] = useState(false)
  const sure = findings.flatMap((finding) => {
    const way = sureWay(finding)
    return way ? [[finding, way] as const] : []
  })
  if (findings.length < 2) return null
  return (
    <span className="flex flex-wrap items-baseline gap-x-4">
      {problem !== null && (
        <span role="alert" className="text-rubric">
          {problem}
        </span>
      )}
      {sure.length > 1 && (
        <button type="button" className="link" onClick={() => void mend(sure)}>
          {sure.length === findings.length
            ? `Mend all ${sure.length}`
            : `Mend the ${sure.length} that are sure`}
          <span className="sr-only"> of: {title}</span>
        </button>
      )}
      {asking ? (
        <AsideForm findings={findings} onDone={() => setAsking(false)} />
      ) : (
        <button type="button" className="link" onClick={() => setAsking(true)}>
          Put all aside<span className="sr-only">: {title}</span>
        </button>
      )}
    </span>
  )
}
