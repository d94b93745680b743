import { Link } from 'react-router'
import { isSaid } from '#core/change'
import type { FoundInSite } from '#server/sites'
import { useSelection } from '../../document/site-context'
import { number } from '../../parts/format'
import { usePlaces } from './place-of'

/** Whose text it is, the first place and how many more there are, and the way there; with a box where it can be chosen. */
export function FoundRow({
  found: { owner, count: times, line },
  isChosen,
  onChoose,
}: {
  found: FoundInSite
  /** Null where nothing can be put in its place from here. */
  isChosen: boolean | null
  onChoose: (isChosen: boolean) => void
}) {
  const { select } = useSelection()
  const { name, what, to } = usePlaces()(owner, line.line)
  const isLine = isSaid(owner)
  const more = times > 1 ? `${number(times - 1)} more` : ''
  return (
    <div className="grid grid-cols-[1.25rem_minmax(0,1fr)_auto] desk:grid-cols-[1.25rem_minmax(0,11rem)_minmax(0,1fr)_auto] items-baseline gap-x-4 border-b border-rule py-1.5 leading-snug">
      {isChosen === null ? (
        <span />
      ) : (
        <input
          type="checkbox"
          className="accent-lapis"
          aria-label={`Replace in ${name}, ${what}`}
          checked={isChosen}
          onChange={(event) => onChoose(event.target.checked)}
        />
      )}
      {/* Whose it is and what it says: side by side, or on a phone one above the other. */}
      <span className="min-w-0 desk:contents">
        <span className="block min-w-0 truncate">
          <span className="font-semibold desk:block desk:truncate">{name}</span>{' '}
          <span className="text-sm text-quiet desk:block desk:truncate">{what}</span>
        </span>
        <span className="block min-w-0">
          <code className="block truncate font-mono text-[13px]">
            {line.before}
            <mark className="bg-ochre-wash text-ink">{line.found}</mark>
            {line.after}
          </code>
          <span className="hidden text-sm text-quiet desk:block">
            {[isLine ? '' : `line ${line.line}`, more].filter((part) => part !== '').join(', and ')}
          </span>
        </span>
      </span>
      <Link className="link text-sm" to={to} onClick={() => owner.kind === 'page' && select(owner.id)}>
        Go there
        <span className="sr-only">
          : {name}, {what}
        </span>
      </Link>
    </div>
  )
}
