import { useMemo, useState } from 'react'
import { withIds } from '#core/change'
import { checkOwnName } from '#core/naming'
import { outlineOfSite, readOutline, walkOutline, writeOutline } from '#core/plan'
import { useSelection, useSite } from '../document/site-context'
import { requireSite } from '../owner.server'
import { Button } from '../parts/button'
import { count } from '../parts/format'
import { Path } from '../parts/path'
import { Pick } from '../parts/pick'
import type { Route } from './+types/plan'

export async function loader({ request, params }: Route.LoaderArgs) {
  await requireSite(request, params.siteId)
  return null
}

export default function PlanView() {
  return (
    <div className="grid h-full min-h-0 grid-rows-[auto_1fr] overflow-auto">
      <ChosenPage />
      <PlanText />
    </div>
  )
}

/** What the plan says of the chosen page, as a sentence whose words can be changed. */
function ChosenPage() {
  const { site, names, tree, store } = useSite()
  const { selected } = useSelection()
  const home = selected.id === site.homeId
  const place = tree.placeOf.get(selected.id)
  const path = names.pages.get(selected.id)?.path ?? ''
  return (
    <section className="px-7 pt-6 pb-5" aria-label="The chosen page">
      <h2 className="mb-1 truncate text-[26px]">{selected.label}</h2>
      {!place?.trial && <Path path={path} className="mb-3 text-quiet" />}
      {home ? (
        <p className="font-serif text-[18px] leading-[1.8]">
          This is the home page: the file a server shows for the address of the site itself.
        </p>
      ) : (
        <p className="font-serif text-[18px] leading-[1.9]">
          This page is{' '}
          <Pick
            label="Part of the site"
            value={selected.trial ? 'trial' : 'real'}
            options={[
              { value: 'real', words: 'part of the site' },
              {
                value: 'trial',
                words: 'a trial page',
                hint: 'For trying a design: never in a menu, never uploaded',
              },
            ]}
            onPick={(value) =>
              store.change({
                kind: 'setPageFlag',
                pageIds: [selected.id],
                flag: 'trial',
                value: value === 'trial',
              })
            }
          />
          , it is{' '}
          <Pick
            label="Menus"
            value={selected.inMenus ? 'listed' : 'left-out'}
            options={[
              { value: 'listed', words: 'listed in menus' },
              { value: 'left-out', words: 'left out of menus', hint: 'Reached by links in other pages only' },
            ]}
            onPick={(value) =>
              store.change({
                kind: 'setPageFlag',
                pageIds: [selected.id],
                flag: 'inMenus',
                value: value === 'listed',
              })
            }
          />
          , and its name <OwnName key={selected.id} />.
        </p>
      )}
    </section>
  )
}

function OwnName() {
  const { site, store, names } = useSite()
  const { selected } = useSelection()
  const [typed, setTyped] = useState<string | null>(null)
  const refusal = typed === null || typed === '' ? null : checkOwnName(typed, site.scheme, site.language)
  const save = (value: string | null) => {
    store.change({ kind: 'setPageText', pageId: selected.id, field: 'ownName', value, was: selected.ownName })
    setTyped(null)
  }
  if (typed === null)
    return (
      <Pick
        label="Name"
        value={selected.ownName === null ? 'scheme' : 'own'}
        options={[
          { value: 'scheme', words: 'follows the scheme' },
          {
            value: 'own',
            words: selected.ownName === null ? 'is its own…' : `is its own, ${selected.ownName}`,
          },
        ]}
        onPick={(value) =>
          value === 'scheme'
            ? selected.ownName !== null && save(null)
            : setTyped(selected.ownName ?? names.pages.get(selected.id)?.stem ?? '')
        }
      />
    )
  return (
    <form
      className="inline-flex flex-wrap items-baseline gap-2 font-sans text-[15px]"
      onSubmit={(event) => {
        event.preventDefault()
        if (!refusal && typed !== '') save(typed)
      }}
    >
      <label>
        is its own,{' '}
        <input
          className="field !w-48 font-mono text-[14px]"
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
          onKeyDown={(event) => event.key === 'Escape' && setTyped(null)}
          aria-invalid={refusal !== null}
          aria-describedby="own-name-refusal"
          autoFocus
        />
      </label>
      <Button type="submit" className="!py-1" disabled={refusal !== null || typed === ''}>
        Use it
      </Button>
      <Button look="quiet" onClick={() => setTyped(null)}>
        Leave it
      </Button>
      {refusal && (
        <span id="own-name-refusal" role="alert" className="w-full text-sm text-rubric">
          {refusal.reason}{' '}
          <button type="button" className="link" onClick={() => setTyped(refusal.proposal)}>
            Use {refusal.proposal}
          </button>
        </span>
      )}
    </form>
  )
}

/** The plan as text: to read and copy, and to add many pages from. */
function PlanText() {
  const { site, store } = useSite()
  const { selected, select } = useSelection()
  const [text, setText] = useState('')
  const outline = useMemo(() => readOutline(text), [text])
  const lines = useMemo(() => walkOutline(outline.nodes), [outline])
  const whole = useMemo(() => writeOutline(outlineOfSite(site)), [site])
  const [copied, setCopied] = useState(false)
  const [under, setUnder] = useState<'after' | 'under'>('after')

  function add() {
    const pages = withIds(outline.nodes, () => crypto.randomUUID())
    const at =
      under === 'under' && selected.id !== site.homeId
        ? { parentId: selected.id, after: null }
        : { parentId: selected.parentId, after: selected.id }
    if ('refusal' in store.change({ kind: 'addPages', ...at, pages })) return
    setText('')
    select(pages[0]!.id)
  }
  return (
    <section
      className="grid min-h-0 grid-rows-[auto_minmax(9rem,1fr)_auto_auto_minmax(9rem,1fr)] border-t border-rule px-7 pt-5 pb-5"
      aria-label="The plan as text"
    >
      <div className="mb-2 flex items-baseline gap-4">
        <h3 className="text-[19px]">The plan as text</h3>
        <button
          type="button"
          className="link text-sm"
          onClick={() => {
            void navigator.clipboard.writeText(whole).then(() => setCopied(true))
          }}
        >
          {copied ? 'Copied' : 'Copy'}
        </button>
      </div>
      <textarea
        className="area"
        readOnly
        value={whole}
        aria-label="The whole plan as text"
        spellCheck={false}
      />
      <h3 className="mt-5 mb-1 text-[19px]">Add many pages</h3>
      <p className="mb-2 text-quiet" id="many-hint">
        Type or paste a list, a line a page, indented. It goes{' '}
        <Pick
          label="Where"
          value={under}
          options={[
            { value: 'after', words: `after “${selected.label}”` },
            { value: 'under', words: `under “${selected.label}”` },
          ]}
          onPick={setUnder}
        />
        .
      </p>
      <div className="grid min-h-0 grid-rows-[1fr_auto] gap-3">
        <textarea
          className="area"
          value={text}
          onChange={(event) => setText(event.target.value)}
          aria-label="Pages to add"
          aria-describedby="many-hint"
          spellCheck={false}
        />
        <div className="flex items-center gap-4">
          <Button look="go" disabled={lines.length === 0} onClick={add}>
            {lines.length === 0 ? 'Add pages' : `Add ${count(lines.length, 'page')}`}
          </Button>
          <span className="text-sm text-quiet">{outline.notes.join(' ')}</span>
        </div>
      </div>
    </section>
  )
}
