import { languageName } from '#core/language'
import { type OtherWord, wordsInOther } from '#core/template'
import { inTemplate, type Rule } from '../../rule'

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

/** A template with the words it was shipped with, in another language than the site is in now (WCAG 2.2 §3.1.2). */
export const templateWords: Rule = {
  id: 'template-words',
  grade: 'detail',
  title: 'Words of a template in another language',
  why: 'Those who hear a page are told where they are in another language than the rest of it, with its sounds.',
  reads: 'site',
  find: ({ site, templates, sourceOf }) =>
    site.templates.flatMap((template) => {
      const words = templates ? wordsOf(sourceOf(template), site.language) : []
      const [first] = words
      if (!first) return []
      const more = words.length === 1 ? '' : `, and ${words.length - 1} more in such words`
      return [
        {
          place: inTemplate(template),
          what: `It says “${first.word}”${more}; the site is in ${languageName(site.language)}.`,
          mends: [
            {
              words: `Say it in ${languageName(site.language)}`,
              edits: words.map(({ start, end, text }) => ({ start, end, text })),
              was: template.source,
            },
          ],
        },
      ]
    }),
}
