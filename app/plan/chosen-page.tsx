import { useMemo } from 'react'
import { useSelection, useSite } from '../document/site-context'
import { Path } from '../parts/path'
import { DatedSection } from './dated-section'
import { FlagPick } from './flag-pick'
import { ManyPages } from './many-pages'
import { OwnName } from './own-name'
import { PageLanguage } from './page-language'
import { PageTranslations, TranslatePage } from './page-translations'
import { SectionPick } from './section-pick'

/** What the plan says of the chosen page, as a sentence whose words can be changed. */
export function ChosenPage() {
  const { site, names, tree, store } = useSite()
  const { selected, chosen } = useSelection()
  const pageIds = useMemo(() => [selected.id], [selected.id])
  if (chosen.length > 1) return <ManyPages />
  const home = selected.id === site.homeId
  const place = tree.placeOf.get(selected.id)
  const section = selected.parentId === null ? undefined : tree.byId.get(selected.parentId)
  const standing = section ? `under ${section.label}` : 'at the top level'
  const path = names.pages.get(selected.id)?.path ?? ''
  return (
    <section className="px-7 pt-6 pb-5" aria-label="The chosen page">
      <h2 className="mb-1 truncate text-[26px]">
        <bdi>{selected.label}</bdi>
      </h2>
      {!place?.trial && <Path path={path} className="mb-3 text-quiet" />}
      {home ? (
        <p className="font-serif text-[18px] leading-[1.8]">
          This is the home page: the file a server shows for the address of the site itself.
          <PageLanguage key={selected.id} />
          <PageTranslations key={`translations ${selected.id}`} />
          <TranslatePage key={`translate ${selected.id}`} />
        </p>
      ) : (
        <p className="font-serif text-[18px] leading-[1.9]">
          This page is{' '}
          <FlagPick
            flag="trial"
            label="Part of the site"
            no={{ words: 'part of the site' }}
            yes={{ words: 'a trial page', hint: 'For trying a design: never in a menu, never uploaded' }}
            after=","
          />{' '}
          it stands{' '}
          <span className="whitespace-nowrap">
            <SectionPick pageIds={pageIds}>
              <button type="button" className="pick" aria-label={`Place: ${standing}`}>
                {standing}
              </button>
            </SectionPick>
            ,
          </span>{' '}
          is{' '}
          <FlagPick
            flag="inMenus"
            label="Menus"
            yes={{ words: 'listed in menus' }}
            no={{ words: 'left out of menus', hint: 'Reached by links in other pages only' }}
            after=","
          />{' '}
          and its name <OwnName key={selected.id} />
          <DatedSection key={`date ${selected.id}`} />
          <PageLanguage key={`language ${selected.id}`} />
          <PageTranslations key={`translations ${selected.id}`} />
          {!place?.trial && (
            <>
              {' '}
              <button
                type="button"
                className="link mr-3 font-sans text-sm"
                onClick={() => store.change({ kind: 'setHome', pageId: selected.id, was: site.homeId })}
              >
                Make it the home page
              </button>
              <TranslatePage key={`translate ${selected.id}`} />
            </>
          )}
        </p>
      )}
    </section>
  )
}
