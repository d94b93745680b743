import { faultsInText, type TypedAs, type TypedFault } from '#core/findings'

export interface FaultsQuestion {
  readonly number: number
  readonly text: string
  readonly as: TypedAs
}

export interface FaultsAnswer {
  readonly number: number
  readonly faults: readonly TypedFault[]
}

export const faultsTyped = (_: unknown, { number, text, as }: FaultsQuestion): FaultsAnswer => ({
  number,
  faults: faultsInText(text, as),
})
