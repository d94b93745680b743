import { languageName } from '#core/language'
import { type OtherWord, wordsInOther } from '#core/template'
import { inTemplate, type Rule } from '../../rule'
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
      const said = templates
        ? languages.map((language) => ({ language, words: wordsOf(sourceOf(template), language) }))
        : []
      const other = said.find(({ words }) => words.length > 0)
      if (!other) return []
      const { language, words } = other
      const more = words.length === 1 ? '' : `, and ${words.length - 1} more in such words`
      const isOne = languages.length === 1
      const whose = isOne
        ? language === site.language
          ? 'the site is'
          : 'its pages are'
        : 'some of its pages are'
      return [
        {
          ...(isOne ? {} : { mark: language }),
          place: inTemplate(template),
          what: `It says “${words[0]!.word}”${more}; ${whose} in ${languageName(language)}.`,
          // What is right on some pages is wrong on others: those need a template of their own.
          mends: isOne
            ? [
                {
                  words: `Say it in ${languageName(language)}`,
                  edits: words.map(({ start, end, text }) => ({ start, end, text })),
                  was: template.source,
                },
              ]
            : [],
        },
      ]
    })
  },
}
