import { likeness } from '#core/plan'
import { type Unknown } from '#core/template'
import { inTemplate, type Rule } from '../../rule'

/** Less alike, it is a guess that helps nobody. */
const alikeEnough = 0.4

const said: Readonly<Record<Unknown['kind'], (name: string) => string>> = {
  value: (name) => `{${name}} is no value that a template knows`,
  part: (name) => `<${name}> is no part that a template knows`,
  attribute: (name) => `“${name}” says nothing to this part`,
  'attribute value': (name) => `“${name}” is no value that this part knows`,
  'within entries': (name) => `<${name}> cannot stand in what entries are written as: it is left out`,
  'attribute of a line': (name) =>
    `“${name}” has no element to stand on: with “between” there are only links. Put it on what is around them, or say as="p"`,
}

/** One of them as a sentence, with what is known there. */
export const unknownSentence = ({ kind, name, known }: Unknown): string =>
  `${said[kind](name)}${known.length > 0 ? `; it knows ${known.join(', ')}` : ''}.`

/** What is written like the template language and is none: it goes out as it is, and visitors see it. */
export const unknownWord: Rule = {
  id: 'unknown-word',
  grade: 'breaks',
  title: 'Words that the template does not know',
  why: 'They go out as they are: a visitor reads the braces, and a menu that was meant to be there is not.',
  reads: 'site',
  find: (context) =>
    context.site.templates.flatMap((template) => {
      const seen = new Map<string, number>()
      return context.compiled(template).unknown.map((one) => {
        const { kind, name, known, start, end, again } = one
        const index = seen.get(kind + name) ?? 0
        seen.set(kind + name, index + 1)
        const near = known
          .map((word) => ({ word, alike: likeness(word, name) }))
          .sort((a, b) => b.alike - a.alike)[0]
        const word = near && near.alike >= alikeEnough ? near.word : null
        return {
          mark: `${kind} ${name} ${index}`,
          place: inTemplate(template, one),
          what: unknownSentence(one),
          mends:
            word === null
              ? []
              : [
                  {
                    words: `Write ${word}`,
                    edits: [{ start, end }, ...(again ? [again] : [])].map((range) => ({
                      ...range,
                      text: word,
                    })),
                    was: template.source,
                  },
                ],
        }
      })
    }),
}
