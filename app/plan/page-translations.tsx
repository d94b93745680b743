import { untranslatedFrom } from '#core/change'
import { languageName } from '#core/language'
import { languagesOf, type Languages, translationsOf } from '#core/plan'
import type { Page } from '#core/site'
import { useSelection, useSite } from '../document/site-context'
import { count } from '../parts/format'
import { LanguagePick } from '../parts/picks/language-pick'
import { PlacePick } from '../parts/picks/place-pick'
import { placesOf } from '../parts/picks/places-of'

/** What the chosen page is in the other languages of the site, each a sentence. */
export function PageTranslations() {
  const { site, tree } = useSite()
  const { selected } = useSelection()
  const languages = languagesOf(site)
  if (languages.all.length === 1 || tree.placeOf.get(selected.id)?.trial) return null
  const own = languages.of(selected)
  return languages.all
    .filter((language) => language !== own)
    .map((language) => (
      <InLanguage key={language} language={language} languages={languages} page={selected} />
    ))
}

/** Copies of the chosen page, and of all below it, in one more language. */
export function TranslatePage() {
  const { site, tree, store } = useSite()
  const { selected } = useSelection()
  if (tree.placeOf.get(selected.id)?.trial) return null
  const isHome = selected.id === site.homeId
  const own = languagesOf(site).of(selected)
  const [it, those] = isHome ? ['the site', 'all its pages'] : ['it', 'it, and of what is below it,']
  return (
    <>
      {' '}
      <LanguagePick
        isCommand
        label="Another language"
        words={`Put ${it} into another language…`}
        value=""
        hint={`Copies of ${those} stand in a section of it, to be translated; each is found from the other.`}
        refuse={(tag) => (tag === own ? `${selected.label} is in ${languageName(own)} already.` : null)}
        go="Make the copies"
        onWrite={(tag) => translate(site, store, selected, tag)}
      />
    </>
  )
}

type Open = ReturnType<typeof useSite>

function translate(site: Open['site'], store: Open['store'], page: Page, language: string): void {
  const copied = untranslatedFrom(site, page.id, language)
  const newIds = Object.fromEntries(copied.map(({ id }) => [id, crypto.randomUUID()]))
  store.change({ kind: 'translatePages', pageId: page.id, language, newIds })
}

/** What the page is in one other language. */
function InLanguage({ language, languages, page }: { language: string; languages: Languages; page: Page }) {
  const { site, tree, store } = useSite()
  const there = translationsOf(site).inLanguage(page, language)
  const name = languageName(language)
  const words = there?.label ?? 'no page'
  const missing = untranslatedFrom(site, page.id, language).length
  const those = missing === 1 && !there ? 'a copy' : count(missing, 'copy', 'copies')
  return (
    <>
      {' '}
      In {name} it is{' '}
      <PlacePick
        title={`The same page in ${name}`}
        label={`It is the same as, in ${name}`}
        places={() => [
          ...(there ? [{ id: null, label: 'no page', above: '' }] : []),
          ...placesOf(
            tree,
            (one) => one !== there && !tree.placeOf.get(one.id)!.trial && languages.of(one) === language,
          ),
        ]}
        onChoose={(id) => {
          const pair = id === null ? { pageId: there!.id, ofId: null } : { pageId: page.id, ofId: id }
          store.change({ kind: 'setTranslations', pairs: [pair] })
        }}
      >
        <button type="button" className="pick" aria-label={`In ${name}: ${words}`}>
          {words}
        </button>
      </PlacePick>
      {!there && ' yet'}
      {missing > 0 && (
        <>
          {'; '}
          <button
            type="button"
            className="link font-sans text-sm"
            onClick={() => translate(site, store, page, language)}
          >
            make {those} {there ? 'of what is below it, ' : ''}to be translated
          </button>
        </>
      )}
      .
    </>
  )
}
