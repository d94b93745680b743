import type { Checking } from '#core/site'
import type { Finding } from './rule'

/** Findings, apart from those that were put aside and are still what they were then. */
export function withoutAside(
  findings: readonly Finding[],
  { asides }: Checking,
): { readonly open: Finding[]; readonly aside: Finding[] } {
  const isAside = ({ key, what }: Finding) => Object.hasOwn(asides, key) && asides[key]!.what === what
  return { open: findings.filter((one) => !isAside(one)), aside: findings.filter(isAside) }
}

/** Whether it takes more from a visitor than a detail. */
export const isGrave = ({ grade }: Pick<Finding, 'grade'>): boolean => grade !== 'detail'
