import deepEqual from 'fast-deep-equal'
import { Suspense, useEffect, useRef, useState } from 'react'
import { Outlet, useLocation, useRevalidator, useRouteLoaderData } from 'react-router'
import { Group, Panel, Separator, usePanelRef } from 'react-resizable-panels'
import { isGrave, withoutAside } from '#core/findings'
import { needsSpelling, spelling } from '#core/naming'
import { realPlaces } from '#core/plan'
import type { Site } from '#core/site'
import { pool } from '#server/platform'
import { type CopyOf, copyOf, undoTitles } from '#server/sites'
import { ProposalProvider } from '../document/proposal'
import { SiteProvider, useSelection, useSite } from '../document/site-context'
import { useRipple } from '../document/use-ripple'
import { usePresence } from '../document/use-presence'
import { useSiteEvents } from '../document/use-site-events'
import { FilesProvider, useFiles } from '../files/files-context'
import { FilesPart } from '../files/files-part'
import { useDroppedFiles } from '../files/use-dropped-files'
import { AddressQuestion } from '../frame/address-question'
import { AskedQuestion } from '../frame/asked-question'
import { Band, type Pane } from '../frame/band'
import { DeliveryNotice, isUnderWay } from '../frame/delivery-notice'
import { RefusedNotice } from '../frame/refused'
import { RenewedNotice } from '../frame/renewed-notice'
import { RoleNotice } from '../frame/role-notice'
import { isTyping } from '../frame/shortcuts'
import { RippleNotice } from '../frame/ripple-notice'
import { type Relabel, TypedRipple } from '../frame/typed-ripple'
import { useViewsAtHand } from '../frame/use-views-at-hand'
import { registerWidth, viewOf, viewTitles } from '../frame/views'
import { NotesProvider, useNotes } from '../notes/notes-context'
import { requireSite } from '../owner.server'
import { count } from '../parts/format'
import { useRememberedViews } from '../parts/unless-offline'
import { Register, type RegisterHandle } from '../register/register'
import { useColumns } from '../register/use-columns'
import { SignedOut } from '../session/signed-out'
import type { FrameContext } from '../upload/delivery-bar'
import type { Route } from './+types/site'
import type { loader as checksLoader } from './checks'
import type { loader as uploadLoader } from './upload'
import { lazily } from '../parts/fetched'

export async function loader({ request, params }: Route.LoaderArgs) {
  const { site, revision, role, account } = await requireSite(request, params.siteId, 'look')
  return {
    site,
    revision,
    role,
    accountId: account.id,
    titles: await undoTitles(pool(), site.id, account.id),
    copy: role === 'reader' ? await copyOf(pool(), site.id, account.id) : null,
  }
}

// Asked seldom, and when something was brought.
const TextsQuestion = lazily(() =>
  import('../files/texts-question').then((module) => ({ default: module.TextsQuestion })),
)
const WholePagesQuestion = lazily(() =>
  import('../files/whole-pages-question').then((module) => ({ default: module.WholePagesQuestion })),
)
const FileView = lazily(() => import('../files/file-view').then((module) => ({ default: module.FileView })))

/** Whether names in this site need more than what is at hand; see `core/naming/ascii.ts`. */
const wantsSpelling = ({ scheme, pages, files }: Site) =>
  scheme.letters === 'ascii' && [...pages, ...files].some(({ label }) => needsSpelling(label))

export async function clientLoader({ serverLoader }: Route.ClientLoaderArgs) {
  const loaded = await serverLoader()
  if (wantsSpelling(loaded.site)) await spelling.load()
  return loaded
}

// The store keeps the site up to date by differences; reading it whole again would lose its place.
export const shouldRevalidate = () => false

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: `${loaderData?.site.name ?? 'Site'} – Rubricant` },
]

