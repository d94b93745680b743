import { useState } from 'react'
import { checkOwnName } from '#core/naming'
import { useSelection, useSite } from '../document/site-context'
import { Button } from '../parts/button'
import { Path } from '../parts/path'
import { Pick } from '../parts/pick'
import { ManyPages } from './many-pages'

/** What the plan says of the chosen page, as a sentence whose words can be changed. */
export function ChosenPage() {
  const { site, names, tree, store } = useSite()
  const { selected, chosen } = useSelection()
  if (chosen.length > 1) return <ManyPages />
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
          {!place?.trial && (
            <button
              type="button"
              className="link ml-3 font-sans text-sm"
              onClick={() => store.change({ kind: 'setHome', pageId: selected.id, was: site.homeId })}
            >
              Make it the home page
            </button>
          )}
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
