import { RotateCw } from 'lucide-react'
import { useEffect, useRef, useState } from 'react'
import { encodePath } from '#core/markup'
import { pageTitle } from '#core/template'
import { useSelection, useSite } from '../document/site-context'

/** What the sandboxed page tells of itself. */
interface Report {
  readonly path: string
  readonly title: string
}

function reportOf(data: unknown): Report | null {
  const report = (data as { rubricantPreview?: Partial<Report> } | null)?.rubricantPreview
  return typeof report?.path === 'string' && typeof report.title === 'string'
    ? { path: report.path, title: report.title }
    : null
}

/**
 * The chosen page as a host would show it, with its tab title and address. Links inside it work;
 * after every save it is loaded again where it stands.
 */
export function PreviewWindow({ base }: { base: string }) {
  const { names, revision } = useSite()
  const { selected } = useSelection()
  const frame = useRef<HTMLIFrameElement>(null)
  const path = names.pages.get(selected.id)?.path ?? ''
  const [report, setReport] = useState<Report | null>(null)
  const shownRevision = useRef(revision)

  useEffect(() => {
    const hear = (event: MessageEvent) => {
      // The page is sandboxed, so it has no origin to check; that it is our frame is what counts.
      if (event.source !== frame.current?.contentWindow) return
      const told = reportOf(event.data)
      if (told) setReport(told)
    }
    addEventListener('message', hear)
    return () => removeEventListener('message', hear)
  }, [])
  useEffect(() => {
    if (shownRevision.current === revision) return
    shownRevision.current = revision
    frame.current?.contentWindow?.postMessage('rubricant-reload', '*')
  }, [revision])

  const shown = report?.path ?? path
  return (
    <section className="grid h-full min-h-0 grid-rows-[auto_1fr] bg-vellum p-3" aria-label="Preview">
      <div className="border border-b-0 border-rule bg-paper">
        <div className="flex border-b border-rule">
          <span
            className="max-w-[75%] truncate border-r border-rule px-3 py-1.5 text-sm font-semibold"
            data-testid="preview-title"
          >
            {report?.title ?? pageTitle(selected)}
          </span>
        </div>
        <div className="flex items-center gap-2 px-3 py-1">
          <span
            className="min-w-0 grow truncate font-mono text-[13px] text-quiet"
            data-testid="preview-address"
          >
            /{shown.replace(/(^|\/)index\.html?$/, '$1')}
          </span>
          <button
            type="button"
            aria-label="Load the preview again"
            className="p-1 text-quiet hover:text-ink"
            onClick={() => {
              if (frame.current) frame.current.src = base + encodePath(path)
            }}
          >
            <RotateCw size={14} />
          </button>
        </div>
      </div>
      <iframe
        ref={frame}
        key={`${selected.id} ${path}`}
        title={`Preview of ${selected.label}`}
        src={base + encodePath(path)}
        sandbox="allow-scripts allow-forms allow-popups"
        className="h-full w-full border border-rule bg-white"
      />
    </section>
  )
}
