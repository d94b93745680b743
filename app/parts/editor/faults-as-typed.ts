import { type Diagnostic, lintGutter, linter, lintKeymap } from '@codemirror/lint'
import { EditorView, keymap } from '@codemirror/view'
import type { TypedAs, TypedFault } from '#core/findings'
import type { FaultsAnswer, FaultsQuestion } from './faults.answer'
import type { ToWorker } from '../../workers/questions'

const look = EditorView.theme({
  '.cm-lintRange-warning': {
    backgroundImage: 'none',
    textDecoration: 'underline wavy var(--rubric) 1px',
    textUnderlineOffset: '4px',
  },
  '.cm-gutter-lint': { width: '14px' },
  '.cm-gutter-lint .cm-gutterElement': { padding: '0' },
  '.cm-lint-marker': { width: '12px', height: '12px', marginTop: '5px' },
  '.cm-lint-marker-warning': { content: 'none', borderLeft: '3px solid var(--rubric)' },
  '.cm-diagnostic': { fontFamily: 'var(--sans)', fontSize: '14px', padding: '6px 10px', maxWidth: '32em' },
  '.cm-diagnostic-warning': { borderLeft: '3px solid var(--rubric)' },
  '.cm-panel.cm-panel-lint ul [aria-selected]': { backgroundColor: 'var(--lapis-wash)' },
})

/** One worker for all editors of a window: only one of them is typed in. */
let worker: Worker | null = null
let number = 0
const waiting = new Map<number, (faults: readonly TypedFault[]) => void>()

function ask(text: string, as: TypedAs): Promise<readonly TypedFault[]> {
  if (!worker) {
    worker = new Worker(new URL('../../workers/answer.worker.ts', import.meta.url), {
      type: 'module',
      name: 'faults',
    })
    worker.onmessage = ({ data }: MessageEvent<FaultsAnswer>) => {
      waiting.get(data.number)?.(data.faults)
      waiting.delete(data.number)
    }
    // Without it a text is written as before; Checks says the same once it is saved.
    worker.onerror = () => {
      for (const done of waiting.values()) done([])
      waiting.clear()
    }
  }
  const question: FaultsQuestion = { number: ++number, text, as }
  return new Promise((resolve) => {
    waiting.set(question.number, resolve)
    worker!.postMessage({ kind: 'question', question } satisfies ToWorker<unknown, FaultsQuestion>)
  })
}

/** Longer texts are checked when they are saved only. */
const longest = 1_000_000

/** What is wrong in a text, marked where it stands while it is typed; F8 goes from one to the next. */
export const faultsAsTyped = (as: TypedAs) => [
  look,
  keymap.of(lintKeymap),
  lintGutter(),
  linter(
    async (view): Promise<Diagnostic[]> => {
      const text = view.state.doc.toString()
      if (text.length > longest) return []
      const faults = await ask(text, as)
      return faults.map(({ start, end, words }) => ({
        from: Math.min(start, text.length),
        to: Math.min(end, text.length),
        severity: 'warning',
        message: words,
      }))
    },
    { delay: 300 },
  ),
]
