import { EditorView, gutter, GutterMarker } from '@codemirror/view'

/** A word beside one line of an editor; lines count from 1. */
export interface LineMark {
  readonly line: number
  readonly word: string
  /** Whether the line is why the text cannot be used. */
  readonly wrong?: boolean
}

class Word extends GutterMarker {
  constructor(private readonly mark: Omit<LineMark, 'line'>) {
    super()
    this.elementClass = mark.wrong ? 'cm-wrong' : ''
  }
  override eq(other: Word) {
    return other.mark.word === this.mark.word && other.mark.wrong === this.mark.wrong
  }
  override toDOM() {
    return document.createTextNode(this.mark.word)
  }
}

const look = EditorView.theme({
  '.cm-gutters-before': { paddingLeft: '18px' },
  '.cm-gutters-after': { paddingRight: '10px' },
  '.cm-lineWords': { minWidth: '7.5em', fontFamily: 'var(--sans)', fontSize: '13px', color: 'var(--lapis)' },
  '.cm-lineWords .cm-wrong': { color: 'var(--rubric)' },
})

/** A column on the right that holds words for lines. */
export function lineMarks(marks: readonly LineMark[]) {
  const byLine = new Map(marks.map((mark) => [mark.line, new Word(mark)]))
  return [
    look,
    gutter({
      class: 'cm-lineWords',
      side: 'after',
      lineMarker: (view, { from }) => byLine.get(view.state.doc.lineAt(from).number) ?? null,
    }),
  ]
}
