import { indentUnit } from '@codemirror/language'
import { EditorState, StateField } from '@codemirror/state'
import { indentUnit as unitOf } from '#core/markup'

/** Letters that tell how a text is indented. */
const looksAt = 20_000

const unit = StateField.define<string>({
  create: ({ doc }) => unitOf(doc.sliceString(0, looksAt), []),
  update: (was, { docChanged, newDoc }) => (docChanged ? unitOf(newDoc.sliceString(0, looksAt), []) : was),
  provide: (field) => indentUnit.from(field),
})

/** A level further in is as wide as the text has it: by a tab, or by as many spaces. */
export const indentedAsText = [unit]

/** A plan's labels are no code, and a tab of theirs goes as far as it is read to go. */
export const planTyped = [
  EditorState.tabSize.of(8),
  EditorState.languageData.of(() => [{ closeBrackets: { brackets: [] } }]),
]
