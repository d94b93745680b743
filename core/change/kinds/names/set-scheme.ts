import deepEqual from 'fast-deep-equal'
import type { Scheme } from '#core/site'
import { elsewhere } from '../../edited'
import type { ChangeKind } from '../../kind'

/** A new scheme names every page afresh; only what an author typed stays. */
export interface SetScheme {
  readonly scheme: Scheme
  readonly was: Scheme
  /** Whether addresses that are out in the world are left with a forwarder; given up otherwise. */
  readonly forward?: boolean
}

export const setScheme: ChangeKind<SetScheme> = {
  manages: true,
  namesAfresh: true,
  title: () => 'a new naming scheme',
  question: () => ({
    name: 'Scheme',
    what: 'The scheme names every page afresh',
    go: 'Use this scheme',
    leave: 'Keep the old one',
  }),
  apply(site, change) {
    if (!deepEqual(site.scheme, change.was) && !deepEqual(site.scheme, change.scheme))
      return elsewhere('The naming scheme', null)
    return {
      site: {
        ...site,
        scheme: change.scheme,
        pages: site.pages.map((page) => {
          const addresses = change.forward === false && page.addresses.length > 0 ? [] : page.addresses
          return page.keptName === null && addresses === page.addresses
            ? page
            : { ...page, keptName: null, addresses }
        }),
      },
    }
  },
}