export default function SiteRoute({ loaderData }: Route.ComponentProps) {
  const { accountId, site, revision, titles, role, copy } = loaderData
  return (
    <SiteProvider key={site.id} {...{ accountId, site, revision, titles, role }}>
      <ProposalProvider>
        <FilesProvider>
          <NotesProvider>
            <Desk accountId={accountId} copy={copy} />
          </NotesProvider>
        </FilesProvider>
      </ProposalProvider>
    </SiteProvider>
  )
}

function Desk({ accountId, copy }: { accountId: string; copy: CopyOf | null }) {
  const { site, store, tree, names, asked, role } = useSite()
  const view = viewOf(useLocation().pathname)
  useViewsAtHand()
  useRememberedViews()
  const columns = useColumns(view)
  const { chosenId, choose, offered, offeredWhole } = useFiles()
  const file = site.files.find(({ id }) => id === chosenId) ?? null
  const { isDraggedOver, dropping } = useDroppedFiles()
  // Another view, or another page, is what its author wants to see now.
  const { selected } = useSelection()
  const notes = useNotes()
  const presence = usePresence(site.id, selected.id, accountId, role)
  useEffect(() => choose(null), [view, selected.id, choose])
  // In a narrow window one of the two at a time: in Plan the register is what is worked in.
  const [pane, setPane] = useState<Pane>(view === 'plan' ? 'register' : 'view')
  const register = useRef<RegisterHandle>(null)
  const [renamed, setRenamed] = useState<string | null>(null)
  const [typed, setTyped] = useState<Relabel | null>(null)
  const typedRipple = useRipple(typed)
  const panel = usePanelRef()
  const revalidator = useRevalidator()
  const checks = useRouteLoaderData<typeof checksLoader>('routes/checks')
  const upload = useRouteLoaderData<typeof uploadLoader>('routes/upload')
  const width = registerWidth(view)

  const firstWidth = useRef(width)
  useEffect(() => {
    if (firstWidth.current === width) return
    firstWidth.current = width
    panel.current?.resize(width)
  }, [width, panel])

  const [delivery, setDelivery] = useState<FrameContext['delivery']>(null)
  const underWay = useRef<string | null>(null)
  useSiteEvents(site.id, (event) => {
    if (event.kind === 'gap') {
      store.wake()
      void store.catchUp()
      notes.load()
      presence.askWho()
      // A delivery may have ended unheard: what is shown of it is fetched.
      setDelivery(null)
      if (view === 'upload') void revalidator.revalidate()
      return
    }
    if (event.kind === 'revision') {
      void store.heard(event.revision)
      return
    }
    if (event.kind === 'presence') return presence.hear(event)
    if (event.kind === 'people') return presence.ask()
    if (event.kind === 'notes') return notes.load()
    if (isUnderWay(event)) underWay.current = event.deliveryId
    setDelivery(event)
    // Numbers come with the event; its beginning and its end change what the view shows.
    const isEnd = event.state !== 'running'
    const isNew = !upload?.deliveries.some((one) => one.id === event.deliveryId)
    if (view === 'upload' && (isEnd || (isNew && revalidator.state === 'idle'))) void revalidator.revalidate()
  })

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || isTyping(event.target)) return
      const key = event.key.toLowerCase()
      if (key !== 'z' && key !== 'y') return
      event.preventDefault()
      void (key === 'y' || event.shiftKey ? store.redo() : store.undo())
    }
    addEventListener('keydown', onKey)
    return () => removeEventListener('keydown', onKey)
  }, [store])

  function rename(change: Relabel) {
    const shown = typedRipple.isCurrent && deepEqual(change, typed)
    setTyped(null)
    if (!('refusal' in store.change(change, shown))) setRenamed(change.pageId)
  }

  const depth = tree.places.reduce((most, place) => (place.trial ? most : Math.max(most, place.depth + 1)), 0)
  return (
    <div
      // What is dropped on a preview would be for the page in it.
      className={`grid h-dvh grid-cols-[minmax(0,1fr)] grid-rows-[auto_auto_1fr] overflow-hidden ${isDraggedOver ? '[&_iframe]:pointer-events-none' : ''}`}
      data-spelling={wantsSpelling(site) || undefined}
      {...dropping}
    >
      <Band
        pane={pane}
        others={presence.others}
        isRenewed={presence.isRenewed}
        onPane={setPane}
        counts={{
          checks: checks
            ? {
                number: withoutAside(checks.findings, site.checking).open.filter(isGrave).length,
                wants: true,
              }
            : undefined,
          upload: upload?.comparison ? { number: upload.comparison.toSend, wants: false } : undefined,
        }}
      />
      <div>
        <SignedOut accountId={accountId} />
        <DeliveryNotice
          delivery={delivery}
          underWay={underWay}
          isShown={view === 'upload'}
          to={`/sites/${site.id}/upload`}
        />
        <RefusedNotice />
        <RoleNotice view={view} copy={copy} />
        {presence.isRenewed && <RenewedNotice />}
      </div>
      <main className="min-h-0" data-pane={pane}>
        <Group orientation="horizontal" className="h-full min-h-0">
          <Panel
            panelRef={panel}
            defaultSize={width}
            minSize={240}
            maxSize="75%"
            groupResizeBehavior="preserve-pixel-size"
            id="desk-register"
          >
            <section
              aria-label="Register"
              className={`grid h-full min-h-0 grid-cols-[minmax(0,1fr)] grid-rows-[minmax(6rem,1fr)] auto-rows-auto overflow-y-auto ${isDraggedOver ? 'outline-2 -outline-offset-2 outline-lapis outline-dashed' : ''}`}
            >
              <Register
                ref={register}
                columns={columns}
                editable={view === 'plan' && store.may('write')}
                others={presence.others}
                onTyped={setTyped}
                onRename={rename}
              />
              {offeredWhole.length > 0 ? (
                <Suspense>
                  <WholePagesQuestion files={offeredWhole} />
                </Suspense>
              ) : offered.length > 0 ? (
                <Suspense>
                  <TextsQuestion offered={offered} />
                </Suspense>
              ) : asked ? (
                <AskedQuestion key={asked.id} asked={asked} />
              ) : typed && typedRipple.ripple ? (
                <TypedRipple change={typed} ripple={typedRipple.ripple} />
              ) : renamed ? (
                <AddressQuestion key={renamed} pageId={renamed} onEnd={() => setRenamed(null)} />
              ) : (
                <RippleNotice />
              )}
              <FilesPart />
              <footer className="flex h-10 items-center gap-4 overflow-hidden border-t border-rule px-4 text-sm whitespace-nowrap text-quiet">
                <span>{count(realPlaces(tree).length, 'page')}</span>
                <span className="min-w-0 truncate">{count(names.folderCount, 'folder')}</span>
                <span className="min-w-0 truncate max-sm:hidden">{count(depth, 'level')} deep</span>
                {view === 'plan' && store.may('write') && (
                  <button
                    type="button"
                    className="ml-auto shrink-0 text-lapis"
                    onClick={() => register.current?.addPage()}
                  >
                    <span className="underline decoration-1 underline-offset-3">Add a page</span>{' '}
                    <kbd className="rounded border border-rule px-1 font-mono text-xs text-quiet pointer-coarse:hidden">
                      Enter
                    </kbd>
                  </button>
                )}
              </footer>
            </section>
          </Panel>
          <Separator
            aria-label="Width of the register"
            className="w-px bg-rule outline-offset-2 transition-colors hover:bg-lapis data-[separator=active]:bg-lapis max-desk:hidden"
          />
          <Panel minSize={320} id="desk-view">
            {file ? (
              <section aria-label={file.label} className="h-full min-h-0 min-w-0">
                <Suspense>
                  <FileView key={file.id} file={file} />
                </Suspense>
              </section>
            ) : (
              <section aria-label={viewTitles[view]} className="h-full min-h-0 min-w-0">
                <Outlet context={{ delivery } satisfies FrameContext} />
              </section>
            )}
          </Panel>
        </Group>
      </main>
    </div>
  )
}
