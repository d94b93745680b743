import { EditorView } from '@codemirror/view'
import { type Fitting, putInto } from './put-into'

/** What comes from a clipboard, to be made HTML of. */
export interface Pasting {
  /** What HTML of another program becomes in the text that it comes into. */
  readonly html: (html: string, into: string) => Promise<Fitting>
  /** Told of text that was pasted as it is, of where it stands, and of the whole text around it. */
  readonly text: (pasted: { readonly from: number; readonly text: string; readonly into: string }) => void
}

/** HTML that says more than how its text looks. */
const saysMore = /<(p|h[1-6]|ul|ol|table|a|b|strong|i|em|img|blockquote)[\s>]/i
const isSource = /<\/?[a-z][a-z0-9-]*(\s[^<>]*)?>/i

/** What is pasted from a word processor or a web page becomes clean HTML; source stays source. */
export const pastingInto = ({ html, text }: Pasting) =>
  EditorView.domEventHandlers({
    paste(event, view) {
      const data = event.clipboardData
      if (!data) return false
      const written = data.getData('text/html')
      const plain = data.getData('text/plain')
      const { from, to } = view.state.selection.main
      // Editors of source put colours beside their text, and say who they are.
      const isFromEditor = [...data.types].some((type) => /editor/.test(type))
      if (written === '' || isFromEditor || isSource.test(plain) || !saysMore.test(written)) {
        if (plain !== '' && data.files.length === 0)
          queueMicrotask(() => text({ from, text: plain, into: view.state.doc.toString() }))
        return false
      }
      event.preventDefault()
      void html(written, view.state.doc.toString()).then((fit) =>
        putInto(view, { start: from, end: to }, fit, 'input.paste'),
      )
      return true
    },
  })
