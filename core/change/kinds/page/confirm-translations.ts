import { heldAgainstOriginals } from '#core/plan'
import { count } from '#core/site'
import { type ChangeKind, quoted } from '../../kind'

/** Says of pages that they say what the pages that they are translations of say now. */
export interface ConfirmTranslations {
  readonly pageIds: readonly string[]
}

export const confirmTranslations: ChangeKind<ConfirmTranslations> = {
  title: ({ pageIds: [first, ...more] }, before) =>
    first !== undefined && more.length === 0
      ? `${quoted(before, first)} as a translation that is up to date`
      : `${count(more.length + 1, 'translation')} as up to date`,
  apply: (site, { pageIds }) => ({ site: { ...site, pages: heldAgainstOriginals(site, new Set(pageIds)) } }),
}
