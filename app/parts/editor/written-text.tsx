import type { ReactNode } from 'react'
import type { WrittenText } from '../../document/use-written-text'
import { Button } from '../button'
import type { EditorProps } from './code-editor'
import { CodeEditor } from './lazy-editor'

/** The editor of a text that saves itself, in every state it can be in. */
export function WrittenTextEditor({
  written,
  ...editor
}: {
  written: WrittenText
  language: 'html' | 'css'
} & Omit<EditorProps, 'value' | 'onChange' | 'language'>) {
  return (
    <WrittenTextFrame written={written}>
      <CodeEditor
        checkedAs={editor.language}
        {...editor}
        value={written.text}
        onChange={written.write ?? undefined}
      />
    </WrittenTextFrame>
  )
}

/** What a text that saves itself is written in, once there is one, and what is asked when another window wrote it. */
export function WrittenTextFrame({ written, children }: { written: WrittenText; children: ReactNode }) {
  const { loaded, conflict } = written
  // What is typed here is shown whether the text it was begun from can be fetched or not.
  if (loaded.kind === 'failed' && !written.isTyped)
    return (
      <div className="p-6">
        <p className="mb-3">The text could not be fetched. Nothing is lost; the server did not answer.</p>
        <Button onClick={loaded.retry}>Try again</Button>
      </div>
    )
  if (loaded.kind !== 'ready' && written.text === '' && !written.isTyped)
    return <p className="p-6 text-quiet">Fetching the text…</p>
  return (
    <div className="grid h-full min-h-0 grid-rows-[auto_1fr]">
      {conflict ? (
        <div
          role="alert"
          className="flex flex-wrap items-center gap-3 border-b border-rubric bg-rubric-wash px-4 py-2 text-sm"
        >
          <span>This text was changed in another window. Yours is kept here.</span>
          <Button className="!py-1" onClick={conflict.useMine}>
            Save mine over it
          </Button>
          <Button className="!py-1" onClick={conflict.takeTheirs}>
            Take the other
          </Button>
        </div>
      ) : (
        <span />
      )}
      {children}
    </div>
  )
}
