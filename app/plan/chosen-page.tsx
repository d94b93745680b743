import { useSelection, useSite } from '../document/site-context'
import { Path } from '../parts/path'
import { Pick } from '../parts/pick'
import { DatedSection } from './dated-section'
import { ManyPages } from './many-pages'
import { OwnName } from './own-name'

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
            after=","
          />{' '}
          it is{' '}
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
            after=","
          />{' '}
          and its name <OwnName key={selected.id} />
          <DatedSection key={`date ${selected.id}`} />
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
