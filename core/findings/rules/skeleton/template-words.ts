import { languageName } from '#core/language'
import { type OtherWord, wordsInOther } from '#core/template'
import type { Page, Site, Template } from '#core/site'
import { type EditedCopy, type FindingContext, inTemplate, type Mend, type Rule } from '../../rule'
import { basesOf, languagesBy } from './of-skeleton'

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
  const copy = copyFor(context, template, language)
  if (!copy) return []
  // What it is based on takes it along, where that says some of it.
  const isSecond = basesOf(context.site, template).some(
    (base) => wordsOf(context.sourceOf(base), language).length > 0,
  )
  return [{ words: `A template in ${called}`, ...way, copy, ...(isSecond && { isOther: true }) }]
}

/**
 * What is right on some pages is wrong on others: those in a language get a copy of their template, and where theirs is based
 * on it, one of that too. Null where templates are based on one another further than that.
 */
function copyFor(context: FindingContext, template: Template, language: string): EditedCopy | null {
  const { site, templates, languages } = context
  const called = (name: string) => nameBeside(site, `${name} in ${languageName(language)}`)
  /** Templates that pages in the language, and in others, are made with. */
  const users = new Map<Template, { isIn: boolean; isInOthers: boolean }>()
  const those = new Map(
    site.templates
      .filter((own) => own.id === template.id || basesOf(site, own).includes(template))
      .map((own) => [own.id, own]),
  )
  for (const page of context.pages) {
    const own = those.get(templates!.idOf(page))
    if (!own) continue
    const user = users.get(own) ?? { isIn: false, isInOthers: false }
    users.set(own, user)
    if (languages.of(page) === language) user.isIn = true
    else user.isInOthers = true
  }
  const above = [...users].filter(([own, { isIn }]) => isIn && own.id !== template.id)
  if (above.some(([own]) => own.basedOn !== template.id)) return null
  const copy: EditedCopy = {
    name: called(template.name),
    forPages: topmost(context, template, language),
    rebased: above.filter(([, { isInOthers }]) => !isInOthers).map(([{ id }]) => id),
    copies: above
      .filter(([, { isInOthers }]) => isInOthers)
      .map(([own]) => ({ of: own.id, name: called(own.name), forPages: topmost(context, own, language) })),
  }
  return copy.forPages.length + copy.rebased.length + copy.copies.length > 0 ? copy : null
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
