import { findStyleFaults, parseHtml, type Range, readHtml, type TextEdit } from '#core/markup'
import { emptyHash } from '#core/site'
import { compileTemplate, fillsOf } from '#core/template'
import { type Grade, placeTold, type TextFacts } from './rule'
import { checks } from './rules'
import { markupSentence } from './rules/markup/markup-error'
import { styleSentence } from './rules/style/style-fault'
import { outsideSentence } from './rules/template/outside-slots'
import { unknownSentence } from './rules/template/unknown-word'

/** What a text is: what a page holds, a template, a style sheet. */
export type TypedAs = 'html' | 'template' | 'css'

/** Something wrong in a text while it is typed, where it stands. */
export interface TypedFault extends Range {
  readonly words: string
  readonly grade: Grade
  /** Ways to mend it, in the text as it was given. */
  readonly mends?: readonly { readonly words: string; readonly edits: readonly TextEdit[] }[]
}

/** Faults shown at once: of more, the first ones are mended first. */
const mostFaults = 200

/** Everything that a text says of itself that is wrong, as Checks will find it. Nothing of the site is known here. */
export function faultsInText(text: string, as: TypedAs): TypedFault[] {
  const faults = as === 'css' ? inStyle(text) : as === 'template' ? inTemplate(text) : inPage(text)
  return faults
    .map((fault) => ({ ...fault, end: Math.max(fault.end, Math.min(fault.start + 1, text.length)) }))
    .sort((a, b) => a.start - b.start)
    .slice(0, mostFaults)
}

/** What the rules say that read nothing but a text. */
const byRules = (facts: TextFacts): TypedFault[] =>
  checks.flatMap((rule) =>
    rule.reads !== 'text'
      ? []
      : rule
          .find(facts, (told) => ({ kind: 'page', id: '', ...(told && placeTold(told)) }), emptyHash)
          .map(({ place, what, mends = [] }) => ({
            start: place.start ?? 0,
            end: place.end ?? 0,
            words: what,
            grade: rule.grade,
            mends: mends.flatMap((one) =>
              'edits' in one && !one.in ? [{ words: one.words, edits: one.edits }] : [],
            ),
          })),
  )

function inPage(text: string): TypedFault[] {
  const facts = readHtml(text)
  const seen = new Set<string>()
  const repeated = new Set<string>()
  for (const id of facts.ids) if (repeated.size < mostFaults) (seen.has(id) ? repeated : seen).add(id)
  return [...byRules(facts), ...[...repeated].flatMap((id) => repeatedId(text, id))]
}

/** The second and later places that carry one id. */
function repeatedId(text: string, id: string): TypedFault[] {
  const found: TypedFault[] = []
  for (const quote of [`id="${id}"`, `id='${id}'`, `id=${id}`])
    for (let at = text.indexOf(quote); at >= 0 && found.length < 50; at = text.indexOf(quote, at + 1))
      if (/\s/.test(text[at - 1] ?? ''))
        found.push({ start: at, end: at + quote.length, words: `The id “${id}” is given twice: a link to it leads to the first.`, grade: 'hinders' }) // prettier-ignore
  return found.sort((a, b) => a.start - b.start).slice(1)
}

function inTemplate(text: string): TypedFault[] {
  const { unknown, slots, facts, outside } = compileTemplate(text)
  const isDocument = /<(!doctype|html|head|body)[\s>]/i.test(text)
  const seen = new Set<string>()
  const twice = slots.flatMap(({ name, start, end }): TypedFault[] => {
    if (!seen.has(name)) {
      seen.add(name)
      return []
    }
    return [{ start, end, words: `There is a slot “${name}” already: what a page holds there would be shown twice.`, grade: 'hinders' }] // prettier-ignore
  })
  // What fills the slots of another is read by itself, as it will stand there.
  const errors = isDocument
    ? parseHtml(text, true).errors
    : fillsOf(text).flatMap(({ start, end }) =>
        parseHtml(text.slice(start, end), false).errors.map((error) => ({
          ...error,
          start: error.start + start,
          end: error.end + start,
        })),
      )
  return [
    ...errors.map(({ code, start, end }) => ({
      start,
      end,
      words: markupSentence(code),
      grade: 'hinders' as const,
    })),
    ...byRules({ ...facts, errors: [] }),
    ...unknown.map((one) => ({
      start: one.start,
      end: one.end,
      words: unknownSentence(one),
      grade: 'breaks' as const,
    })),
    ...(isDocument ? [] : outside).map(({ start, end }) => ({
      start,
      end,
      words: outsideSentence,
      grade: 'breaks' as const,
    })),
    ...twice,
  ]
}

const inStyle = (text: string): TypedFault[] =>
  findStyleFaults(text).map((fault) => ({
    start: fault.start,
    end: fault.end,
    words: styleSentence(fault),
    grade: 'hinders',
  }))
