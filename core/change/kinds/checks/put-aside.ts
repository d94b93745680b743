import { count, mostAsides } from '#core/site'
import { refuse } from '../../edited'
import type { ChangeKind } from '../../kind'

/** Puts findings aside for a reason: they are not told again until what they speak of changes. */
export interface PutAside {
  readonly findings: readonly { readonly key: string; readonly what: string }[]
  readonly reason: string
}

export const putAside: ChangeKind<PutAside> = {
  title: ({ findings }) => `${count(findings.length, 'finding')} put aside`,
  apply(site, { findings, reason }) {
    const asides = { ...site.checking.asides }
    for (const { key, what } of findings) asides[key] = { what, reason: reason.trim() }
    if (Object.keys(asides).length > mostAsides)
      return refuse('invalid', `A site may have ${mostAsides} findings put aside. Mend some of them.`)
    return { site: { ...site, checking: { ...site.checking, asides } } }
  },
}
