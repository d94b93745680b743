import { type Hash, mainSlot, slotOf, withSlot } from '#core/site'
import { elsewhere, updatePage } from '../../edited'
import { type ChangeKind, quoted } from '../../kind'

/** Writes what one of a page's slots holds; the slot `content` where none is named. */
export interface SetContent {
  readonly pageId: string
  readonly slot?: string
  readonly content: Hash
  readonly was: Hash
}

/** As a window asks for it: only the server names texts by hash. */
export interface WriteContent {
  readonly pageId: string
  readonly slot?: string
  readonly text: string
  readonly was: Hash
}

export const setContent: ChangeKind<SetContent, WriteContent> = {
  shown: () => null,
  title: ({ pageId }, before) => `writing in ${quoted(before, pageId)}`,
  isTyped: true,
  apply: (site, { pageId, slot = mainSlot, content, was }) =>
    updatePage(site, pageId, (page) => {
      const held = slotOf(page, slot)
      return held === was || held === content
        ? withSlot(page, slot, content)
        : elsewhere(`The text of “${page.label}”`, held)
    }),
}
