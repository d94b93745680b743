import { emptyHash, type Hash, slotOf, withSlot } from '#core/site'
import { elsewhere, refuse, updatePage } from '../../edited'
import { type ChangeKind, quoted } from '../../kind'

/** Moves what a page holds in one slot to another that is empty. */
export interface MoveSlot {
  readonly pageId: string
  readonly from: string
  readonly to: string
  readonly was: Hash
}

export const moveSlot: ChangeKind<MoveSlot> = {
  title: ({ pageId, from, to }, before) =>
    `moving what “${from}” of ${quoted(before, pageId)} held to “${to}”`,
  apply: (site, { pageId, from, to, was }) =>
    updatePage(site, pageId, (page) => {
      const held = slotOf(page, from)
      if (held !== was) return elsewhere(`The text of “${page.label}”`, held)
      if (slotOf(page, to) !== emptyHash)
        return refuse('invalid', `The slot “${to}” of “${page.label}” holds something already.`)
      return withSlot(withSlot(page, from, emptyHash), to, held)
    }),
}
