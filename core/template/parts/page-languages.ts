import { ownNameOf } from '#core/language'
import { ancestorsOf } from '#core/plan'
import type { Page } from '#core/site'
import type { SiteContext } from '../context'
import { flat, type GeneratedPart, ownAttribute } from './part'

/**
 * The page in the other languages that it is in, each called what its language calls itself, or with `labels="tags"` by its
 * tag; its own marked. In the order of the site's languages, or of `order="en de"`. With `missing="above"` a language that it is not in leads to the nearest page above it that is.
 */
export const pageLanguages: GeneratedPart = {
  name: 'page-languages',
  attributes: [
    ownAttribute,
    { name: 'labels', values: ['names', 'tags'] },
    { name: 'missing', values: ['omit', 'above'] },
    { name: 'order', values: [], isLanguages: true },
  ],
  list: 'ul',
  listsLanguages: true,
  omitsOwn: ({ own }) => own === 'omit',
  entries(context, { missing, order }, page) {
    const those = missing === 'above' ? nearest(context, page) : context.translations.of(page)
    if (those.length < 2) return []
    return flat(order === undefined ? those : inOrder(context, those, order))
  },
  label(context, { labels }, page) {
    const language = context.languages.of(page)
    return labels === 'tags' ? language : ownName(context, language)
  },
}

/** Pages by the order of some languages; those in others after them, as they were. */
function inOrder({ languages }: SiteContext, pages: readonly Page[], order: string): Page[] {
  const ranks = new Map(order.toLowerCase().split(/\s+/).map((tag, index) => [tag, index])) // prettier-ignore
  const rankOf = (page: Page) => ranks.get(languages.of(page).toLowerCase()) ?? ranks.size
  return [...pages].sort((a, b) => rankOf(a) - rankOf(b))
}

/** A page for each language that pages are translated into: itself in its own. */
function nearest({ translations, languages, tree, site }: SiteContext, page: Page): Page[] {
  const own = languages.of(page)
  const home = tree.byId.get(site.homeId)
  const above = [page, ...ancestorsOf(tree, page).reverse(), ...(home ? [home] : [])]
  return translations.languages.flatMap((language) => {
    if (language === own) return [page]
    for (const one of above) {
      const found = translations.inLanguage(one, language)
      if (found) return [found]
    }
    return []
  })
}

/** What a language calls itself, with its tag where another of the site is called the same: the English of two countries. */
function ownName({ translations }: SiteContext, language: string): string {
  const name = ownNameOf(language)
  const isTwice = translations.languages.some((one) => one !== language && ownNameOf(one) === name)
  return isTwice ? `${name} (${language})` : name
}
