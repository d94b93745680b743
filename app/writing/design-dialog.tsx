import { useRef, useState } from 'react'
import { hasSlot, templateChoices, templateOfDesign } from '#core/template'
import type { Page } from '#core/site'
import { useSite } from '../document/site-context'
import { Button } from '../parts/button'
import type { EditorHandle } from '../parts/editor/editor-handle'
import { CodeEditor } from '../parts/editor/lazy-editor'
import { Pick } from '../parts/picks/pick'

/** Makes the design of a trial page a template: its author marks what pages fill in. */
export function DesignDialog({ page, text, onDone }: { page: Page; text: string; onDone: () => void }) {
  const { site, store } = useSite()
  const [name, setName] = useState(page.label)
  const [design, setDesign] = useState(text)
  const [goes, setGoes] = useState(true)
  const editor = useRef<EditorHandle | null>(null)
  const isTaken = site.templates.some((one) => one.name === name.trim())
  const isFilled = hasSlot(design)

  function mark() {
    const { from, to } = editor.current?.selection() ?? { from: 0, to: 0 }
    if (from < to) editor.current?.replace(from, to, '<slot name="content"></slot>')
  }
  async function make() {
    const source = templateOfDesign(design, null)
    const basedOn = /<(!doctype|html|head|body)[\s>]/i.test(design)
      ? null
      : (templateChoices(site).get(page.id) ?? site.templateId)
    const templateId = crypto.randomUUID()
    const made = store.change({ kind: 'addTemplate', templateId, name: name.trim(), text: source, basedOn })
    if (!('saved' in made) || !(await made.saved)) return
    onDone()
    if (goes) store.ask({ kind: 'removePages', pageIds: [page.id] })
  }
  return (
    <form
      className="grid min-h-0 grid-rows-[auto_16rem_auto] gap-3 overflow-auto px-7 pb-5"
      onSubmit={(event) => {
        event.preventDefault()
        if (isFilled && !isTaken && name.trim() !== '') void make()
      }}
    >
      <div>
        <label className="block text-sm text-quiet">
          The template is called
          <input
            className="field text-[15px] text-ink"
            value={name}
            maxLength={100}
            onChange={(event) => setName(event.target.value)}
          />
        </label>
        <p className="mt-3">
          Choose below what each page fills in, and{' '}
          <button type="button" className="link" onClick={mark}>
            make a slot of it
          </button>
          .
        </p>
      </div>
      <div className="min-h-0 border border-rule">
        <CodeEditor name="The design" language="html" value={design} onChange={setDesign} handle={editor} />
      </div>
      <div className="flex flex-wrap items-center gap-4">
        <Button type="submit" look="go" disabled={!isFilled || isTaken || name.trim() === ''}>
          Make the template
        </Button>
        <span className="font-serif text-[16px]">
          and the trial page{' '}
          <Pick
            label="The trial page"
            value={goes ? 'goes' : 'stays'}
            options={[
              { value: 'goes', words: 'goes' },
              { value: 'stays', words: 'stays' },
            ]}
            onPick={(what) => setGoes(what === 'goes')}
            after="."
          />
        </span>
        <span role="status" className="text-sm text-quiet">
          {isTaken
            ? 'There is a template of this name.'
            : isFilled
              ? ''
              : 'It has no slot yet: pages could not be written in.'}
        </span>
      </div>
    </form>
  )
}
