import { languageName } from '#core/language'
import { type OtherWord, wordsInOther } from '#core/template'
import type { Page, Site, Template } from '#core/site'
import { type FindingContext, inTemplate, type Mend, type Rule } from '../../rule'
import { languagesBy } from './of-skeleton'

/** Templates are few, and asked again after each change: what was found in the last of them, by language and source. */
const mostKnown = 20
const known = new Map<string, readonly OtherWord[]>()

function wordsOf(source: string, language: string): readonly OtherWord[] {
  const key = `${language} ${source}`
  const before = known.get(key)
  if (before) return before
  const words = wordsInOther(source, language)
  if (known.size >= mostKnown) known.clear()
  known.set(key, words)
  return words
}

/** A template with the words it was shipped with, in another language than its pages are in now (WCAG 2.2 §3.1.2). */
export const templateWords: Rule = {
  id: 'template-words',
  grade: 'detail',
  title: 'Words of a template in another language',
  why: 'Those who hear a page are told where they are in another language than the rest of it, with its sounds.',
  reads: 'site',
  find: (context) => {
    const { site, templates, sourceOf } = context
    const spoken = languagesBy(context)
    return site.templates.flatMap((template) => {
      const languages = spoken.get(template) ?? [site.language]
      const isOne = languages.length === 1
      return (templates ? languages : []).flatMap((language) => {
        const words = wordsOf(sourceOf(template), language)
        if (words.length === 0) return []
        const more = words.length === 1 ? '' : `, and ${words.length - 1} more in such words`
        const ofAll = language === site.language ? 'the site is' : 'its pages are'
        const called = languageName(language)
        return [
          {
            ...(isOne ? {} : { mark: language }),
            place: inTemplate(template),
            what: `It says “${words[0]!.word}”${more}; ${isOne ? ofAll : 'some of its pages are'} in ${called}.`,
            mends: mendsOf(context, template, language, words, isOne),
          },
        ]
      })
    })
  },
}

function mendsOf(
  context: FindingContext,
  template: Template,
  language: string,
  words: readonly OtherWord[],
  isForAll: boolean,
): Mend[] {
  const called = languageName(language)
  const way = { edits: words.map(({ start, end, text }) => ({ start, end, text })), was: template.source }
  if (isForAll) return [{ words: `Say it in ${called}`, ...way }]
  // What is right on some pages is wrong on others. Those of a template based on this one need more than a copy.
  const forPages = topmost(context, template, language)
  if (forPages.length === 0) return []
  const name = nameBeside(context.site, `${template.name} in ${called}`)
  return [{ words: `A template in ${called}`, ...way, copy: { name, forPages } }]
}

/** Pages in a language that are made with a template and are not below another such page. */
function topmost(
  { pages, tree, templates, languages }: FindingContext,
  { id }: Template,
  language: string,
): string[] {
  const isSuch = (page: Page | undefined) =>
    page !== undefined && languages.of(page) === language && templates!.idOf(page) === id
  return pages
    .filter((page) => isSuch(page) && !(page.parentId !== null && isSuch(tree.byId.get(page.parentId))))
    .map((page) => page.id)
}

/** A name that no template has yet. */
function nameBeside({ templates }: Site, wanted: string): string {
  const taken = new Set(templates.map(({ name }) => name))
  const base = wanted.slice(0, 90)
  let name = base
  for (let number = 2; taken.has(name); number++) name = `${base} ${number}`
  return name
}
