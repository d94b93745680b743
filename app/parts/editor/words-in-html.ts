import { htmlLanguage } from '@codemirror/lang-html'
import { indentService, syntaxTree } from '@codemirror/language'
import { countColumn, EditorState, Prec } from '@codemirror/state'

/** Elements whose white space is shown as it is written (HTML §15.3.1). */
const asWritten = new Set(['pre', 'textarea'])

/** Whether a place stands in text that is shown as it is written. */
export function keepsSpace(state: EditorState, place: number): boolean {
  for (let node = syntaxTree(state).resolveInner(place, -1); node.parent; node = node.parent) {
    const name = node.name === 'Element' ? node.firstChild?.getChild('TagName') : null
    if (name && asWritten.has(state.sliceDoc(name.from, name.to).toLowerCase())) return true
  }
  return false
}

/** In such text a line begins as the one before it does, and the first of it at its edge. */
const indentedAsWritten = indentService.of(({ state }, place) => {
  if (!keepsSpace(state, place)) return undefined
  const before = state.doc.lineAt(place)
  if (/<(?:pre|textarea)\b/i.test(before.text)) return 0
  return countColumn(/^[ \t]*/.exec(before.text)![0], state.tabSize)
})

/** Whether a place stands among words: in no tag, and in no script or style sheet. */
function isAmongWords(state: EditorState, place: number, side: -1 | 0 | 1): boolean {
  if (!htmlLanguage.isActiveAt(state, place, side)) return false
  const node = syntaxTree(state).resolveInner(place, side)
  if (/EndTag$/.test(node.name)) return true
  for (let at: typeof node | null = node; at; at = at.parent) if (/Tag$/.test(at.name)) return false
  return true
}

const noBrackets = [{ closeBrackets: { brackets: [] } }]
/** Words are no code: a quote or a bracket among them may stand alone. In tags quotes come in pairs. */
const plainWords = Prec.highest(
  EditorState.languageData.of((state, place, side) => (isAmongWords(state, place, side) ? noBrackets : [])),
)

/** What is typed between tags is words, and no code that an editor may complete or set in. */
export const wordsInHtml = [indentedAsWritten, plainWords]
