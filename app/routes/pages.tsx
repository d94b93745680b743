import { useCallback, useEffect, useState } from 'react'
import { useLocation } from 'react-router'
import type { ElementPlace, LineOrigin } from '#core/build'
import { mainSlot, type Site } from '#core/site'
import { getTexts } from '#server/contents'
import { pool } from '#server/platform'
import { previewBase } from '#server/preview'
import { useSelection, useSite } from '../document/site-context'
import type { GivenText } from '../document/use-text'
import { useDraft, useKeptLine } from '../document/use-draft'
import { requireSite } from '../owner.server'
import { useStableActions } from '../parts/use-stable-actions'
import { fetchEditor } from '../parts/editor/lazy-editor'
import { Halves } from '../parts/halves'
import { useNotedLines } from '../notes/noted-lines'
import { PageNotes } from '../notes/page-notes'
import type { QuotedPlace } from '../preview/messages'
import { PreviewWindow } from '../preview/preview-window'
import { AsFound } from '../writing/as-found'
import { OriginalNotice } from '../writing/original/original-notice'
import { SlotEditors } from '../writing/slot-editors'
import { loadOrLatest, NotFetched } from '../parts/unless-offline'
import type { Route } from './+types/pages'
import { untilFetched } from '../parts/fetched'

export async function loader({ request, params }: Route.LoaderArgs) {
  const { site } = await requireSite(request, params.siteId, 'look')
  return {
    base: previewBase(request, site.id),
    given: await textOfPage(site, new URL(request.url).searchParams.get('page')),
  }
}

/** The text of the page an address names: it is there with the view. */
async function textOfPage(site: Site, pageId: string | null): Promise<GivenText | null> {
  const page = site.pages.find(({ id }) => id === (pageId ?? site.homeId))
  if (!page) return null
  const text = (await getTexts(pool(), [page.content])).get(page.content)
  return text === undefined ? null : { hash: page.content, text }
}

// The preview's address is the session's; only a new sign-in changes it.
export const shouldRevalidate = () => false

export const clientLoader = (args: Route.ClientLoaderArgs) => loadOrLatest('routes/pages', args)

fetchEditor()

export default function PagesView({ loaderData }: Route.ComponentProps) {
  const { selected } = useSelection()
  const { site } = useSite()
  const [source, setSource] = useState<ChosenSource | null>(null)
  // Whoever goes from page to page goes on in the same slot.
  const [slot, setSlot] = useState(mainSlot)
  const leadTo = useCallback((chosen: ChosenSource) => {
    setSource(chosen)
    if (chosen.origin.kind === 'slot') setSlot(chosen.origin.name)
  }, [])
  const [shown, setShown] = useState<ElementPlace | null>(null)
  const [clicked, setClicked] = useState<{ pageId: string; place: QuotedPlace } | null>(null)
  const lead = async (place: QuotedPlace) => {
    const { sourceOfPlace } = await untilFetched(() => import('../writing/source-places'))
    const found = await sourceOfPlace(site.id, selected.id, place).catch(() => null)
    if (found?.origin) leadTo({ pageId: selected.id, origin: found.origin })
    return found?.place ?? place
  }
  // An address may name a line of what is written, or one of the page as it comes out.
  const { key, search } = useLocation()
  useEffect(() => {
    const query = new URLSearchParams(search)
    const pageId = query.get('page')
    if (pageId === null) return
    const line = Number(query.get('line'))
    const made = Number(query.get('made'))
    if (line > 0) {
      const name = query.get('slot') ?? mainSlot
      leadTo({ pageId, origin: { kind: 'slot', name, templateId: null, line: 1, slotLine: line } })
    } else if (made > 0)
      void untilFetched(() => import('../writing/source-places'))
        .then(({ sourceOfLine }) => sourceOfLine(site.id, pageId, made))
        .then((origin) => origin && leadTo({ pageId, origin }))
        .catch(() => {})
  }, [key, search, site.id, leadTo])
  const { show } = useStableActions({
    async show(slot: string, line: number) {
      const { placeOfLine } = await untilFetched(() => import('../writing/source-places'))
      setShown(await placeOfLine(site.id, selected.id, slot, line).catch(() => null))
    },
  })
  return (
    <div className="grid h-full min-h-0 grid-cols-[minmax(0,1fr)] grid-rows-[auto_minmax(22rem,1fr)] overflow-y-auto">
      <PageHead key={selected.id} />
      <Halves of="text" share={46} least={[200, 240]}>
        <Content
          key={selected.id}
          given={loaderData?.given ?? null}
          source={source?.pageId === selected.id ? source.origin : null}
          slot={slot}
          onSlot={setSlot}
          onShow={show}
        />
        {loaderData ? (
          <div className="grid h-full min-h-0 grid-cols-[minmax(0,1fr)] grid-rows-[auto_minmax(0,1fr)_auto]">
            <div>
              <OriginalNotice key={selected.id} page={selected} />
            </div>
            <PreviewWindow
              base={loaderData.base}
              onPlace={(place, isOwn) => {
                // Of another language it is no place of this page: it leads to where the same stands in it.
                if (isOwn) setClicked({ pageId: selected.id, place })
                void lead(isOwn ? place : { ...place, quote: '' })
              }}
              shown={shown}
            />
            <PageNotes
              key={selected.id}
              page={selected}
              place={clicked?.pageId === selected.id ? clicked.place : null}
              onGo={(place) => void lead(place).then((now) => setShown({ ...now }))}
              onUnpin={() => setClicked(null)}
            />
          </div>
        ) : (
          <NotFetched />
        )}
      </Halves>
    </div>
  )
}

