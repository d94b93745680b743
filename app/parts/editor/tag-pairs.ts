import { syntaxTree } from '@codemirror/language'
import { EditorState, StateField, type Transaction } from '@codemirror/state'

interface Range {
  readonly from: number
  readonly to: number
}
/** The names in the start tag and the end tag of one element, the one with the cursor first. */
type Pair = readonly [here: Range, there: Range]

const holds = ({ from, to }: Range, place: number) => place >= from && place <= to

/** The pair of names that a place stands in; null where it stands in none, or the names differ. */
function pairAt(state: EditorState, place: number): Pair | null {
  for (const side of [-1, 1] as const) {
    const name = syntaxTree(state).resolveInner(place, side)
    const tag = name.parent
    if (name.name !== 'TagName' || !tag || !/^(Open|Close)Tag$/.test(tag.name)) continue
    const element = tag.parent
    const other = element?.getChild(tag.name === 'OpenTag' ? 'CloseTag' : 'OpenTag')?.getChild('TagName')
    if (!other) return null
    const here = { from: name.from, to: name.to }
    const there = { from: other.from, to: other.to }
    const same = state.sliceDoc(here.from, here.to) === state.sliceDoc(there.from, there.to)
    return same ? [here, there] : null
  }
  return null
}

const moved = ({ from, to }: Range, { changes }: Transaction): Range => ({
  from: changes.mapPos(from, -1),
  to: changes.mapPos(to, 1),
})

/**
 * The pair that is being renamed. Kept while the cursor stays in the name, since a name that has been
 * emptied is no tag to a parser any more.
 */
const pairField = StateField.define<Pair | null>({
  create: () => null,
  update(pair, transaction) {
    const { head } = transaction.state.selection.main
    const kept = pair && ([moved(pair[0], transaction), moved(pair[1], transaction)] as const)
    if (kept && holds(kept[0], head)) return kept
    // Typed elsewhere, the tree is read again when the cursor is put into a name.
    return transaction.selection || transaction.docChanged ? pairAt(transaction.state, head) : (kept ?? null)
  },
})

/** What is typed in the name of a tag is typed in the name of its other tag too; undone, both come back. */
export const tagPairs = [
  pairField,
  EditorState.transactionFilter.of((transaction) => {
    const pair = transaction.startState.field(pairField, false)
    const isTyped = transaction.isUserEvent('input') || transaction.isUserEvent('delete')
    if (!pair || !transaction.docChanged || !isTyped) return transaction
    const [here, there] = pair
    let isWithin = true
    transaction.changes.iterChanges((from, to) => {
      isWithin &&= from >= here.from && to <= here.to
    })
    if (!isWithin) return transaction
    const after = moved(here, transaction)
    const name = transaction.newDoc.sliceString(after.from, after.to)
    // A space or a bracket ends the name.
    if (!/^([a-z][a-z0-9-]*)?$/i.test(name)) return transaction
    const { from, to } = moved(there, transaction)
    return [transaction, { changes: { from, to, insert: name }, sequential: true }]
  }),
]
