import { useEffect, useMemo, useState } from 'react'
import type { Version } from '#server/sites'
import { away } from '../parts/away'
import { useSite, useWrittenTexts } from '../document/site-context'
import { useText } from '../document/use-text'
import type { TextKey } from '../document/written-texts'
import { Button } from '../parts/button'
import { count, moment } from '../parts/format'
import { Difference } from '../parts/difference/difference'
import { hunksOf, withHunk } from '../parts/difference/hunks'

/** Dates as they come: JSON has none. */
type Shown = Omit<Version, 'writtenAt' | 'until'> & {
  readonly writtenAt: string | null
  readonly until: string
}

/** The earlier versions of a text, what differs from now, and the way back: whole, or stretch by stretch. */
export function Versions({ textKey, onDone }: { textKey: TextKey; onDone: () => void }) {
  const { site } = useSite()
  const texts = useWrittenTexts()
  const now = texts.hashOf(textKey) ?? ''
  const versions = useVersions(site.id, textKey, now)
  const [chosen, setChosen] = useState<string | null>(null)
  if (versions === 'away') return <p className="px-7 py-5 text-quiet">{away}</p>
  if (versions === null) return <p className="px-7 py-5 text-quiet">Fetching them…</p>
  if (versions.length === 0)
    return (
      <div className="px-7 py-5">
        <p className="mb-5 text-quiet">
          There is none yet. What is written within some minutes counts as one; whatever you write from now on
          can be brought back here.
        </p>
        <Button onClick={onDone}>Close</Button>
      </div>
    )
  // Where one person writes, it goes without saying who.
  const isShared = new Set(versions.map(({ by }) => by)).size > 1
  const shown = versions.find(({ hash }) => hash === chosen) ?? versions[0]!
  return (
    <div className="grid min-h-0 grid-cols-[13rem_minmax(0,1fr)]">
      <ul aria-label="Versions" className="overflow-auto border-r border-rule py-2">
        {versions.map((one) => (
          <li key={`${one.hash} ${one.until}`}>
            <button
              type="button"
              aria-pressed={one === shown}
              className={`w-full px-7 py-2 text-left ${one === shown ? 'bg-lapis-wash' : 'hover:bg-vellum'}`}
              onClick={() => setChosen(one.hash)}
            >
              {one.writtenAt ? moment(one.writtenAt) : 'the first'}
              <span className="block text-sm text-quiet">
                {isShared && one.by && `${one.by}, `}until {moment(one.until)}
              </span>
            </button>
          </li>
        ))}
      </ul>
      <Compared
        key={shown.hash}
        was={shown.hash}
        now={now}
        onBring={(text) => {
          texts.write(textKey, text, now)
          onDone()
        }}
        onClose={onDone}
      />
    </div>
  )
}

function Compared({
  was,
  now,
  onBring,
  onClose,
}: {
  was: string
  now: string
  onBring: (text: string) => void
  onClose: () => void
}) {
  const { site } = useSite()
  const [before, after] = [useText(site.id, was), useText(site.id, now)]
  const both = before.kind === 'ready' && after.kind === 'ready' ? ([before.text, after.text] as const) : null
  const [one, other] = both ?? [null, null]
  const hunks = useMemo(() => (one === null || other === null ? [] : hunksOf(one, other)), [one, other])
  if (before.kind === 'failed' || after.kind === 'failed')
    return <p className="px-7 py-5 text-quiet">It could not be fetched. Try again in a moment.</p>
  if (!both) return <p className="px-7 py-5 text-quiet">Fetching it…</p>
  const differs = hunks.filter((hunk) => hunk.kind === 'other').length
  return (
    <div className="grid min-h-0 grid-rows-[minmax(0,1fr)_auto]">
      <Difference
        label="What differs from now"
        hunks={hunks}
        sides={['then', 'now']}
        alike="as now"
        onBring={(index) => onBring(withHunk(hunks, index))}
      />
      <div className="flex items-center gap-4 border-t border-rule bg-vellum px-5 py-3">
        <Button look="go" disabled={differs === 0} onClick={() => onBring(both[0])}>
          Bring it back
        </Button>
        <Button onClick={onClose}>Leave it as it is now</Button>
        <span className="text-sm text-quiet">
          {differs === 0
            ? 'It is as it is now.'
            : `${count(differs, 'stretch', 'stretches')} differ${differs === 1 ? 's' : ''} from now.`}
        </span>
      </div>
    </div>
  )
}

/** The versions of a text; null while they are fetched. */
function useVersions(
  siteId: string,
  { kind, id, slot }: TextKey,
  now: string,
): readonly Shown[] | 'away' | null {
  const [found, setFound] = useState<readonly Shown[] | 'away' | null>(null)
  useEffect(() => {
    const abort = new AbortController()
    const query = new URLSearchParams({ kind, id, ...(slot !== undefined && { slot }) })
    fetch(`/sites/${siteId}/versions?${query}`, { signal: abort.signal })
      .then(async (response) => {
        if (!response.ok) throw new Error(String(response.status))
        setFound(((await response.json()) as { versions: Shown[] }).versions)
      })
      .catch(() => {
        if (!abort.signal.aborted) setFound('away')
      })
    return () => abort.abort()
  }, [siteId, kind, id, slot, now])
  return found
}
