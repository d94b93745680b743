import { pick } from '#core/site'
import { updatePages } from '../../edited'
import { type ChangeKind, several } from '../../kind'

/** Gives names that were held still back to the scheme; the addresses change. */
export interface ReleaseNames {
  readonly pageIds: readonly string[]
}

export const releaseNames: ChangeKind<ReleaseNames> = {
  namesAfresh: true,
  title: ({ pageIds }, before) =>
    `${pick(pageIds.length, 'a new address', 'new addresses')} for ${several(before, pageIds)}`,
  question: ({ pageIds }, before) => ({
    name: 'Name',
    what: `${several(before, pageIds)} ${pick(pageIds.length, 'takes the name', 'take the names')} of the scheme`,
    go: `Use the ${pick(pageIds.length, 'name', 'names')} of the scheme`,
    leave: 'Leave the address',
  }),
  apply(site, change) {
    const ids = new Set(change.pageIds)
    return updatePages(site, (page) =>
      ids.has(page.id) && page.keptName !== null ? { ...page, keptName: null } : page,
    )
  },
}
