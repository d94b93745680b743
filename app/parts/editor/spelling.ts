import { syntaxTree } from '@codemirror/language'
import { type Extension, Prec, type Range } from '@codemirror/state'
import { Decoration, type DecorationSet, EditorView, ViewPlugin, type ViewUpdate } from '@codemirror/view'

const unchecked = Decoration.mark({ attributes: { spellcheck: 'false' } })
const inLanguage = (lang: string) => Decoration.mark({ attributes: { lang } })

/** Attributes that are read or heard: their values are words. */
const said = /^(?:alt|title|placeholder|label|summary|aria-label|aria-description)$/i
/** What is no words by what it is, by the names of the syntax tree. */
const noWords = new Set([
  'TagName',
  'MismatchedCloseTag',
  'Comment',
  'DoctypeDecl',
  'ProcessingInst',
  'EntityReference',
  'CharacterReference',
  'ScriptText',
  'StyleText',
  'Script',
  'StyleSheet',
])
/** Elements whose text is no language that people speak (HTML §4.5.15 to 4.5.19). */
const codes = /^<(?:code|kbd|samp|var)\b/i

/** Marks what is in view and no words, and words that say which language they are in. */
function marksOf({ state, visibleRanges }: EditorView): DecorationSet {
  const marks: Range<Decoration>[] = []
  const mark = (from: number, to: number, as = unchecked) =>
    void (from < to && marks.push(as.range(from, to)))
  for (const { from, to } of visibleRanges)
    syntaxTree(state).iterate({
      from,
      to,
      enter({ name, from: start, to: end, node }) {
        if (noWords.has(name)) {
          mark(start, end)
          return false
        }
        if (name === 'Attribute') {
          const attribute = state.sliceDoc(start, node.firstChild?.to ?? end)
          mark(start, said.test(attribute) ? start + attribute.length : end)
          return false
        }
        if (name !== 'Element') return
        const tag = node.firstChild
        const opening = tag ? state.sliceDoc(tag.from, Math.min(tag.to, tag.from + 300)) : ''
        if (codes.test(opening)) {
          mark(start, end)
          return false
        }
        const [, language] = /\slang\s*=\s*["']?([\w-]+)/i.exec(opening) ?? []
        if (language) mark(start, end, inLanguage(language))
        return
      },
    })
  return Decoration.set(marks, true)
}

/** Keeps tags and whatever else is no words from the browser's own spelling. */
const wordsAlone = ViewPlugin.fromClass(
  class {
    marks: DecorationSet
    constructor(view: EditorView) {
      this.marks = marksOf(view)
    }
    update(update: ViewUpdate) {
      const isParsed = syntaxTree(update.startState) !== syntaxTree(update.state)
      if (update.docChanged || update.viewportChanged || isParsed) this.marks = marksOf(update.view)
    }
  },
  { decorations: ({ marks }) => marks },
)

/**
 * Has the browser look at the spelling of what is written, in a language where it knows that: of HTML its words alone.
 * @param language BCP 47 tag
 */
export const spelling = (language: string): Extension => [
  EditorView.contentAttributes.of({ spellcheck: 'true', lang: language }),
  // Within all other marks: none of those is parted by it.
  Prec.highest(wordsAlone),
]
