import { elsewhere } from '../../edited'
import type { ChangeKind } from '../../kind'

/** Says what a page may weigh with all that it needs, in bytes. */
export interface SetMostWeight {
  readonly bytes: number
  readonly was: number
}

export const setMostWeight: ChangeKind<SetMostWeight> = {
  manages: true,
  title: () => 'what a page may weigh',
  apply(site, { bytes, was }) {
    const { mostPageBytes } = site.checking
    if (mostPageBytes !== was && mostPageBytes !== bytes) return elsewhere('What a page may weigh', null)
    return { site: { ...site, checking: { ...site.checking, mostPageBytes: bytes } } }
  },
}
