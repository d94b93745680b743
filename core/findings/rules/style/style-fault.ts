import type { StyleFault } from '#core/markup'
import type { Rule } from '../../rule'

/** What browsers pass over in a style sheet, as a sentence. */
export const styleSentence = ({ kind, name }: Pick<StyleFault, 'kind' | 'name'>): string =>
  kind === 'syntax'
    ? 'Something here is no CSS, and browsers pass over it.'
    : kind === 'unknown-property'
      ? `“${name}” is no property of CSS.`
      : `This is no value that “${name}” can have.`

/** Syntax, properties and values that no browser knows. */
export const styleFault: Rule = {
  id: 'style-fault',
  grade: 'hinders',
  title: 'Style rules that browsers pass over',
  why: 'Browsers leave out what they do not know, without a word: the page looks otherwise than it was meant to.',
  reads: 'style',
  find: ({ faults }, { at }) =>
    faults.map((fault) => ({
      mark: `${fault.kind} ${fault.piece}`,
      place: at(fault),
      what: styleSentence(fault),
    })),
}
