import { useState } from 'react'
import { useOutletContext } from 'react-router'
import { type Grade, isGrave, ruleOf } from '#core/findings'
import { nameLabel } from '#core/naming'
import { defaultScheme } from '#core/site'
import { AsideList } from '../../checks/aside'
import { FindingGroups } from '../../checks/finding-groups'
import { reportAsHtml, reportAsJson } from '../../checks/report'
import { useSite } from '../../document/site-context'
import { count } from '../../parts/format'
import { saveFile } from '../../parts/picks/files'
import { Pick } from '../../parts/picks/pick'
import { StateMark } from '../../parts/state-mark'
import type { CheckedSite } from '../checks'

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
              {countsSaid(grave, shown.length - grave)},{' '}
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
              <FindingGroups findings={list} by="rule" level="h4" />
            </section>
          )
        })
      ) : (
        <FindingGroups findings={shown} by={order} level="h3" labels={labels} />
      )}
      <AsideList aside={aside} labels={labels} />
    </div>
  )
}

/** `2 findings and 1 detail`; nothing is said of what there is none of. */
const countsSaid = (grave: number, details: number): string =>
  [grave > 0 || details === 0 ? count(grave, 'finding') : '', details > 0 ? count(details, 'detail') : '']
    .filter((part) => part !== '')
    .join(' and ')
