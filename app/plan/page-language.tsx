import { languageName } from '#core/language'
import { languagesOf } from '#core/plan'
import { useSelection, useSite } from '../document/site-context'
import { LanguagePick } from '../parts/picks/language-pick'

/** What the chosen page is in, and all below it; part of a sentence. */
export function PageLanguage() {
  const { site, tree, store } = useSite()
  const { selected } = useSelection()
  const languages = languagesOf(site)
  const language = languages.of(selected)
  const above = selected.parentId === null ? undefined : tree.byId.get(selected.parentId)
  const isSection = tree.childrenOf(selected.id).length > 0
  const asPlaced = above ? `as ${above.label} is` : 'as the site is'
  return (
    <>
      {' '}
      It is in{' '}
      <LanguagePick
        label={isSection ? 'Language of this page and those below it' : 'Language of this page'}
        words={languageName(language)}
        value={selected.language ?? ''}
        empty={`Left empty, it is ${asPlaced}.`}
        offers={languages.all.filter((tag) => tag !== selected.language)}
        onWrite={(tag) => {
          const change = { kind: 'setPageText', pageId: selected.id, field: 'language', was: selected.language } as const // prettier-ignore
          if (tag !== (selected.language ?? ''))
            void store.change({ ...change, value: tag === '' ? null : tag })
        }}
        after={selected.language === null ? ',' : '.'}
      />
      {selected.language === null && ` ${asPlaced}.`}
    </>
  )
}
