import { ExternalLink, Maximize2, Monitor, RotateCw, Smartphone, Tablet } from 'lucide-react'
import { useCallback, useEffect, useRef, useState } from 'react'
import { encodePath } from '#core/markup'
import type { ElementPlace } from '#core/build'
import { languageName } from '#core/language'
import { languagesOf, translationsOf } from '#core/plan'
import { pageTitle } from '#core/template'
import { useSelection, useSite } from '../document/site-context'
import { useStableActions } from '../parts/use-stable-actions'
import { LostFrame, useFrameWatch } from './use-frame-watch'
import { LeadsOutside } from './leads-outside'
import { type Leaving, type QuotedPlace, readPreviewMessage, type Report } from './messages'
import { usePreviewWidth } from './use-preview-width'
import { useReloads } from './use-reloads'
import { session } from '../session/session'

const shownAs = [
  { as: 'room', words: 'As wide as there is room', Icon: Maximize2, size: 14 },
  { as: 'phone', words: 'As on a phone', Icon: Smartphone, size: 12 },
  { as: 'tablet', words: 'As on a tablet', Icon: Tablet, size: 16 },
  { as: 'desktop', words: 'As on a desktop', Icon: Monitor, size: 16 },
] as const

/** Well within the time an address is good for. */
const renewEveryMs = 4 * 60_000

/**
 * The chosen page as a host would show it, with its tab title and address. Links inside it work;
 * after every save it is loaded again where it stands.
 */
