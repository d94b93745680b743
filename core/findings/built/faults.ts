import type { Page } from '#core/site'
import { type Finding, inPage } from '../rule'
import { builtRules } from './index'

/** Something wrong with a finished page, as a checker of the whole page says it. */
export interface BuiltFault {
  readonly rule: 'built-markup' | 'built-accessibility' | 'built-accessibility-grave'
  /** The checker's own name for it. */
  readonly code: string
  readonly what: string
  /** The beginning of the source it stands in; '' where that is not known. */
  readonly piece: string
  /** 1-based, in the finished page; none where that is not known, or in what was kept before it was told. */
  readonly line?: number
}

/** Pages named where one thing is wrong on many: it stands in their template. */
const mostNamed = 3

/**
 * What was found on finished pages: what is wrong on several of them alike is told once, at the first, with
 * how many have it.
 */
export function builtFindings(
  pages: readonly { readonly page: Page; readonly faults: readonly BuiltFault[] }[],
): Finding[] {
  const alike = new Map<string, { fault: BuiltFault; pages: Page[] }>()
  for (const { page, faults } of pages)
    for (const fault of faults) {
      const key = `${fault.rule} ${fault.code} ${fault.piece}`
      const known = alike.get(key)
      if (!known) alike.set(key, { fault, pages: [page] })
      else if (known.pages[known.pages.length - 1] !== page) known.pages.push(page)
    }
  const rank = ({ rule }: Finding) => builtRules.findIndex(({ id }) => id === rule)
  const findings = [...alike].map(([key, { fault, pages: on }]): Finding => {
    const others = on.slice(1, 1 + mostNamed).map(({ label }) => `“${label}”`)
    const more = on.length - 1 - others.length
    const also = on.length === 1 ? '' : ` So on ${others.join(', ')}${more > 0 ? ` and ${more} more` : ''}.`
    return {
      rule: fault.rule,
      key: `${key} ${on.length === 1 ? on[0]!.id : ''}`.trim(),
      place: {
        ...inPage(on[0]!),
        piece: fault.piece,
        ...(fault.line !== undefined && { madeLine: fault.line }),
      },
      what: fault.what + also,
      mends: [],
    }
  })
  return findings.sort((a, b) => rank(a) - rank(b))
}
