import { Link } from 'react-router'
import { isSaid } from '#core/change'
import { languageName } from '#core/language'
import type { SiteWord } from '#server/sites'
import { useSelection } from '../../document/site-context'
import { number } from '../../parts/format'
import { usePlaces } from '../words/place-of'
import { useNear } from './use-spelling'

/** A word that no dictionary has: where it stands first, what it may be meant for, and the ways to settle it. */
export function WordRow({
  word,
  known,
  isChosen,
  tellsLanguage,
  may,
  onChoose,
  onKeep,
  onMend,
}: {
  word: SiteWord
  /** What was asked for of words before. */
  known: Map<string, readonly string[]>
  isChosen: boolean
  /** Whether the site says something in several languages. */
  tellsLanguage: boolean
  /** Whether something can be changed from here. */
  may: boolean
  onChoose: (isChosen: boolean) => void
  onKeep: () => void
  onMend: (by: string) => void
}) {
  const { select } = useSelection()
  const { owner, line, before, after } = word.first
  const { name, what, to } = usePlaces()(owner, line)
  const near = useNear(word, known)
  const more = word.ownerCount - 1
  const isText = !isSaid(owner)
  const times = word.count === 1 ? 'once' : `${number(word.count)} times`
  return (
    <div className="grid h-full grid-cols-[1.25rem_minmax(0,1fr)] content-start gap-x-4 border-b border-rule pt-2 leading-snug sm:grid-cols-[1.25rem_minmax(0,10rem)_minmax(0,1fr)]">
      {may ? (
        <input
          type="checkbox"
          className="mt-0.5 self-start accent-lapis"
          aria-label={`Choose “${word.word}”`}
          checked={isChosen}
          onChange={(event) => onChoose(event.target.checked)}
        />
      ) : (
        <span />
      )}
      <span className="flex min-w-0 items-baseline gap-x-3 sm:block">
        <b lang={word.language} className="truncate font-semibold sm:block">
          {word.word}
        </b>
        <span className="text-sm whitespace-nowrap text-quiet sm:block">
          {times}
          {tellsLanguage && `, ${languageName(word.language)}`}
        </span>
      </span>
      <div className="col-start-2 min-w-0 sm:col-start-3">
        <span className="grid gap-x-4 sm:grid-cols-[minmax(0,1fr)_auto]">
          <span lang={word.language} className="truncate">
            <span className="text-quiet">{before}</span>
            <mark className="bg-ochre-wash text-ink">{word.word}</mark>
            <span className="text-quiet">{after}</span>
          </span>
          <span className="max-w-80 truncate text-sm text-quiet">
            <Link className="link" to={to} onClick={() => owner.kind === 'page' && select(owner.id)}>
              <span className="sr-only">Go to “{word.word}”: </span>
              {name}
            </Link>
            , {isText ? `line ${line}` : what}
            {more > 0 && `, and ${number(more)} more`}
          </span>
        </span>
        {may && (
          <span className="mt-0.5 flex flex-wrap items-baseline gap-x-4 text-sm sm:flex-nowrap">
            <span className="flex min-w-0 grow basis-full gap-x-3 overflow-hidden sm:basis-auto">
              {near?.map((by) => (
                <button
                  key={by}
                  type="button"
                  lang={word.language}
                  className="rounded-[4px] border border-rule px-1.5 font-medium whitespace-nowrap hover:bg-vellum"
                  aria-label={`${by}, instead of ${word.word}`}
                  onClick={() => onMend(by)}
                >
                  {by}
                </button>
              ))}
            </span>
            <button
              type="button"
              className="link whitespace-nowrap"
              aria-label={`Right as it is: ${word.word}`}
              onClick={onKeep}
            >
              Right as it is
            </button>
            <Link
              className="link whitespace-nowrap"
              to={{ pathname: '../words', search: `?${new URLSearchParams({ words: word.word })}` }}
              relative="path"
            >
              Something else
              <span className="sr-only"> instead of {word.word}</span>
            </Link>
          </span>
        )}
      </div>
    </div>
  )
}