/** Title and description of the chosen page. */
function PageHead() {
  const { selected } = useSelection()
  return (
    <div className="grid grid-cols-[minmax(0,2fr)_minmax(0,3fr)_auto] items-end gap-x-6 gap-y-1 border-b max-sm:grid-cols-[minmax(0,1fr)_auto] border-rule px-5 pt-3 pb-3">
      <Line field="title" name="Title" placeholder={selected.label} />
      <Line
        field="description"
        name="Description"
        placeholder="A sentence for lists of results; left out while empty"
      />
      <AsFound page={selected} />
    </div>
  )
}

/** One of the chosen page's texts on a line, saved when the line is left. */
function Line({
  field,
  name,
  placeholder,
}: {
  field: 'title' | 'description'
  name: string
  placeholder: string
}) {
  const { store } = useSite()
  const { selected } = useSelection()
  const draft = useDraft(selected[field])
  const value = draft.typed.trim() === '' ? null : draft.typed.trim()
  const change = draft.isChanged
    ? ({ kind: 'setPageText', pageId: selected.id, field, value, was: draft.was } as const)
    : null
  useKeptLine(`${selected.id} ${field}`, change)
  const save = () => {
    if (change) store.change(change)
  }
  return (
    <label className="block text-sm text-quiet">
      {name}
      <input
        className="field text-[15px] text-ink placeholder:text-faint"
        value={draft.typed}
        placeholder={placeholder}
        maxLength={1000}
        dir="auto"
        onChange={(event) => draft.type(event.target.value)}
        onBlur={save}
        onKeyDown={(event) => {
          if (event.key === 'Enter') save()
          if (event.key === 'Escape') draft.reset()
        }}
      />
    </label>
  )
}

/** Where a place that was clicked on in the preview was written. */
interface ChosenSource {
  readonly pageId: string
  readonly origin: LineOrigin
}

function Content({
  given,
  source,
  slot,
  onSlot,
  onShow,
}: {
  given: GivenText | null
  source: LineOrigin | null
  slot: string
  onSlot: (slot: string) => void
  onShow: (slot: string, line: number) => void
}) {
  const { site } = useSite()
  const { selected } = useSelection()
  useEffect(() => {
    // Names the page for whoever looks at open windows.
    document.title = `${selected.label} – ${site.name} – Rubricant`
  }, [selected.label, site.name])
  const marks = useNotedLines(selected)
  return (
    <SlotEditors
      page={selected}
      given={given}
      source={source}
      marks={marks}
      chosen={slot}
      onChoose={onSlot}
      onShow={onShow}
    />
  )
}
