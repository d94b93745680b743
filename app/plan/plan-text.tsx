import { useDeferredValue, useMemo, useState } from 'react'
import { correctOwnNames, plannedFrom } from '#core/change'
import {
  decodePlanFile,
  guessPlanFormat,
  matchPlan,
  outlineOfSite,
  planDifferences,
  type PlanFormat,
  planFormats,
  planSite,
  readPlan,
  writePlan,
} from '#core/plan'
import { useSite } from '../document/site-context'
import { useRipple } from '../document/use-ripple'
import { Button } from '../parts/button'
import { FileButton, saveFile } from '../parts/files'
import { Pick } from '../parts/pick'
import { PlanRipple } from './plan-ripple'

/** The server is asked what a plan touches when it has stood for so long: a large one is a large question. */
const ripplePauseMs = 400

/** The plan as text in an open format: to read, to copy, to type over, to take from a file and to one. */
export function PlanText() {
  const { site, store } = useSite()
  const [format, setFormat] = useState<PlanFormat>('text')
  /** What was typed or read over the plan as it is; null while nothing was. */
  const [typed, setTyped] = useState<string | null>(null)
  const [notes, setNotes] = useState<readonly string[]>([])
  const [problem, setProblem] = useState<string | null>(null)
  const [fixed, setFixed] = useState<ReadonlyMap<number, string | null>>(new Map())
  const written = useMemo(() => writePlan(format, outlineOfSite(site), site.name), [format, site])
  const text = typed ?? written.text

  // A plan of thousands of lines is read and matched a moment after the key, not with it.
  const read = useDeferredValue(typed)
  const outline = useMemo(() => (read === null ? null : readPlan(format, read)), [read, format])
  const plan = useMemo(
    () =>
      outline && 'nodes' in outline
        ? correctOwnNames(planSite(outline, site.name), { scheme: site.scheme, language: site.language })
        : null,
    [outline, site.name, site.scheme, site.language],
  )
  const match = useMemo(() => plan && matchPlan(site, plan.top, fixed), [plan, site, fixed])
  const differences = useMemo(() => match && planDifferences(site, match), [match, site])

  const write = (next: string | null, from: readonly string[] = []) => {
    setTyped(next === written.text ? null : next)
    setNotes(from)
    setProblem(null)
    setFixed(new Map())
  }
  async function takeFile(chosen: File) {
    const decoded = decodePlanFile(new Uint8Array(await chosen.arrayBuffer()))
    if ('refusal' in decoded) {
      setProblem(`${chosen.name}, line ${decoded.refusal.line}: ${decoded.refusal.reason}`)
      return
    }
    const as = guessPlanFormat(decoded.text, chosen.name)
    const found = readPlan(as, decoded.text)
    if ('refusal' in found) {
      setProblem(`${chosen.name}, line ${found.refusal.line}: ${found.refusal.reason}`)
      return
    }
    setFormat(as)
    write(decoded.text, [`${chosen.name} was read as ${planFormats[as].name}.`, ...decoded.notes])
  }
  const save = () => saveFile(text, `plan${planFormats[format].extension}`, planFormats[format].mediaType)
  const change = useMemo(() => {
    if (!plan || !match) return null
    const seen = Object.fromEntries(site.pages.map((page) => [page.id, page.label]))
    const { label, inMenus, details } = plan.home
    const top = plannedFrom(match.lines, () => crypto.randomUUID())
    return { kind: 'replacePlan' as const, home: { label, inMenus, ...(details && { details }) }, top, seen }
  }, [plan, match, site.pages])
  const { ripple, isCurrent } = useRipple(change, ripplePauseMs)
  function apply() {
    if (change && !('refusal' in store.change(change, isCurrent))) write(null)
  }

  const refusal = outline && 'refusal' in outline ? outline.refusal : null
  return (
    <div className="grid h-full min-h-0 grid-rows-[auto_1fr_auto]">
      <div className="flex flex-wrap items-baseline gap-x-5 gap-y-1 px-7 pt-3 pb-2">
        <p className="font-serif text-[18px]">
          The plan is written as{' '}
          <Pick
            label="Format"
            value={format}
            options={(Object.keys(planFormats) as PlanFormat[]).map((value) => ({
              value,
              words: planFormats[value].name,
            }))}
            onPick={(next) => {
              setFormat(next)
              write(null)
            }}
          />
          .
        </p>
        <span className="ml-auto flex gap-4 text-sm">
          <button type="button" className="link" onClick={() => void navigator.clipboard.writeText(text)}>
            Copy
          </button>
          <button type="button" className="link" onClick={save}>
            Save as a file
          </button>
          <FileButton
            words="Read a file"
            accept=".txt,.md,.markdown,.csv,.tsv,.opml,.xml,text/*"
            onFile={(chosen) => void takeFile(chosen)}
          />
        </span>
        {written.lost.length > 0 && typed === null && (
          <p className="w-full text-sm text-ochre">
            This format cannot carry {written.lost.join(' and ')}; CSV and OPML can.
          </p>
        )}
      </div>
      <div className="min-h-0 px-7 pb-4">
        <textarea
          className="area h-full"
          value={text}
          onChange={(event) => write(event.target.value)}
          aria-label="The whole plan as text"
          spellCheck={false}
        />
      </div>
      {problem || refusal ? (
        <div role="alert" className="flex items-center gap-4 border-t border-rule bg-vellum px-7 py-3">
          <span className="text-rubric">{problem ?? `Line ${refusal!.line}: ${refusal!.reason}`}</span>
          <Button className="ml-auto" onClick={() => write(null)}>
            Back to the plan as it is
          </Button>
        </div>
      ) : differences && plan && match ? (
        <PlanRipple
          differences={differences}
          ripple={ripple}
          notes={[...notes, ...plan.notes]}
          home={{ from: site.pages.find((page) => page.id === site.homeId)!.label, to: plan.home.label }}
          onFix={(line, pageId) => setFixed(new Map([...fixed, [line, pageId]]))}
          onApply={apply}
          onLeave={() => write(null)}
        />
      ) : (
        <p className="border-t border-rule px-7 py-3 text-sm text-quiet">
          Type over it, paste over it, move lines about: what that changes is shown before it is done.
        </p>
      )}
    </div>
  )
}
