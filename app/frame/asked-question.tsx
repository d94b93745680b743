import { questionOf, shownOf } from '#core/change'
import type { AskedChange } from '../document/site-state'
import { useSelection, useSite } from '../document/site-context'
import { useRipple } from '../document/use-ripple'
import { rippleWords } from '../parts/ripple-words'
import { Question } from './question'

/** A change that reaches further than its row, asked about with its ripple before it is made. */
export function AskedQuestion({ asked }: { asked: AskedChange }) {
  const { site, tree, store } = useSite()
  const { selected, select } = useSelection()
  const { change } = asked
  // What is written has none that could be told before it is made; the server told it with its question.
  const told = useRipple(shownOf(change) === null ? null : change)
  const ripple = told.ripple ?? asked.ripple
  // Asked after the fact, the window shows it as if it were made: the words are of what was before.
  const { name, what, go, leave, inMenus } = questionOf(change, store.confirmed)
  const removes = change.kind === 'removePages' ? change.pageIds : null

  function make() {
    const next = removes ? afterRemoval(removes) : selected.id
    store.answer(true)
    if (next !== selected.id) select(next)
  }
  /** What is chosen once these pages are gone: the next one beside them, or the one above. */
  function afterRemoval(pageIds: readonly string[]): string {
    const first = tree.byId.get(pageIds[0]!)
    const siblings = tree
      .childrenOf(first?.parentId ?? null)
      .filter((page) => !pageIds.includes(page.id) || page === first)
    const at = siblings.findIndex((page) => page === first)
    return (siblings[at + 1] ?? siblings[at - 1])?.id ?? first?.parentId ?? site.homeId
  }
  return (
    <Question
      name={name}
      ripple={ripple}
      answers={[
        { words: go, look: removes ? 'remove' : 'go', onChoose: make },
        { words: leave, onChoose: () => store.answer(false) },
      ]}
    >
      {what}
      {ripple === null ? '' : `: ${rippleWords(ripple)}`}
      {inMenus ? '; menus follow.' : '.'}
    </Question>
  )
}
