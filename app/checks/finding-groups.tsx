import { useState } from 'react'
import { type Finding, isGrave, ruleOf } from '#core/findings'
import { sureWay, useMend } from '../document/use-mend'
import { count } from '../parts/format'
import { AsideForm } from './aside'
import { FindingLine } from './finding-line'

/** Findings of one rule drawn one by one; of more, the rest is counted. */
const drawnOfRule = 300

/** Findings of one rule or one page each under their heading, those that are grave opened. */
export function FindingGroups({
  findings,
  by,
  level: Heading,
  labels,
}: {
  findings: readonly Finding[]
  by: 'rule' | 'page'
  level: 'h3' | 'h4'
  /** What pages, templates and files are called; where findings are put together by them. */
  labels?: ReadonlyMap<string, string>
}) {
  const title = (key: string) => (by === 'rule' ? ruleOf(key).title : (labels?.get(key) ?? ''))
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
        <Heading className="text-[18px]">{title(key)}</Heading>
        <span className="text-quiet">{list.length}</span>
      </summary>
      <div className="mb-4 pl-6">
        {by === 'rule' && (
          <div className="mb-1 flex flex-wrap items-start justify-between gap-x-6">
            <p className="max-w-prose text-quiet">{ruleOf(key).why}</p>
            <ForAll findings={list} title={title(key)} />
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
