import { htmlLanguage } from '@codemirror/lang-html'
import { type EditorState, Prec, StateEffect, StateField, type Transaction } from '@codemirror/state'
import { EditorView } from '@codemirror/view'

interface Range {
  readonly from: number
  readonly to: number
}

/** Who leaves more of them behind will not come back to type them. */
const mostTags = 200
/** How far a text is searched for what stands next. */
const mostBlanks = 1000
/** Letters of the longest tag that is looked for. */
const longestTag = 100

const isTyped = StateEffect.define<Range>()

/** The end tag that a change put in right behind the cursor; null where it did something else. */
function putIn(transaction: Transaction): Range | null {
  if (!transaction.isUserEvent('input.complete')) return null
  const { head } = transaction.newSelection.main
  let tag: Range | null = null
  transaction.changes.iterChanges((_from, _to, from, to, inserted) => {
    if (from === head && /^<\/[^\s<>]+>$/.test(inserted.toString())) tag = { from, to }
  })
  return tag
}

/** Where a tag stands after a change; none where it was changed itself. */
function moved({ from, to }: Range, { changes }: Transaction): Range[] {
  const now = { from: changes.mapPos(from, 1), to: changes.mapPos(to, -1) }
  return now.to - now.from === to - from && !changes.touchesRange(from + 1, to - 1) ? [now] : []
}

/** End tags that were put in for start tags, and that nobody has typed; in order of their places. */
const waiting = StateField.define<readonly Range[]>({
  create: () => [],
  update(tags, transaction) {
    let now = transaction.docChanged ? tags.flatMap((tag) => moved(tag, transaction)) : tags
    const added = putIn(transaction)
    if (added) now = [...now, added].sort((a, b) => a.from - b.from).slice(-mostTags)
    for (const effect of transaction.effects)
      if (effect.is(isTyped)) now = now.filter(({ from }) => from !== effect.value.from)
    return now
  },
})

/** Waiting end tags from a place on, with nothing but white space and one another between. */
function ahead(state: EditorState, place: number): Range[] {
  const found: Range[] = []
  let at = place
  for (const tag of state.field(waiting)) {
    if (tag.from < at) continue
    if (tag.from - at > mostBlanks || /\S/.test(state.sliceDoc(at, tag.from))) break
    found.push(tag)
    at = tag.to
  }
  return found
}

/**
 * Where an end tag has been typed but for its last bracket, and the same one waits: what was typed goes, and the cursor stands
 * behind the one that waited.
 * @returns false where none waits
 */
function typeOver(view: EditorView, place: number): boolean {
  const { state } = view
  const written = /<\/[^\s<>/]+$/.exec(state.sliceDoc(Math.max(0, place - longestTag), place))?.[0]
  if (written === undefined) return false
  const those = ahead(state, place)
  const tag = those.find(({ from, to }) => state.sliceDoc(from, to) === `${written}>`)
  if (!tag) return false
  const [first] = those as [Range]
  const begin = place - written.length
  const line = state.doc.lineAt(begin)
  const isAlone = /^[ \t]*$/.test(state.sliceDoc(line.from, begin)) && first.from > line.to
  // On a line of its own it is the line that goes, so that what waits stays as it is indented.
  const [from, to] = isAlone ? [line.from, state.doc.lineAt(first.from).from] : [begin, first.from]
  const gone = to - from
  view.dispatch({
    changes: { from, to },
    selection: { anchor: tag.to - gone },
    effects: isTyped.of({ from: tag.from - gone, to: tag.to - gone }),
    userEvent: 'input.type',
    scrollIntoView: true,
  })
  return true
}

/**
 * End tags typed by who types them all. One that was put in with its start tag makes way for the same one typed in front of it,
 * instead of standing there twice; and one that is begun is not ended for its author, who would go on and type the rest.
 */
export const typedTags = [
  waiting,
  Prec.high(
    EditorView.inputHandler.of((view, from, to, text, insert) => {
      const { state } = view
      const isOne = state.selection.ranges.length === 1 && from === to
      if (view.composing || state.readOnly || !isOne) return false
      if (text === '>') return typeOver(view, from)
      if (text !== '/' || state.sliceDoc(from - 1, from) !== '<') return false
      if (!htmlLanguage.isActiveAt(state, from, -1)) return false
      view.dispatch(insert())
      return true
    }),
  ),
]
