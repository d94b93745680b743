import { Suspense, useSyncExternalStore } from 'react'
import type { EditorProps } from './code-editor'
import { lazily } from '../fetched'

const fetched = () => import('./code-editor').then((module) => ({ default: module.CodeEditor }))
const Editor = lazily(fetched)

/** Fetches the editor ahead: for views that are sure to show it. */
export function fetchEditor(): void {
  if (typeof document !== 'undefined') void fetched().catch(() => {})
}

const never = () => () => {}

/**
 * The editor of source text. It is larger than all the rest together, so a view is there before it; until
 * then its text stands where it will be.
 */
export function CodeEditor(props: EditorProps) {
  // The server draws no editor, and what is drawn first is the same as what it sent.
  const isHere = useSyncExternalStore(
    never,
    () => true,
    () => false,
  )
  const meanwhile = (
    <pre
      aria-busy="true"
      className="h-full overflow-hidden py-2 pl-[34px] font-mono text-[13.5px] leading-[1.6] wrap-anywhere whitespace-pre-wrap"
    >
      {props.value.slice(0, shown)}
    </pre>
  )
  return isHere ? (
    <Suspense fallback={meanwhile}>
      <Editor {...props} />
    </Suspense>
  ) : (
    meanwhile
  )
}

/** Letters of a text that are shown before its editor is there: more than a window holds. */
const shown = 5_000
