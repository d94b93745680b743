import { updatePages } from '../../edited'
import type { ChangeKind } from '../../kind'

/** Brings all pages up to the paths under which they are delivered. Made by the server as it sends. */
export interface NoteAddresses {
  readonly addresses: Readonly<Record<string, readonly string[]>>
}

export const noteAddresses: ChangeKind<NoteAddresses> = {
  title: () => 'what was delivered',
  apply: (site, change) =>
    updatePages(site, (page) => {
      const paths = new Set(change.addresses[page.id])
      const kept = page.addresses.filter((path) => paths.delete(path))
      return paths.size === 0 && kept.length === page.addresses.length
        ? page
        : { ...page, addresses: [...kept, ...[...paths].sort()] }
    }),
}