export function PreviewWindow({
  base: first,
  onPlace,
  shown: wanted,
  isAlone = false,
}: {
  base: string
  /** Told the place that was clicked on, in the chosen page or in the same one in another language. */
  onPlace?: (place: QuotedPlace, isOwn: boolean) => void
  /** A place to show; another object shows it again. */
  shown?: ElementPlace | null
  /** True in a tab that shows nothing else. */
  isAlone?: boolean
}) {
  const { site, names, settled } = useSite()
  const base = useRef(first)
  const { selected } = useSelection()
  const frame = useRef<HTMLIFrameElement>(null)
  const ownPath = names.pages.get(selected.id)?.path ?? ''
  /** In which language the page is read beside the text; null for its own. Whoever translates goes on so from page to page. */
  const [besideIn, setBesideIn] = useState<string | null>(null)
  const inLanguages = translationsOf(site).of(selected)
  const page = inLanguages.find((one) => languagesOf(site).of(one) === besideIn) ?? selected
  const path = names.pages.get(page.id)?.path ?? ''
  const [report, setReport] = useState<Report | null>(null)
  const [leaving, setLeaving] = useState<Leaving | null>(null)
  const checkShown = useReloads(frame, settled)
  /** What it shows, or is to show. */
  const at = useRef(path)
  const renew = useCallback(async () => {
    const response = await fetch(`/sites/${site.id}/preview-address`)
    if (response.ok) base.current = ((await response.json()) as { base: string }).base
    return response.ok
  }, [site.id])
  const { placed, loaded, load } = useStableActions({
    placed: (place: QuotedPlace, isOwn: boolean) => onPlace?.(place, isOwn),
    loaded(told: Report) {
      setReport(told)
      setLeaving(null)
      at.current = told.path
      checkShown(told)
      watch.told()
    },
    async load() {
      // What could not be shown may have had the address of a session that has ended.
      const isRenewed = await renew().catch(() => false)
      if (isRenewed && frame.current) frame.current.src = base.current + encodePath(at.current)
    },
  })
  const { watch, isLost } = useFrameWatch(frame, load)
  // What it showed may have had the address of a session that has ended.
  useEffect(
    () =>
      session.subscribe(() => {
        if (session.get().kind === 'in') void load()
      }),
    [load],
  )
  // Another page, or another path of it, is another frame.
  useEffect(() => {
    at.current = path
    watch.began(true)
  }, [watch, page.id, path])

  useEffect(() => {
    // Without a connection the next beat, or the frame that finds its address run out, asks again.
    const timer = setInterval(() => void renew().catch(() => {}), renewEveryMs)
    return () => clearInterval(timer)
  }, [renew])

  useEffect(() => {
    const hear = (event: MessageEvent) => {
      // The page is sandboxed, so it has no origin to check; that it is our frame is what counts.
      if (event.source !== frame.current?.contentWindow) return
      const told = readPreviewMessage(event.data)
      if (told && 'expired' in told)
        renew().then(
          () => frame.current && (frame.current.src = base.current + told.expired),
          () => {},
        )
      else if (told && 'reloads' in told) watch.began()
      else if (told && ('outside' in told || 'form' in told)) setLeaving(told)
      else if (told && 'place' in told) {
        if ([told.path, told.path.replace(/\/$/, '/index.html')].includes(path))
          placed(told.place, path === ownPath)
      } else if (told) loaded(told)
    }
    addEventListener('message', hear)
    return () => removeEventListener('message', hear)
  }, [renew, path, ownPath, placed, loaded, watch])
  useEffect(() => {
    if (wanted) frame.current?.contentWindow?.postMessage({ rubricantShow: wanted }, '*')
  }, [wanted])

  const { room, style, width, setWidth, percent } = usePreviewWidth()
  const shown = report?.path ?? path
  return (
    <section
      className="grid h-full min-h-0 grid-cols-[minmax(0,1fr)] grid-rows-[auto_1fr] bg-vellum p-3"
      aria-label="Preview"
    >
      <div className="border border-b-0 border-rule bg-paper">
        <div className="flex border-b border-rule">
          <span
            className="max-w-[75%] truncate border-r border-rule px-3 py-1.5 text-sm font-semibold"
            data-testid="preview-title"
          >
            {report?.title ?? pageTitle(page)}
          </span>
        </div>
        <div className="flex items-center gap-2 px-3 py-1">
          <span
            className="min-w-0 grow truncate font-mono text-[13px] text-quiet"
            data-testid="preview-address"
          >
            /{shown.replace(/(^|\/)index\.html?$/, '$1')}
          </span>
          {!isAlone && inLanguages.length > 1 && (
            <select
              aria-label="Language of the page that is shown"
              title="The page in another language, to be read beside the text"
              className="max-w-32 rounded bg-transparent py-0.5 text-[13px] text-quiet hover:text-ink"
              value={languagesOf(site).of(page)}
              onChange={(event) => setBesideIn(event.target.value)}
            >
              {inLanguages.map((one) => (
                <option key={one.id} value={languagesOf(site).of(one)}>
                  {languageName(languagesOf(site).of(one))}
                </option>
              ))}
            </select>
          )}
          <span role="group" aria-label="Width of the page" className="flex items-center">
            {percent < 100 && <span className="mr-1 text-xs text-quiet">{percent} %</span>}
            {shownAs.map(({ as, words, Icon, size }) => (
              <button
                key={as}
                type="button"
                aria-label={words}
                title={words}
                aria-pressed={width === as}
                className={`rounded p-1 hover:text-ink ${width === as ? 'bg-lapis-wash text-ink' : 'text-quiet'}`}
                onClick={() => setWidth(as)}
              >
                <Icon size={size} />
              </button>
            ))}
          </span>
          {!isAlone && (
            <a
              aria-label="In a tab of its own"
              title="In a tab of its own"
              className="p-1 text-quiet hover:text-ink"
              href={`/sites/${site.id}/look?page=${page.id}`}
              target="_blank"
              rel="noopener"
            >
              <ExternalLink size={14} />
            </a>
          )}
          <button
            type="button"
            aria-label="Load the preview again"
            className="p-1 text-quiet hover:text-ink"
            onClick={() => {
              if (frame.current) frame.current.src = base.current + encodePath(path)
            }}
          >
            <RotateCw size={14} />
          </button>
        </div>
        {leaving !== null && <LeadsOutside leaving={leaving} onClose={() => setLeaving(null)} />}
      </div>
      <div ref={room} className="relative min-h-0 min-w-0 overflow-hidden">
        {isLost && <LostFrame />}
        <iframe
          ref={frame}
          key={`${page.id} ${path}`}
          title={`Preview of ${page.label}`}
          onLoad={() => watch.loaded()}
          // Where it begins; from then on it is led, and an address renewed meanwhile loads nothing anew.
          src={first + encodePath(path)}
          sandbox="allow-scripts allow-forms"
          className="border border-rule bg-white"
          style={style}
        />
      </div>
    </section>
  )
}
