import { writeReference } from '#core/markup'
import { type Diagnostic, lintGutter, linter, lintKeymap } from '@codemirror/lint'
import { EditorView, keymap } from '@codemirror/view'
import type { TypedAs } from '#core/findings'
import type { FaultsAnswer, FaultsQuestion } from './faults.answer'
import type { SiteWords } from './site-words'
import type { ToWorker } from '../../workers/questions'

const look = EditorView.theme({
  '.cm-lintRange-warning': {
    backgroundImage: 'none',
    textDecoration: 'underline wavy var(--rubric) 1px',
    textUnderlineOffset: '4px',
  },
  '.cm-lintRange-hint': {
    backgroundImage: 'none',
    textDecoration: 'underline dotted var(--quiet) 1px',
    textUnderlineOffset: '4px',
  },
  '.cm-lint-marker-hint': { content: 'none', borderLeft: '3px dotted var(--quiet)' },
  '.cm-diagnostic-hint': { borderLeft: '3px dotted var(--quiet)' },
  '.cm-gutter-lint': { width: '14px' },
  '.cm-gutter-lint .cm-gutterElement': { padding: '0' },
  '.cm-lint-marker': { width: '12px', height: '12px', marginTop: '5px' },
  '.cm-lint-marker-warning': { content: 'none', borderLeft: '3px solid var(--rubric)' },
  '.cm-diagnostic': { fontFamily: 'var(--sans)', fontSize: '14px', padding: '6px 10px', maxWidth: '32em' },
  '.cm-diagnostic-warning': { borderLeft: '3px solid var(--rubric)' },
  '.cm-diagnosticAction': {
    display: 'block',
    margin: '2px 0 0',
    padding: '0',
    backgroundColor: 'transparent',
    color: 'var(--lapis)',
    fontSize: '14px',
    textDecoration: 'underline',
    textUnderlineOffset: '4px',
    cursor: 'pointer',
  },
  '.cm-panel.cm-panel-lint ul [aria-selected]': { backgroundColor: 'var(--lapis-wash)' },
})

/** One worker for all editors of a window: only one of them is typed in. */
let worker: Worker | null = null
let number = 0
type Told = Pick<FaultsAnswer, 'faults' | 'references'>
const nothing: Told = { faults: [], references: [] }
const waiting = new Map<number, (told: Told) => void>()

function ask(text: string, as: TypedAs): Promise<Told> {
  if (!worker) {
    worker = new Worker(new URL('../../workers/answer.worker.ts', import.meta.url), {
      type: 'module',
      name: 'faults',
    })
    worker.onmessage = ({ data }: MessageEvent<FaultsAnswer>) => {
      waiting.get(data.number)?.(data)
      waiting.delete(data.number)
    }
    // Without it a text is written as before; Checks says the same once it is saved.
    worker.onerror = () => {
      for (const done of waiting.values()) done(nothing)
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

/** Marked at once: of more, the first ones are mended first. */
const mostLost = 200

/** References that lead nowhere, each with the way to mend it where one is near. */
function lostIn({ references }: Told, text: string, lost: SiteWords['lost']): Diagnostic[] {
  const found: Diagnostic[] = []
  for (const reference of references) {
    const told = reference.ifThere ? null : lost(reference.href)
    if (!told) continue
    const { words: message, near } = told
    found.push({
      from: Math.min(reference.start, text.length),
      to: Math.min(reference.end, text.length),
      severity: 'warning',
      message,
      ...(near !== null && {
        actions: [
          {
            name: `Lead it to ${near}`,
            apply: (view: EditorView, from: number, to: number) =>
              view.dispatch({ changes: { from, to, insert: writeReference(reference, near) } }),
          },
        ],
      }),
    })
    if (found.length >= mostLost) break
  }
  return found
}

/**
 * What is wrong in a text, marked where it stands while it is typed; F8 goes from one to the next.
 * @param lost says of an address that it leads nowhere
 */
export const faultsAsTyped = (as: TypedAs, lost?: SiteWords['lost']) => [
  look,
  keymap.of(lintKeymap),
  lintGutter(),
  linter(
    async (view): Promise<Diagnostic[]> => {
      const text = view.state.doc.toString()
      if (text.length > longest) return []
      const told = await ask(text, as)
      const faults = told.faults.map(({ start, end, words, grade, mends = [] }): Diagnostic => ({
        from: Math.min(start, text.length),
        to: Math.min(end, text.length),
        severity: grade === 'detail' ? 'hint' : 'warning',
        message: words,
        actions: mends.map(({ words: name, edits }) => ({
          name,
          apply: (editor) =>
            editor.dispatch({
              changes: edits.map((edit) => ({ from: edit.start, to: edit.end, insert: edit.text })),
            }),
        })),
      }))
      return [...faults, ...(lost ? lostIn(told, text, lost) : [])]
    },
    { delay: 300 },
  ),
]
