import { untranslatedFrom } from '#core/change'
import { languageName } from '#core/language'
import { languagesOf, type Languages, translationsOf } from '#core/plan'
import type { Page } from '#core/site'
import { useSelection, useSite } from '../document/site-context'
import { count } from '../parts/format'
import { LanguagePick } from '../parts/picks/language-pick'
import { PlacePick } from '../parts/picks/place-pick'
import { placesOf } from '../parts/picks/places-of'

/** Which pages are the chosen one in other languages, as sentences; and how it comes to be in one more. */
export function PageTranslations() {
  const { site, tree, store } = useSite()
  const { selected } = useSelection()
  if (tree.placeOf.get(selected.id)?.trial) return null
  const languages = languagesOf(site)
  const own = languages.of(selected)
  const others = languages.all.filter((language) => language !== own)
  const translate = (language: string) => {
    const copied = untranslatedFrom(site, selected.id, language)
    const newIds = Object.fromEntries(copied.map(({ id }) => [id, crypto.randomUUID()]))
    void store.change({ kind: 'translatePages', pageId: selected.id, language, newIds })
  }
  const [it, those] =
    selected.id === site.homeId ? ['the site', 'all its pages'] : ['it', 'it, and what is below it']
  return (
    <p className="mt-1 font-serif text-[18px] leading-[1.9]">
      {others.map((language) => (
        <InLanguage
          key={language}
          language={language}
          languages={languages}
          page={selected}
          onTranslate={() => translate(language)}
        />
      ))}
      <LanguagePick
        label="Another language"
        words={`Put ${it} into another language…`}
        value=""
        hint={`Copies of ${those} stand in a section of it, to be translated; each is found from the other.`}
        refuse={(tag) => (tag === own ? `${selected.label} is in ${languageName(own)} already.` : null)}
        go="Make the copies"
        onWrite={translate}
      />
    </p>
  )
}

/** What the page is in one other language. */
function InLanguage({
  language,
  languages,
  page,
  onTranslate,
}: {
  language: string
  languages: Languages
  page: Page
  onTranslate: () => void
}) {
  const { site, tree, store } = useSite()
  const there = translationsOf(site).inLanguage(page, language)
  const name = languageName(language)
  const words = there?.label ?? 'no page'
  const missing = there ? 0 : untranslatedFrom(site, page.id, language).length
  return (
    <>
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
          void store.change({ kind: 'setTranslations', pairs: [pair] })
        }}
      >
        <button type="button" className="pick" aria-label={`In ${name}: ${words}`}>
          {words}
        </button>
      </PlacePick>
      {there ? (
        '. '
      ) : (
        <>
          {' '}
          yet;{' '}
          <button type="button" className="link font-sans text-sm" onClick={onTranslate}>
            make {missing === 1 ? 'a copy' : count(missing, 'copy', 'copies')} to be translated
          </button>
          .{' '}
        </>
      )}
    </>
  )
}
