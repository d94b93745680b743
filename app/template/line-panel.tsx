import { useEffect, useState } from 'react'
import { Link } from 'react-router'
import type { LineOrigin, LinePurpose } from '#core/build'
import { mainSlot } from '#core/site'
import type { translationValues, valueNames } from '#core/template'
import { useSelection, useSite } from '../document/site-context'
import { untilFetched } from '../parts/fetched'

/** Where choosing an origin leads: to a line of a template. */
export type LeadToTemplate = (templateId: string, line: number) => void

interface Explained {
  readonly key: string
  readonly purpose: LinePurpose | null
  readonly origins: readonly LineOrigin[] | null
}

/** What the chosen line of a finished page is for, what wrote it, and the ways there. */
export function LinePanel({ html, line, onLead }: { html: string; line: number; onLead: LeadToTemplate }) {
  const { site } = useSite()
  const { selected } = useSelection()
  const key = `${selected.id} ${line} ${html.length}`
  const [explained, setExplained] = useState<Explained | null>(null)
  useEffect(() => {
    const abort = new AbortController()
    const origins = fetch(`/sites/${site.id}/results/${selected.id}?line=${line}`, { signal: abort.signal })
      .then(async (response) =>
        response.ok ? ((await response.json()) as { origins: LineOrigin[] }).origins : null,
      )
      // Without a connection what a line is for is told all the same.
      .catch(() => null)
    // The parser comes when it is first needed.
    const purpose = untilFetched(() => import('./purpose')).then(({ purposeOfLine }) =>
      purposeOfLine(html, line),
    )
    void Promise.all([purpose, origins]).then(([is, from]) => {
      if (!abort.signal.aborted) setExplained({ key, purpose: is, origins: from })
    })
    return () => abort.abort()
  }, [site.id, selected.id, line, html, key])
  const known = explained?.key === key ? explained : null
  return (
    <div role="status" className="border-t border-rule bg-paper px-4 py-2.5">
      <p>
        <span className="text-quiet">Line {line}</span>{' '}
        {known?.purpose && (
          <>
            {known.purpose.what !== '' && (
              <code className="font-mono text-[13px]">{known.purpose.what} </code>
            )}
            {known.purpose.words}{' '}
            <span className="text-sm whitespace-nowrap text-quiet">
              HTML Standard §{known.purpose.section}
            </span>
          </>
        )}
      </p>
      {known?.origins && known.origins.length > 0 && (
        <ul className="mt-0.5 flex flex-wrap gap-x-4">
          {known.origins.map((origin) => (
            <li key={`${origin.kind} ${origin.name} ${origin.line}`}>
              <OriginWords origin={origin} onLead={onLead} />
            </li>
          ))}
        </ul>
      )}
    </div>
  )
}

type OfPage = (typeof valueNames)[number]
type OfTranslation = (typeof translationValues)[number]

/** What the values of a template stand for, and where each is set. */
const values: Readonly<Record<OfPage | OfTranslation, { words: string; view: 'pages' | 'plan' | null }>> = {
  page: { words: 'the page’s title, or its label', view: 'pages' },
  title: { words: 'the title pattern above', view: null },
  site: { words: 'the site’s name above', view: null },
  description: { words: 'the page’s description', view: 'pages' },
  address: { words: 'the address above, with the page’s own path', view: null },
  language: { words: 'the page’s language, or the one above', view: 'plan' },
  direction: { words: 'which way the page’s language is written', view: 'plan' },
  'translation.language': { words: 'each language that the page is in', view: 'plan' },
  'translation.address': { words: 'the page’s address in that language', view: 'plan' },
  year: { words: 'the year in which it was made', view: null },
  date: { words: 'the page’s date, where its title does not say it', view: 'plan' },
  datetime: { words: 'the page’s date, for programs', view: 'plan' },
  feed: { words: 'where the feed is, under the address above', view: null },
}
const isNamed = (name: string): name is keyof typeof values => Object.hasOwn(values, name)

function OriginWords({ origin, onLead }: { origin: LineOrigin; onLead: LeadToTemplate }) {
  const { site } = useSite()
  const { selected } = useSelection()
  const { kind, name, templateId, line } = origin
  const template = site.templates.find(({ id }) => id === templateId)
  const there = template && (
    <button type="button" className="link" onClick={() => onLead(template.id, line)}>
      line {line} of {template.name}
    </button>
  )
  const leadTo = (view: string, words: string) => (
    <Link className="link" to={{ pathname: `/sites/${site.id}/${view}`, search: `?page=${selected.id}` }}>
      {words}
    </Link>
  )
  switch (kind) {
    case 'template':
      return <>from {there}</>
    case 'value': {
      const slot = /^slot\.(.*)$/.exec(name)?.[1]
      const value =
        slot === undefined
          ? isNamed(name)
            ? values[name]
            : null
          : { words: `what the page holds in “${slot}”`, view: 'pages' as const }
      return (
        <>
          {`{${name}}`} of {there}: {value?.view ? leadTo(value.view, value.words) : value?.words}
        </>
      )
    }
    case 'generated':
      return (
        <>
          made of {leadTo('plan', 'the plan')} by &lt;{name}&gt;, {there}
        </>
      )
    case 'slot':
      return (
        <>
          written in {leadTo('pages', name === mainSlot ? 'what the page says' : `its slot “${name}”`)}, for{' '}
          {there}
        </>
      )
  }
}
