import { updatePages } from '../../edited'
import type { ChangeKind } from '../../kind'

/** Takes forwarding pages away: these old addresses are given up, by page. */
export interface DropAddresses {
  readonly addresses: Readonly<Record<string, readonly string[]>>
}

export const dropAddresses: ChangeKind<DropAddresses> = {
  manages: true,
  title: () => 'giving up old addresses',
  question: () => ({
    name: 'Old addresses',
    what: 'Old addresses are given up',
    go: 'Give them up',
    leave: 'Keep them',
  }),
  apply: (site, change) =>
    updatePages(site, (page) => {
      const dropped = change.addresses[page.id]
      return dropped ? { ...page, addresses: page.addresses.filter((path) => !dropped.includes(path)) } : page
    }),
}
