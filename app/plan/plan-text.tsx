import deepEqual from 'fast-deep-equal'
import { useMemo, useState } from 'react'
import { planEdit } from '#core/change'
import { isWritten, outlineOfSite, type PlanFormat, planFormats, writePlan } from '#core/plan'
import type { Site } from '#core/site'
import { useSite } from '../document/site-context'
import { useRipple } from '../document/use-ripple'
import { Button } from '../parts/button'
import { CopyButton } from '../parts/copy-button'
import { CodeEditor } from '../parts/editor/lazy-editor'
import { FileButton, saveFile, takingDropped } from '../parts/picks/files'
import type { LineMark } from '../parts/editor/line-marks'
import { count } from '../parts/format'
import { planFileTypes, readPlanFile } from '../parts/picks/plan-file'
import { PlanFormatPick, written as writtenForms } from '../parts/picks/plan-format-pick'
import { useStableActions } from '../parts/use-stable-actions'
import { PlanRipple } from './plan-ripple'
import { useUnderstoodPlan } from './use-understood-plan'

/** The server is asked what a plan touches when it has stood for so long: a large one is a large question. */
const ripplePauseMs = 400

const none: readonly LineMark[] = []

/** The plan as text in an open format: to read, to copy, to type over, to take from a file and to one. */
export function PlanText() {
  const { site: now, store } = useSite()
  /** The site as it was when the typing began: what its author saw, whatever other windows do meanwhile. */
  const [base, setBase] = useState<Site | null>(null)
  const site = base ?? now
  const [saving, setSaving] = useState(false)
  const [format, setFormat] = useState<PlanFormat>('text')
  /** What was typed or read over the plan as it is; null while nothing was. */
  const [typed, setTyped] = useState<string | null>(null)
  const [notes, setNotes] = useState<readonly string[]>([])
  const [problem, setProblem] = useState<string | null>(null)
  const [fixed, setFixed] = useState<ReadonlyMap<number, string | null>>(new Map())
  const written = useMemo(() => writePlan(format, outlineOfSite(site), site.name), [format, site])
  const text = typed ?? written.text

  const edited = useMemo(
    () => (typed === null ? null : { text: typed, format, fixed }),
    [typed, format, fixed],
  )
  const { answer, isCurrent: isRead } = useUnderstoodPlan(site, edited)
  const refusal = answer && 'refusal' in answer ? answer.refusal : null
  const plan = answer && 'top' in answer ? answer : null

  const marks = useKept(
    plan ? plan.marks : refusal ? [{ line: refusal.line, word: 'here', wrong: true }] : none,
  )
  const homeLabel = site.pages.find((page) => page.id === site.homeId)!.label
  const home = useMemo(() => plan && { from: homeLabel, to: plan.home.label }, [plan, homeLabel])
  const { fix } = useStableActions({
    fix: (line: number, pageId: string | null) => isRead && setFixed(new Map([...fixed, [line, pageId]])),
  })

  const write = (next: string | null, from: readonly string[] = []) => {
    const isTyped = next !== null && next !== written.text
    setTyped(isTyped ? next : null)
    setBase(isTyped ? site : null)
    setNotes(from)
    setProblem(null)
    setFixed(new Map())
  }
  async function takeFile(chosen: File) {
    const read = await readPlanFile(chosen)
    if ('problem' in read) return setProblem(read.problem)
    // What is read and never written is told from the text again.
    setFormat(isWritten(read.format) ? read.format : 'text')
    write(read.text, [`${chosen.name} was read as ${read.readAs}.`, ...read.notes])
  }
  const save = () => saveFile(text, `plan${planFormats[format].extension}`, planFormats[format].mediaType)
  const change = useMemo(() => {
    if (!plan) return null
    return { kind: 'replacePlan' as const, ...planEdit(site, plan) }
  }, [plan, site])
  const { ripple, isCurrent } = useRipple(change, ripplePauseMs)
  async function apply() {
    if (!change || !isRead || saving) return
    const made = store.change(change, isCurrent)
    if ('refusal' in made) return
    // What was typed stays until it is stored: a refusal of the server finds it here.
    setSaving(true)
    const saved = await made.saved
    setSaving(false)
    if (saved) write(null)
  }

  return (
    <div className="grid h-full min-h-0 grid-rows-[auto_minmax(10rem,1fr)_minmax(0,auto)]">
      <div className="flex flex-wrap items-baseline gap-x-5 gap-y-1 px-7 pt-3 pb-2">
        <p className="font-serif text-[18px]">
          The plan is written as{' '}
          <PlanFormatPick
            forms={writtenForms}
            format={format}
            onPick={(next) => {
              setFormat(next)
              write(null)
            }}
            after="."
          />
        </p>
        <span className="ml-auto flex gap-4 text-sm">
          <CopyButton text={text} isLink />
          <button type="button" className="link" onClick={save}>
            Save as a file
          </button>
          <FileButton words="Read a file" accept={planFileTypes} onFile={(chosen) => void takeFile(chosen)} />
        </span>
        {written.lost.length > 0 && typed === null && (
          <p className="w-full text-sm text-ochre">
            This format cannot carry {written.lost.join(' and ')}; CSV and OPML can.
          </p>
        )}
      </div>
      <div className="min-h-0 border-t border-rule" {...takingDropped((dropped) => void takeFile(dropped))}>
        <CodeEditor
          name="The whole plan as text"
          language="plain"
          wordsIn={site.language}
          value={text}
          onChange={(next) => write(next)}
          marks={marks}
        />
      </div>
      {problem || refusal ? (
        <div role="alert" className="flex items-center gap-4 border-t border-rule bg-vellum px-7 py-3">
          <span className="text-rubric">{problem ?? `Line ${refusal!.line}: ${refusal!.reason}`}</span>
          <Button className="ml-auto" onClick={() => write(null)}>
            Back to the plan as it is
          </Button>
        </div>
      ) : plan ? (
        <PlanRipple
          differences={plan.differences}
          isRead={isRead}
          ripple={ripple}
          notes={[...notes, ...plan.notes]}
          home={home!}
          onFix={fix}
          onApply={() => void apply()}
          onLeave={() => write(null)}
        />
      ) : typed !== null ? (
        <div role="status" className="flex items-center gap-4 border-t border-rule bg-vellum px-7 py-3">
          Reading {count(typed.split('\n').length, 'line')} …
          <Button className="ml-auto" onClick={() => write(null)}>
            Keep the plan as it is
          </Button>
        </div>
      ) : (
        <p className="border-t border-rule px-7 py-3 text-sm text-quiet">
          Type over it, paste over it, move lines about: what that changes is shown before it is done. Tab and
          Shift+Tab change a line’s level; Escape, then Tab leaves the text.
        </p>
      )}
    </div>
  )
}

/** The same object for as long as its content is: the editor is set up anew where it is another. */
function useKept<T>(value: T): T {
  const [kept, keep] = useState(value)
  const isOther = kept !== value && !deepEqual(kept, value)
  if (isOther) keep(value)
  return isOther ? value : kept
}
