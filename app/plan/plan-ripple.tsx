import { memo } from 'react'
import { likeness, type PlanDifferences } from '#core/plan'
import type { RippleView } from '#server/ripple-view'
import { useSite } from '../document/site-context'
import { Button } from '../parts/button'
import { count, number } from '../parts/format'
import { Pick } from '../parts/pick'
import { RippleDetails } from '../parts/ripple-details'
import { rippleWords } from '../parts/ripple-words'

/** Lines of each kind that are listed; of more, the rest is counted. */
const listedAtMost = 60

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
    marked.length > 0 && `${number(marked.length)} marked otherwise`,
  ].filter(Boolean)
  return (
    <div className="border-t border-rule bg-vellum px-7 py-3">
      <p className="mb-1">
        <b className="font-semibold">Ripple.</b>{' '}
        {parts.length > 0 ? `${parts.join(', ')}.` : 'Nothing changes.'}{' '}
        {ripple && parts.length > 0 && `In files, ${rippleWords(ripple)}.`}
      </p>
      {ripple && <RippleDetails ripple={ripple} />}
      {notes.map((note) => (
        <p key={note} className="text-sm text-ochre">
          {note}
        </p>
      ))}
      <Understood differences={differences} home={home} onFix={onFix} />
      <div className="flex gap-3">
        <Button look="go" disabled={parts.length === 0 || !isRead} onClick={onApply}>
          Use this plan
        </Button>
        <Button onClick={onLeave}>Keep the plan as it is</Button>
      </div>
    </div>
  )
}

/** What becomes of each page; made anew only when the plan was understood anew, not with each key. */
const Understood = memo(function Understood({
  differences: { renamed, moved, added, removed },
  home,
  onFix,
}: Pick<Props, 'differences' | 'home' | 'onFix'>) {
  const { tree } = useSite()
  const label = (id: string) => tree.byId.get(id)?.label ?? ''
  const renamedLines = new Set(renamed.map(({ line }) => line))
  /** The pages a line may stand for after all, the likest first. */
  const likest = (text: string) =>
    removed
      .map((id) => ({ id, score: likeness(label(id), text) }))
      .sort((a, b) => b.score - a.score)
      .map(({ id }) => id)
  const word = 'w-20 shrink-0 text-quiet'
  return (
    <ul
      className="my-2 max-h-40 overflow-auto text-sm leading-7"
      tabIndex={0}
      aria-label="How the plan was understood"
    >
      {home.from !== home.to && (
        <li className="flex gap-1">
          <span className={word}>renamed</span>“{home.from}” → “{home.to}”, the home page
        </li>
      )}
      {renamed.slice(0, listedAtMost).map(({ line, from, to }) => (
        <li key={`r${line}`} className="flex gap-1">
          <span className={word}>renamed</span>
          <span>
            “{to}”{' '}
            <span className="text-[18px]">
              <Pick
                label={`What ${to} is`}
                value="page"
                options={[
                  { value: 'page', words: `was “${from}”` },
                  { value: 'new', words: 'is a new page', hint: `“${from}” is then removed` },
                ]}
                onPick={(value) => value === 'new' && onFix(line, null)}
              />
            </span>
          </span>
        </li>
      ))}
      {moved.slice(0, listedAtMost).map(({ line, pageId, from, to }) => (
        <li key={`m${line}`} className="flex gap-1">
          <span className={word}>moved</span>
          <span>
            “{label(pageId)}” {to === null ? 'to the top level' : `under “${to}”`}{' '}
            {!renamedLines.has(line) && (
              <span className="text-[18px]">
                <Pick
                  label={`What ${label(pageId)} is`}
                  value="page"
                  options={[
                    { value: 'page', words: from === null ? 'from the top level' : `from “${from}”` },
                    { value: 'new', words: 'is a new page', hint: 'The one there was is then removed' },
                  ]}
                  onPick={(value) => value === 'new' && onFix(line, null)}
                />
              </span>
            )}
          </span>
        </li>
      ))}
      {added.slice(0, listedAtMost).map(({ line, label: text }) => (
        <li key={`a${line}`} className="flex gap-1">
          <span className={word}>added</span>
          <span>
            “{text}”{' '}
            {removed.length > 0 && (
              <span className="text-[18px]">
                <Pick
                  label={`What ${text} is`}
                  value="new"
                  options={[{ value: 'new', words: 'is a new page' }]}
                  more={() => likest(text).map((id) => ({ value: id, words: `was “${label(id)}”` }))}
                  onPick={(value) => value !== 'new' && onFix(line, value)}
                />
              </span>
            )}
          </span>
        </li>
      ))}
      {removed.slice(0, listedAtMost).map((id) => (
        <li key={`x${id}`} className="flex gap-1 text-rubric">
          <span className={word}>removed</span>“{label(id)}”, with its text
        </li>
      ))}
      {[renamed, moved, added, removed].some((list) => list.length > listedAtMost) && (
        <li className="text-quiet">and more of the same</li>
      )}
    </ul>
  )
})
