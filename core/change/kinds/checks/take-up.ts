import { count } from '#core/site'
import type { ChangeKind } from '../../kind'

/** Takes findings up again that were put aside. */
export interface TakeUp {
  readonly keys: readonly string[]
}

export const takeUp: ChangeKind<TakeUp> = {
  title: ({ keys }) => `${count(keys.length, 'finding')} taken up again`,
  apply(site, { keys }) {
    const gone = new Set(keys)
    const asides = Object.fromEntries(Object.entries(site.checking.asides).filter(([key]) => !gone.has(key)))
    return { site: { ...site, checking: { ...site.checking, asides } } }
  },
}
