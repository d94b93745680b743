import { faultsInText, type TypedAs, type TypedFault } from '#core/findings'
import { findCssReferences, readHtml, type Reference } from '#core/markup'
import { compileTemplate } from '#core/template'

export interface FaultsQuestion {
  readonly number: number
  readonly text: string
  readonly as: TypedAs
}

export interface FaultsAnswer {
  readonly number: number
  readonly faults: readonly TypedFault[]
  /** Where it leads: whether anything stands there is known where the site is. */
  readonly references: readonly Reference[]
}

/** More are not looked at while they are typed. */
const mostReferences = 5_000

const referencesIn = (text: string, as: TypedAs): readonly Reference[] =>
  as === 'css'
    ? findCssReferences(text)
    : as === 'template'
      ? compileTemplate(text).references.filter(({ href }) => !href.includes('{'))
      : readHtml(text).references

export const faultsTyped = (_: unknown, { number, text, as }: FaultsQuestion): FaultsAnswer => ({
  number,
  faults: faultsInText(text, as),
  references: referencesIn(text, as).slice(0, mostReferences),
})
