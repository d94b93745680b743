import type { Reference } from '#core/markup'
import type { Names } from '#core/naming'
import { resolveReference, type Target } from './resolve'

/** Where the pages and files of a site stand: the same object as long as all of them stand where they did. */
export type PlanToken = object

const known = new WeakMap<
  readonly Reference[],
  { readonly plan: PlanToken; readonly from: string; readonly targets: readonly Target[] }
>()

/**
 * What each reference of a text leads to, in their order.
 * @param plan keeps the answer for the next time that the same references are asked for under the same plan
 */
export function resolveAll(
  references: readonly Reference[],
  from: string,
  names: Names,
  homeFile: string,
  plan: PlanToken | null,
): readonly Target[] {
  const before = plan && known.get(references)
  if (before && before.plan === plan && before.from === from) return before.targets
  const targets = references.map(({ href }) => resolveReference(href, from, names, homeFile))
  if (plan) known.set(references, { plan, from, targets })
  return targets
}
