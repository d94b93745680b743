import { useEffect, useState } from 'react'
import { useSelection, useSite } from '../document/site-context'
import { CodeEditor } from '../parts/editor/lazy-editor'
import { type LeadToTemplate, LinePanel } from './line-panel'
import { PageTemplate } from './page-template'
import { Refusal } from '../parts/notice'

/** The finished HTML of the chosen page, following every save. */
export function Result({ onLead }: { onLead: LeadToTemplate }) {
  const { site, names, revision } = useSite()
  const { selected } = useSelection()
  const [result, setResult] = useState<{ pageId: string; html: string; problem: string | null } | null>(null)
  const [line, setLine] = useState(1)
  useEffect(() => {
    const abort = new AbortController()
    fetch(`/sites/${site.id}/results/${selected.id}`, { signal: abort.signal })
      .then(async (response) => {
        const pageId = selected.id
        if (response.ok) setResult({ pageId, html: await response.text(), problem: null })
        else {
          const told = (await response.json()) as { problem: { message: string } }
          setResult({ pageId, html: '', problem: told.problem.message })
        }
      })
      // Without a connection the latest result stays; the next save asks again.
      .catch(() => {})
    return () => abort.abort()
  }, [site.id, selected.id, revision])
  return (
    <section
      className="grid h-full min-h-0 grid-rows-[auto_1fr] bg-vellum"
      aria-label="The page that results"
    >
      <div className="px-4 pt-2 pb-1.5">
        <PageTemplate />
        <h2 className="truncate font-sans text-sm font-normal text-quiet">
          The page that results:{' '}
          <span className="font-mono text-[13px] text-ink">{names.pages.get(selected.id)?.path}</span>
        </h2>
      </div>
      {result?.pageId === selected.id && result.problem !== null ? (
        <Refusal className="mx-4 my-3">{result.problem}</Refusal>
      ) : result?.pageId === selected.id ? (
        <div className="grid min-h-0 grid-rows-[1fr_auto]">
          <CodeEditor
            name="HTML of the page that results"
            language="html"
            value={result.html}
            onLine={setLine}
          />
          <LinePanel html={result.html} line={line} onLead={onLead} />
        </div>
      ) : (
        <p className="px-4 py-3 text-quiet">Making the page…</p>
      )}
    </section>
  )
}
