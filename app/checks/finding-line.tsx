import { useId, useState } from 'react'
import { Link } from 'react-router'
import type { Finding, ShownColours } from '#core/findings'
import { useSelection, useSite } from '../document/site-context'
import { useMend } from '../document/use-mend'
import { AsideForm } from './aside'
import { placeSearch } from './place-search'

/** Letters in the colours that are told, and in those that are offered. */
function ColourSamples({ text, ground, better }: ShownColours) {
  const samples = better === null ? [text] : [text, better]
  return (
    <span className="mt-1 flex items-center gap-2" aria-hidden>
      {samples.map((colour, index) => (
        <svg key={index} width="64" height="26" className="border border-rule" role="presentation">
          <rect width="64" height="26" fill={ground} />
          <text x="32" y="18" textAnchor="middle" fontSize="15" fill={colour}>
            Letters
          </text>
        </svg>
      ))}
    </span>
  )
}

/** One finding: whose it is, what is wrong and where, and the ways to mend it. */
export function FindingLine({ finding }: { finding: Finding }) {
  const { tree, site } = useSite()
  const { select } = useSelection()
  const { mend, problem } = useMend()
  const [asking, setAsking] = useState(false)
  const told = useId()
  const { place } = finding
  const page = place.kind === 'page' ? tree.byId.get(place.id) : null
  const file = place.kind === 'file' ? site.files.find(({ id }) => id === place.id) : null
  const isInText = [place.line, place.madeLine, place.slot].some((one) => one !== undefined)
  const view = page ? (isInText ? 'pages' : 'plan') : 'template'
  const owner = page?.label ?? file?.label ?? site.templates.find(({ id }) => id === place.id)?.name
  return (
    <li className="grid items-start gap-x-4 gap-y-1 border-t border-rule py-2 desk:grid-cols-[9.5rem_1fr_auto]">
      {page ? (
        <button type="button" className="link truncate text-left" onClick={() => select(page.id)}>
          <bdi>{page.label}</bdi>
        </button>
      ) : (
        <bdi className="truncate text-quiet">{owner}</bdi>
      )}
      <span className="min-w-0">
        <span id={told}>{finding.what}</span>
        {place.line !== undefined && (
          <span className="text-quiet">
            {' '}
            {place.slot !== undefined && `Slot ${place.slot}, `}
            {place.slot === undefined ? 'Line' : 'line'} {place.line}, column {place.column}.
          </span>
        )}
        {place.piece !== undefined && place.piece !== '' && (
          <code className="block truncate font-mono text-[13px] text-quiet" title={place.piece}>
            {place.piece}
          </code>
        )}
        {finding.colours && <ColourSamples {...finding.colours} />}
        {problem !== null && (
          <span role="alert" className="block text-rubric">
            {problem}
          </span>
        )}
        {asking && <AsideForm findings={[finding]} onDone={() => setAsking(false)} />}
      </span>
      <span className="flex flex-wrap gap-x-4 gap-y-1 desk:flex-col desk:items-end">
        {finding.mends.map((one) => (
          <button
            key={one.words}
            type="button"
            className="link max-w-64 truncate"
            title={one.words}
            aria-describedby={told}
            onClick={() => void mend([[finding, one]])}
          >
            {one.words}
          </button>
        ))}
        <span className="flex gap-x-3">
          {!asking && (
            <button
              type="button"
              className="link text-sm"
              aria-describedby={told}
              onClick={() => setAsking(true)}
            >
              Put aside
            </button>
          )}
          <Link
            className="link text-sm"
            aria-describedby={told}
            to={{ pathname: `/sites/${site.id}/${view}`, search: placeSearch(place) }}
            onClick={() => page && select(page.id)}
          >
            Go there
          </Link>
        </span>
      </span>
    </li>
  )
}
