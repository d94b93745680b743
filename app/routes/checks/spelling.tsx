import { useRef, useState } from 'react'
import { languageName } from '#core/language'
import { ownWords } from '#core/spelling'
import type { SiteSpelling, SiteWord } from '#server/sites'
import { useDone } from '../../checks/use-done'
import { LongWorkBar } from '../../parts/long-work'
import { OwnWords } from '../../checks/spelling/own-words'
import { type Mending, useSpelling } from '../../checks/spelling/use-spelling'
import { WordRow } from '../../checks/spelling/word-row'
import { Question } from '../../frame/question'
import { useSite } from '../../document/site-context'
import { Button } from '../../parts/button'
import { count, number } from '../../parts/format'
import { LongList } from '../../parts/long-list'
import { rippleWords } from '../../parts/ripple-words'
import { useIsNarrow } from '../../parts/use-is-narrow'

const keyOf = ({ language, word }: SiteWord) => `${language} ${word}`

/** What the site says, held against dictionaries. */
export default function SpellingView() {
  const { site, store } = useSite()
  const { spelling, tellsWork, putting, work, start, cancel, mend } = useSpelling()
  const { asks, problem } = putting
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set())
  const [done, setDone] = useDone()
  const near = useRef(new Map<string, readonly string[]>())
  const isNarrow = useIsNarrow()
  const may = store.may('write')
  // What was just kept is gone from the list at once, before it is looked at again.
  const isOwn = ownWords(site.ownWords)
  const words = (spelling?.words ?? []).filter(({ word }) => !isOwn(word))
  const taken = words.filter((word) => chosen.has(keyOf(word)))
  const languages = new Set(words.map(({ language }) => language))

  // Whoever may not manage the site leaves templates as they are.
  const whereOf = ({ word }: Mending) =>
    store.may('manage') ? `in ${count(word.ownerCount, 'place')}` : 'wherever pages say it'
  const keep = (some: readonly SiteWord[]) => {
    const kept = [...new Set(some.map(({ word }) => word))]
    store.change({ kind: 'keepWords', words: kept })
    setChosen(new Set())
    setDone(
      kept.length === 1
        ? `“${kept[0]}” is right in this site.`
        : `${count(kept.length, 'word')} are right in this site.`,
      1,
    )
  }
  async function put(mending: Mending, shown: boolean) {
    setDone(null)
    if (await mend(mending, shown)) setDone(`${wordsOf(mending, whereOf(mending))}. Undo takes it back.`)
  }
  return (
    <div className="grid h-full min-h-0 grid-cols-[minmax(0,1fr)] grid-rows-[auto_minmax(0,1fr)_auto_auto]">
      <div className="px-7 pt-4 pb-3">
        <h2 className="sr-only">Spelling</h2>
        {spelling && <p className="max-w-prose font-serif text-[18px]">{summaryOf(spelling, words)}</p>}
        <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
          {problem !== null && (
            <span role="alert" className="text-rubric">
              {problem}
            </span>
          )}
          {tellsWork && (
            <LongWorkBar
              work={work}
              words="Look at the spelling"
              thing="text"
              onStart={start}
              onCancel={cancel}
            />
          )}
          <span role="status" className="font-semibold">
            {putting.isPutting ? 'Putting it right…' : done}
          </span>
          {putting.isPutting && (
            <button type="button" className="link text-sm" onClick={putting.cancel}>
              Cancel
            </button>
          )}
        </div>
      </div>
      {words.length > 0 ? (
        <LongList
          label="Words that no dictionary has"
          count={words.length}
          rowHeight={isNarrow ? 124 : 64}
          className="min-h-0 border-t border-rule px-7"
        >
          {(index) => {
            const word = words[index]!
            const key = keyOf(word)
            return (
              <WordRow
                key={key}
                word={word}
                known={near.current}
                isChosen={chosen.has(key)}
                tellsLanguage={languages.size > 1}
                may={may}
                onChoose={(is) => {
                  const next = new Set(chosen)
                  if (is) next.add(key)
                  else next.delete(key)
                  setChosen(next)
                }}
                onKeep={() => keep([word])}
                onMend={(by) => void put({ word, by }, false)}
              />
            )
          }}
        </LongList>
      ) : (
        <span />
      )}
      {asks !== null ? (
        <Question
          name="Put a word right"
          inset="px-7"
          ripple={asks.ripple}
          answers={[
            { words: 'Put it right', look: 'go', onChoose: () => void put(asks.what, true) },
            { words: 'Leave it', onChoose: putting.leave },
          ]}
        >
          {wordsOf(asks.what, whereOf(asks.what))}: {rippleWords(asks.ripple)}; menus follow.
        </Question>
      ) : may && words.length > 0 ? (
        <div className="flex flex-wrap items-baseline gap-x-5 gap-y-2 border-t border-rule bg-vellum px-7 py-3">
          <Button disabled={taken.length === 0} onClick={() => keep(taken)}>
            {taken.length === 0
              ? 'These are right'
              : `${count(taken.length, 'word')} ${taken.length === 1 ? 'is' : 'are'} right`}
          </Button>
          <button
            type="button"
            className="link text-sm"
            onClick={() => setChosen(taken.length === words.length ? new Set() : new Set(words.map(keyOf)))}
          >
            {taken.length === words.length
              ? 'Choose none'
              : words.length === 1
                ? 'Choose it'
                : `Choose all ${number(words.length)}`}
          </button>
          <span className="text-sm text-quiet">
            Names and trade words: choose them, and they are not told again.
          </span>
        </div>
      ) : (
        <span />
      )}
      <OwnWords />
    </div>
  )
}

const wordsOf = ({ word, by }: Mending, where: string) => `“${word.word}” is “${by}” now, ${where}`

function summaryOf(
  { wordCount, without, tooHeavy, words: told }: SiteSpelling,
  words: readonly SiteWord[],
): string {
  const left = wordCount - (told.length - words.length)
  const twice = words.filter(({ word }) => word.includes(' ')).length
  const unknown = left - twice
  const small = words.filter(({ word }) => !/^\p{Lu}/u.test(word)).length - twice
  const sentences = []
  if (unknown > 0)
    sentences.push(
      `${count(unknown, 'word')} ${unknown === 1 ? 'stands' : 'stand'} in no dictionary${small > 0 && small < unknown ? `, ${number(small)} of them in small letters, which are seldom names` : ''}.`,
    )
  else sentences.push('Every word stands in a dictionary, or is one of this site’s own.')
  if (twice > 0) sentences.push(`${count(twice, 'word')} ${twice === 1 ? 'stands' : 'stand'} twice in a row.`)
  if (left > words.length) sentences.push(`The first ${number(words.length)} are shown.`)
  for (const { language, ownerCount } of without.slice(0, 3))
    sentences.push(
      language === ''
        ? `Of ${count(ownerCount, 'place')} the language is not told.`
        : `There is no dictionary of ${languageName(language)} here, for ${count(ownerCount, 'place')}.`,
    )
  if (tooHeavy.length > 0)
    sentences.push(
      `${count(tooHeavy.length, 'text')} ${tooHeavy.length === 1 ? 'is' : 'are'} too much to be looked at.`,
    )
  return sentences.join(' ')
}
