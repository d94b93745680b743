import type { Tree } from '#core/plan'
import { branchOf } from '#core/plan'
import type { ChangeRequest } from '#server/sites'
import type { AskedChange } from '../document/site-store'
import { useSelection, useSite } from '../document/site-context'
import { useRipple } from '../document/use-ripple'
import { count } from '../parts/format'
import { rippleWords } from '../parts/ripple-words'
import { Question } from './question'

/** A change that reaches further than its row, asked about with its ripple before it is made. */
export function AskedQuestion({ asked }: { asked: AskedChange }) {
  const { site, tree, store } = useSite()
  const { selected, select } = useSelection()
  const { change } = asked
  const told = useRipple(change)
  const ripple = told.ripple ?? asked.ripple
  const { name, what, go, leave } = wordsOf(change, tree)
  const inMenus = ['movePages', 'setHome', 'setPageFlag'].includes(change.kind) || name === 'Rename'

  function make() {
    const next = change.kind === 'removePages' ? afterRemoval(change.pageIds) : selected.id
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
        { words: go, look: change.kind === 'removePages' ? 'remove' : 'go', onChoose: make },
        { words: leave, onChoose: () => store.answer(false) },
      ]}
    >
      {what}
      {ripple === null ? '' : `: ${rippleWords(ripple)}`}
      {inMenus ? '; menus follow.' : '.'}
    </Question>
  )
}

/** What a change is, as the beginning of a sentence, and what its two answers say. */
function wordsOf(
  change: ChangeRequest,
  tree: Tree,
): { name: string; what: string; go: string; leave: string } {
  const label = (id: string) => `“${tree.byId.get(id)?.label ?? 'A page'}”`
  const several = (ids: readonly string[]) => (ids.length === 1 ? label(ids[0]!) : count(ids.length, 'page'))
  switch (change.kind) {
    case 'movePages': {
      const one = change.pageIds.length === 1
      const where = change.parentId === null ? 'to the top level' : `under ${label(change.parentId)}`
      return {
        name: 'Move',
        what: `${several(change.pageIds)} ${one ? 'goes' : 'go'} ${where}`,
        go: one ? 'Move it' : 'Move them',
        leave: one ? 'Leave it' : 'Leave them',
      }
    }
    case 'removePages': {
      const all = change.pageIds.flatMap((id) => branchOf(tree, id)).length
      const below = change.pageIds.length === 1 && all > 1 ? ` and ${count(all - 1, 'page')} below it` : ''
      const several = change.pageIds.length > 1 ? count(all, 'page') : label(change.pageIds[0]!)
      return {
        name: 'Remove',
        what: `${several}${below} ${all > 1 ? 'leave' : 'leaves'} the site and every menu`,
        go: all > 1 ? `Remove ${count(all, 'page')}` : 'Remove it',
        leave: all > 1 ? 'Keep them' : 'Keep it',
      }
    }
    case 'setPageText': {
      const { field, value, was } = change
      if (field === 'label')
        return { name: 'Rename', what: `“${was}” becomes “${value}”`, go: 'Rename it', leave: 'Leave it' }
      const what =
        field === 'date'
          ? `${label(change.pageId)} ${value === null ? 'takes its date from its label' : `is dated ${value}`}`
          : `${label(change.pageId)} ${value === null ? 'follows the scheme' : `gets the name ${value}`}`
      return { name: 'Name', what, go: 'Name it so', leave: 'Leave it' }
    }
    case 'setPageFlag': {
      const what =
        change.flag === 'dated'
          ? `The pages of ${several(change.pageIds)} ${change.value ? 'carry' : 'no longer carry'} dates`
          : change.value
            ? `${several(change.pageIds)} leaves the site to be a trial page`
            : `${several(change.pageIds)} becomes part of the site`
      return { name: 'Change', what, go: 'Do so', leave: 'Leave it' }
    }
    case 'setHome':
      return {
        name: 'Home page',
        what: `${label(change.pageId)} becomes the home page`,
        go: 'Make it so',
        leave: 'Leave it',
      }
    case 'releaseNames':
      return {
        name: 'Name',
        what: `${several(change.pageIds)} takes the name the scheme makes of it`,
        go: 'Name it so',
        leave: 'Leave it',
      }
    case 'addPages':
    case 'duplicatePages':
      return { name: 'Add', what: 'More pages join the plan', go: 'Add them', leave: 'Leave them out' }
    case 'replacePlan':
      return {
        name: 'Plan',
        what: 'The plan becomes another',
        go: 'Use this plan',
        leave: 'Keep the plan as it is',
      }
    case 'setScheme':
      return {
        name: 'Scheme',
        what: 'The scheme names pages afresh',
        go: 'Use this scheme',
        leave: 'Keep the old one',
      }
    default:
      return { name: 'Change', what: 'This change goes further', go: 'Make it', leave: 'Leave it' }
  }
}
