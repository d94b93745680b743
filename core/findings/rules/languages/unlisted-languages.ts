import { languageName } from '#core/language'
import { resolveReference } from '#core/links'
import { type Page, type Template, textsOfPage } from '#core/site'
import { type CompiledTemplate, givesOutWhole, listLanguages, sayTranslations } from '#core/template'
import { type FindingContext, type Found, inTemplate, type Rule } from '../../rule'
import { outermost } from '../skeleton/of-skeleton'

/** Templates of pages that are in several languages, by what heads them: for how many of them something is lacking. */
function translatedBy(
  context: FindingContext,
  isLacking: (page: Page, template: CompiledTemplate) => boolean,
): ReadonlyMap<Template, number> {
  const { site, pages, translations, templates } = context
  const counts = new Map<Template, number>()
  if (!templates || translations.languages.length === 0) return counts
  for (const page of pages) {
    if (translations.of(page).length === 0 || givesOutWhole(templates.of(page))) continue
    const template = isLacking(page, templates.of(page)) ? outermost(site, templates.idOf(page)) : undefined
    if (template) counts.set(template, (counts.get(template) ?? 0) + 1)
  }
  return counts
}

/** Whether what a page holds itself leads to it in each other language, by references that `holds`. */
function leadsItself(
  { names, homeFile, factsOf, translations }: FindingContext,
  page: Page,
  holds: RegExp,
): boolean {
  const from = names.pages.get(page.id)!.path
  const led = new Set<string>()
  for (const { hash } of textsOfPage(page))
    for (const { holder, href } of factsOf(hash).references) {
      const target = holds.test(holder) ? resolveReference(href, from, names, homeFile) : null
      if (target?.kind === 'page') led.add(target.id)
    }
  return translations.of(page).every(({ id }) => id === page.id || led.has(id))
}

const pagesOf = (count: number) => (count === 1 ? 'A page' : `${count} pages`)

/** Pages that are in several languages, and from which nothing leads from one to the other. */
export const unlistedLanguages: Rule = {
  id: 'unlisted-languages',
  grade: 'hinders',
  title: 'Pages in several languages that do not lead to one another',
  why: 'Who comes to a page in a language that they do not read goes away, though it is there in theirs.',
  reads: 'site',
  find: (context) =>
    [
      ...translatedBy(
        context,
        (page, { listsLanguages }) => !listsLanguages && !leadsItself(context, page, /^a href$/),
      ),
    ].map(([template, count]): Found => {
      const edits = listLanguages(context.sourceOf(template), context.site.language)
      const languages = context.translations.languages.map(languageName)
      return {
        place: inTemplate(template),
        what: `${pagesOf(count)} made with this template ${count === 1 ? 'is' : 'are'} there in another language (${languages.join(', ')}). Its menus lead to all languages alike.`,
        mends: edits.length > 0 ? [{ words: 'List each page’s languages', edits, was: template.source }] : [],
      }
    }),
}

/** Templates that do not say to search engines where their pages are in other languages (HTML §4.6.7.1). */
export const unsaidAlternates: Rule = {
  id: 'unsaid-alternates',
  grade: 'detail',
  title: 'Languages that search engines are not told',
  why: 'Search engines lead people to the page in another language than the one that they search in.',
  reads: 'site',
  find: (context) =>
    // Without an address of the site there is nothing to say.
    context.site.publicAddress === ''
      ? []
      : [...translatedBy(context, (page) => !leadsItself(context, page, /^link/))].flatMap(
          ([template, count]): Found[] => {
            const edits = sayTranslations(context.sourceOf(template))
            if (edits.length === 0) return []
            const [they, say] = count === 1 ? ['it is', 'does'] : ['they are', 'do']
            return [
              {
                place: inTemplate(template),
                what: `${pagesOf(count)} made with this template ${say} not say in the head where ${they} in other languages.`,
                mends: [{ words: 'Say where other languages are', edits, was: template.source }],
              },
            ]
          },
        ),
}
