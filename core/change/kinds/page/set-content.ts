import type { Hash } from '#core/site'
import { elsewhere, updatePage } from '../../edited'
import { type ChangeKind, quoted } from '../../kind'

/** Writes what a page's content slot holds. */
export interface SetContent {
  readonly pageId: string
  readonly content: Hash
  readonly was: Hash
}

/** As a window asks for it: only the server names texts by hash. */
export interface WriteContent {
  readonly pageId: string
  readonly text: string
  readonly was: Hash
}

export const setContent: ChangeKind<SetContent, WriteContent> = {
  shown: () => null,
  title: ({ pageId }, before) => `writing in ${quoted(before, pageId)}`,
  apply: (site, { pageId, content, was }) =>
    updatePage(site, pageId, (page) =>
      page.content === was || page.content === content
        ? { ...page, content }
        : elsewhere(`The text of “${page.label}”`, page.content),
    ),
}
