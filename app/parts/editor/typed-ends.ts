import { endedBy } from '#core/markup'
import { htmlLanguage } from '@codemirror/lang-html'
import { syntaxTree } from '@codemirror/language'
import { type EditorState, Prec, StateEffect, StateField, type Transaction } from '@codemirror/state'
import { EditorView } from '@codemirror/view'
import { keepsSpace } from './words-in-html'

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

/** The end tag or bracket that a change put in right behind the cursor; null where it did something else. */
function putIn(transaction: Transaction): Range | null {
  if (!transaction.isUserEvent('input')) return null
  const { head } = transaction.newSelection.main
  let end: Range | null = null
  transaction.changes.iterChanges((_from, _to, from, to, inserted) => {
    if (inserted.length > longestTag) return
    const text = inserted.toString()
    const isTag = from === head && /^<\/[^\s<>]+>$/.test(text)
    if (isTag || (from === head - 1 && /^(?:\{\}|\(\)|\[\])$/.test(text))) end = { from: head, to }
  })
  return end
}

/** Where one stands after a change; none where it was changed itself. */
function moved({ from, to }: Range, { changes }: Transaction): Range[] {
  const now = { from: changes.mapPos(from, 1), to: changes.mapPos(to, -1) }
  const isWhole = to - from < '</>'.length || !changes.touchesRange(from + 1, to - 1)
  return isWhole && now.to - now.from === to - from ? [now] : []
}

/** End tags and brackets that were put in with what they end, and that nobody has typed; in order of their places. */
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

/** What waits from a place on, with nothing but white space and one another between. */
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

/** An end tag that stands in front of a place but for its last bracket. */
const writtenAt = (state: EditorState, place: number): string | undefined =>
  /<\/[^\s<>/]+$/.exec(state.sliceDoc(Math.max(0, place - longestTag), place))?.[0]

/**
 * Where the end that is being typed waits: what was typed of it goes, and the cursor stands behind the one that waited.
 * @param written what was typed of it
 * @param last its last letter
 * @returns false where none waits
 */
function typeOver(view: EditorView, place: number, written: string, last: string): boolean {
  const { state } = view
  const those = ahead(state, place)
  const tag = those.find(({ from, to }) => state.sliceDoc(from, to) === written + last)
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

/** Indents a line that has nothing but an end tag as that of its start tag is. */
function standRight(view: EditorView): void {
  const { state } = view
  const { doc } = state
  const line = doc.lineAt(state.selection.main.head)
  const lead = /^[ \t]*(?=<\/[^\s<>]+>$)/.exec(line.text)?.[0]
  if (lead === undefined || keepsSpace(state, line.to - 1)) return
  const tag = syntaxTree(state).resolveInner(line.to - 1, -1).parent
  const element = tag?.name === 'CloseTag' ? tag.parent : null
  if (!element || element.from >= line.from) return
  const insert = /^[ \t]*/.exec(doc.lineAt(element.from).text)![0]
  if (insert !== lead)
    view.dispatch({
      changes: { from: line.from, to: line.from + lead.length, insert },
      userEvent: 'input.type',
    })
}

/**
 * What waits for an element that a start tag ends goes when that is typed: its author leaves out end tags that may be left
 * out, and one that comes late ends nothing.
 */
function endBefore(view: EditorView, place: number): void {
  const { state } = view
  const written = state.sliceDoc(Math.max(0, place - mostBlanks), place)
  const name = /<([a-z][a-z0-9-]*)(?:\s[^<>]*)?$/i.exec(written)?.[1]?.toLowerCase()
  if (name === undefined) return
  const ended = endedBy(name)
  let to = place
  for (const tag of ahead(state, place)) {
    const waits = state.sliceDoc(tag.from + '</'.length, tag.to - 1).toLowerCase()
    // One of its own name ends the new one instead.
    if (waits === name || !ended.includes(waits)) break
    to = tag.to
  }
  if (to > place) view.dispatch({ changes: { from: place, to }, userEvent: 'input.type' })
}

/**
 * End tags and closing brackets typed by who types them all. One that was put in with what it ends makes way for the same one
 * typed in front of it, instead of standing there twice, also where it waits on a line below; and an end tag that is begun is
 * not ended for its author, who would go on and type the rest.
 */
export const typedEnds = [
  waiting,
  Prec.high(
    EditorView.inputHandler.of((view, from, to, text, insert) => {
      const { state } = view
      const isOne = state.selection.ranges.length === 1 && from === to
      if (view.composing || state.readOnly || !isOne) return false
      if (/^[})\]]$/.test(text)) return typeOver(view, from, '', text)
      if (text === '>') {
        const written = writtenAt(state, from)
        if (written === undefined) {
          endBefore(view, from)
          return false
        }
        if (!typeOver(view, from, written, text)) view.dispatch(insert())
        standRight(view)
        return true
      }
      if (text !== '/' || state.sliceDoc(from - 1, from) !== '<') return false
      if (!htmlLanguage.isActiveAt(state, from, -1)) return false
      view.dispatch(insert())
      return true
    }),
  ),
]
