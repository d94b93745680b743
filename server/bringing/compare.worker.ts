import { compareBrought, type ComparedPage, type OldNames, resolverOf, type ToCompare } from '#core/bringing'
import type { Hash } from '#core/site'
import { sourcesOf } from './sources'

/** Some pages to be compared, with all that they are made of. */
export interface CompareTask extends Omit<ToCompare, 'old'> {
  /** Where everything stood. */
  readonly old: Pick<OldNames, 'names' | 'beside' | 'hostFolder'>
  readonly texts: ReadonlyMap<Hash, string>
  readonly year: number
}

/** Compares what would come out of some pages. Runs in a thread that helps another. */
export default function run({ old, texts, year, ...rest }: CompareTask): readonly ComparedPage[] {
  const resolve = resolverOf(old)
  return compareBrought(
    { ...rest, old: { ...old, resolve } },
    sourcesOf((hash) => texts.get(hash) ?? '', year),
  )
}
