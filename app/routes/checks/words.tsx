import { useEffect, useRef, useState } from 'react'
import { useSearchParams } from 'react-router'
import { isSaid, ownerKey, type WordsOwner } from '#core/change'
import { mostWords } from '#core/find'
import { useDone } from '../../checks/use-done'
import { FoundRow } from '../../checks/words/found-row'
import { type Found, type Instead, useWords } from '../../checks/words/use-words'
import { Question } from '../../frame/question'
import { useSite } from '../../document/site-context'
import { Button } from '../../parts/button'
import { Check } from '../../parts/check'
import { count, number } from '../../parts/format'
import { LongList } from '../../parts/long-list'
import { rippleWords } from '../../parts/ripple-words'

const mostBy = 2_000

/** Words of the site, wherever they stand, and others in their place. */
export default function WordsView() {
  const { store } = useSite()
  const { found, problem, asks, work, look, cancel, replace, leave } = useWords()
  // Another view leads here with a word that is meant as it is.
  const [search] = useSearchParams()
  const led = (search.get('words') ?? '').slice(0, mostWords)
  const [words, setWords] = useState(led)
  const [isExact, setExact] = useState(led !== '')
  const [isWhole, setWhole] = useState(led !== '')
  const [inSource, setInSource] = useState(false)
  const [by, setBy] = useState('')
  /** What stays as it is. */
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set())
  const [done, setDone] = useDone()

  /** What all pages share is for those who manage the site. */
  const canReplace = ({ kind }: WordsOwner) => store.may(kind === 'page' ? 'write' : 'manage')
  const chosen = (found?.found ?? [])
    .map(({ owner }) => owner)
    .filter(canReplace)
    .filter((owner) => !left.has(ownerKey(owner)))
  const begin = useRef(led !== '')
  useEffect(() => {
    if (!begin.current) return
    begin.current = false
    look({ words: led, isExact: true, isWhole: true, inSource: false })
  }, [led, look])
  const isCurrent = found !== null && found.wanted.words === words.trim()

  const hasLabel = chosen.some(isLabel)

  async function put(instead: Instead, shown: boolean) {
    setDone(null)
    if (await replace(instead, shown))
      setDone(`Replaced in ${count(instead.chosen.length, 'place')}. Undo takes it back.`)
  }
  return (
    <div className="grid h-full min-h-0 grid-cols-[minmax(0,1fr)] grid-rows-[auto_auto_minmax(0,1fr)_auto]">
      <h2 className="sr-only">Words</h2>
      <form
        role="search"
        className="flex flex-wrap items-end gap-x-5 gap-y-2 px-7 pt-5 pb-3"
        onSubmit={(event) => {
          event.preventDefault()
          if (words.trim() === '') return
          setDone(null)
          setLeft(new Set())
          look({ words: words.trim(), isExact, isWhole, inSource })
        }}
      >
        <label className="min-w-56 grow text-sm text-quiet">
          Words, wherever they stand
          <input
            type="search"
            className="field text-[15px] text-ink"
            value={words}
            maxLength={mostWords}
            onChange={(event) => setWords(event.target.value)}
          />
        </label>
        <Button type="submit" look="go" disabled={words.trim() === ''}>
          Find them
        </Button>
        <span className="flex w-full flex-wrap gap-x-6 gap-y-1">
          <Check checked={isExact} onChange={setExact} words="Capital letters count" />
          <Check checked={isWhole} onChange={setWhole} words="Not within longer words" />
          <Check
            checked={inSource}
            onChange={setInSource}
            words="In tags, addresses, styles and scripts, too"
          />
        </span>
      </form>
      <div role="status" className="flex flex-wrap gap-4 px-7 pb-3">
        {work !== null ? (
          <>
            <span className="text-quiet">
              {work === 'looking' ? 'Looking through the site…' : 'Replacing them…'}
            </span>
            <button type="button" className="link text-sm" onClick={cancel}>
              Cancel
            </button>
          </>
        ) : problem !== null ? (
          <span className="text-rubric">{problem}</span>
        ) : found === null ? (
          <span className="max-w-prose text-quiet">
            In the name of the site, in labels, titles and descriptions, in what pages and templates say, and
            in files of words: over the ends of lines, and however their signs are written.
          </span>
        ) : (
          <span>
            {done !== null && <b className="font-semibold">{done} </b>}
            {summaryOf(found)}
          </span>
        )}
      </div>
      {found && found.found.length > 0 ? (
        <LongList
          label="Where the words stand"
          count={found.found.length}
          rowHeight={58}
          className="min-h-0 border-t border-rule px-7"
        >
          {(index) => {
            const one = found.found[index]!
            const key = ownerKey(one.owner)
            return (
              <FoundRow
                found={one}
                isChosen={canReplace(one.owner) ? !left.has(key) : null}
                onChoose={(is) => {
                  const next = new Set(left)
                  if (is) next.delete(key)
                  else next.add(key)
                  setLeft(next)
                }}
              />
            )
          }}
        </LongList>
      ) : (
        <span />
      )}
      {asks !== null ? (
        <Question
          name="Replace words"
          inset="px-7"
          ripple={asks.ripple}
          answers={[
            { words: 'Replace them', look: 'go', onChoose: () => void put(asks.what, true) },
            { words: 'Leave them', onChoose: leave },
          ]}
        >
          {wordsOf(asks.what)}: {rippleWords(asks.ripple)}
          {asks.what.chosen.some(isLabel) ? '; menus follow.' : '.'}
        </Question>
      ) : (
        found &&
        found.found.some(({ owner }) => canReplace(owner)) && (
          <form
            className="flex flex-wrap items-end gap-x-5 gap-y-2 border-t border-rule bg-vellum px-7 py-3"
            onSubmit={(event) => {
              event.preventDefault()
              if (chosen.length > 0) void put({ wanted: found.wanted, by, chosen }, false)
            }}
          >
            <label className="min-w-56 grow text-sm text-quiet">
              In the place of “{found.wanted.words}”, as it is typed
              <input
                className="field text-[15px] text-ink"
                value={by}
                maxLength={mostBy}
                onChange={(event) => setBy(event.target.value)}
              />
            </label>
            <Button
              type="submit"
              look={by === '' ? 'plain' : 'go'}
              disabled={chosen.length === 0 || work !== null || !isCurrent}
            >
              {by === '' ? 'Take them out of' : 'Replace them in'} {count(chosen.length, 'place')}
            </Button>
            <p className="w-full text-sm text-quiet">
              {found.wanted.isExact
                ? ''
                : 'Capital letters stay where words have them, unless you type some. '}
              {hasLabel ? 'Files are named after their new labels. ' : ''}All of it is one step of undo.
            </p>
          </form>
        )
      )}
    </div>
  )
}

const isLabel = (owner: WordsOwner) => isSaid(owner) && owner.field === 'label'

const wordsOf = ({ wanted: { words }, by, chosen }: Instead) =>
  by === ''
    ? `“${words}” goes from ${count(chosen.length, 'place')}`
    : `“${words}” becomes “${by}” in ${count(chosen.length, 'place')}`

function summaryOf({ wanted: { words }, found, placeCount, ownerCount }: Found): string {
  if (placeCount === 0) return `“${words}” stands nowhere in this site.`
  const more = ownerCount > found.length ? ` The first ${number(found.length)} are shown.` : ''
  const times = placeCount === 1 ? 'once' : `${number(placeCount)} times`
  return `“${words}” stands ${times}, in ${count(ownerCount, 'place')} of the site.${more}`
}
