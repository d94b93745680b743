import { type ComponentProps, memo } from 'react'
import { likeness, type PlanDifferences } from '#core/plan'
import type { RippleView } from '#server/sites'
import { useSite } from '../document/site-context'
import { Button } from '../parts/button'
import { count, number } from '../parts/format'
import { LongList } from '../parts/long-list'
import { Pick } from '../parts/picks/pick'
import { RippleDetails } from '../parts/ripple-details'
import { rippleWords } from '../parts/ripple-words'

interface Props {
  readonly differences: PlanDifferences
  /** Whether it is the plan as typed now that was understood; a long one takes a moment. */
  readonly isRead: boolean
  /** What becomes of files and links, once the server has told. */
  readonly ripple: RippleView | null
  readonly notes: readonly string[]
  readonly home: { readonly from: string; readonly to: string }
  /** Settles what a line stands for: a page, or null for a new one. */
  readonly onFix: (line: number, pageId: string | null) => void
  readonly onApply: () => void
  readonly onLeave: () => void
}

/** How an edited plan was understood, with a way to say that it was not. */
export function PlanRipple({ differences, isRead, ripple, notes, home, onFix, onApply, onLeave }: Props) {
  const { renamed, moved, reordered, added, removed, marked } = differences
  const homeRenamed = home.from !== home.to
  const parts = [
    renamed.length + (homeRenamed ? 1 : 0) > 0 &&
      `${count(renamed.length + (homeRenamed ? 1 : 0), 'page')} renamed`,
    moved.length > 0 && `${number(moved.length)} moved`,
    reordered.length > 0 && `${number(reordered.length)} in another order`,
    added.length > 0 && `${number(added.length)} added`,
    removed.length > 0 && `${number(removed.length)} removed`,
    marked.length > 0 && `${number(marked.length)} with other marks`,
  ].filter(Boolean)
  return (
    <div className="flex min-h-0 flex-col border-t border-rule bg-vellum px-7 py-3">
      <p className="mb-1">
        <b className="font-semibold">Ripple.</b>{' '}
        {parts.length > 0 ? `${parts.join(', ')}.` : 'Nothing changes.'}{' '}
        {ripple && parts.length > 0 && `In files, ${rippleWords(ripple)}.`}
      </p>
      {/* What is long scrolls here, so that the text keeps its place above and the buttons theirs below. */}
      <div className="min-h-16 overflow-auto" tabIndex={0} role="group" aria-label="What this plan changes">
        {ripple && <RippleDetails ripple={ripple} />}
        {notes.map((note) => (
          <p key={note} className="text-sm text-ochre">
            {note}
          </p>
        ))}
        <Understood differences={differences} home={home} onFix={onFix} />
      </div>
      <div className="flex gap-3">
        <Button look="go" disabled={parts.length === 0 || !isRead} onClick={onApply}>
          Use this plan
        </Button>
        <Button onClick={onLeave}>Keep the plan as it is</Button>
      </div>
    </div>
  )
}

type Shown = { readonly [Name in 'differences' | 'home' | 'onFix']: Props[Name] }

/** One difference as a line of the list. */
interface Told {
  readonly word: string
  readonly says: string
  /** What its line was taken for and can be taken for instead; null where nothing else is possible. */
  readonly pick?: Omit<ComponentProps<typeof Pick<string>>, 'label'> & { readonly what: string }
  readonly isLost?: boolean
}

/** What becomes of each page; made anew only when the plan was understood anew, not with each key. */
const Understood = memo(function Understood({
  differences: { renamed, moved, reordered, added, removed, marked },
  home,
  onFix,
}: Shown) {
  const { tree } = useSite()
  const label = (id: string) => tree.byId.get(id)?.label ?? ''
  const renamedLines = new Set(renamed.map(({ line }) => line))
  /** The pages a line may stand for after all, the likest first. */
  const likest = (text: string) =>
    removed
      .map((id) => ({ id, score: likeness(label(id), text) }))
      .sort((a, b) => b.score - a.score)
      .map(({ id }) => id)
  const known = (line: number, what: string, words: string, hint: string) => ({
    what,
    value: 'page',
    options: [
      { value: 'page', words },
      { value: 'new', words: 'is a new page', hint },
    ],
    onPick: (value: string) => value === 'new' && onFix(line, null),
  })
  // Each is made only when it is drawn: there may be as many as the plan has lines.
  const lists: readonly (readonly [number, (index: number) => Told])[] = [
    [
      home.from === home.to ? 0 : 1,
      () => ({ word: 'renamed', says: `“${home.from}” → “${home.to}”, the home page` }),
    ],
    [
      renamed.length,
      (index) => {
        const { line, from, to } = renamed[index]!
        const pick = known(line, to, `was “${from}”`, `“${from}” is then removed`)
        return { word: 'renamed', says: `“${to}”`, pick }
      },
    ],
    [
      moved.length,
      (index) => {
        const { line, pageId, from, to } = moved[index]!
        const says = `“${label(pageId)}” ${to === null ? 'to the top level' : `under “${to}”`}`
        if (renamedLines.has(line)) return { word: 'moved', says }
        const whence = from === null ? 'from the top level' : `from “${from}”`
        const pick = known(line, label(pageId), whence, 'The one there was is then removed')
        return { word: 'moved', says, pick }
      },
    ],
    [
      added.length,
      (index) => {
        const { line, label: text } = added[index]!
        if (removed.length === 0) return { word: 'added', says: `“${text}”` }
        const pick = {
          what: text,
          value: 'new',
          options: [{ value: 'new', words: 'is a new page' }],
          more: () => likest(text).map((id) => ({ value: id, words: `was “${label(id)}”` })),
          onPick: (value: string) => value !== 'new' && onFix(line, value),
        }
        return { word: 'added', says: `“${text}”`, pick }
      },
    ],
    [
      removed.length,
      (index) => ({ word: 'removed', says: `“${label(removed[index]!)}”, with its text`, isLost: true }),
    ],
    [
      reordered.length,
      (index) => ({ word: 'moved', says: `“${label(reordered[index]!)}” among its neighbours` }),
    ],
    [
      marked.length,
      (index) => ({ word: 'marked', says: `“${label(marked[index]!)}” has other marks than before` }),
    ],
  ]
  const toldAt = (index: number): Told => {
    for (const [length, told] of lists) {
      if (index < length) return told(index)
      index -= length
    }
    throw new RangeError('No such difference')
  }
  return (
    <LongList
      label="How the plan was understood"
      count={lists.reduce((sum, [length]) => sum + length, 0)}
      rowHeight={34}
      className="my-2 max-h-[170px] text-sm"
    >
      {(index) => {
        const { word, says, pick, isLost } = toldAt(index)
        return (
          <span className={`flex gap-1 ${isLost ? 'text-rubric' : ''}`}>
            <span className="w-20 shrink-0 text-quiet">{word}</span>{' '}
            <span className="truncate" title={says}>
              {says}
            </span>{' '}
            {pick && (
              <span className="text-[18px]">
                <Pick {...pick} label={`What ${pick.what} is`} />
              </span>
            )}
          </span>
        )
      }}
    </LongList>
  )
})
