import { cleanLabel, treeOf } from '#core/plan'
import { emptyHash, type Hash, slotOf, withSlot } from '#core/site'
import { elsewhere, gone, refuse } from '../../edited'
import { type ChangeKind, quoted } from '../../kind'
import type { MovedPlaces } from '../../moved-places'
import { addPages } from '../plan/add-pages'
import { removePages } from '../plan/remove-pages'

/** One text of a page, as it is from now on. */
interface MovedText {
  readonly pageId: string
  readonly slot: string
  readonly was: Hash
}

interface AddedPage {
  readonly id: string
  readonly label: string
  /** What it is in, where that is another language than that of its place. */
  readonly language?: string
}

interface Fields {
  readonly why: 'split' | 'join' | 'move' | 'files'
  /** Pages that are made of what was taken out of others, and where they stand. */
  readonly parentId: string | null
  readonly after: string | null
  /** Pages whose text is in another page now. */
  readonly removed: readonly string[]
  readonly places: readonly MovedPlaces[]
}

/**
 * Moves text between pages: parts of one become pages, a page becomes part of another, a piece goes from one
 * to another. References to what has moved follow it.
 */
export interface MoveText extends Fields {
  readonly texts: readonly (MovedText & { readonly content: Hash })[]
  readonly added: readonly (AddedPage & { readonly content: Hash })[]
}

/** As a window asks for it. */
export interface WriteMovedText extends Fields {
  readonly texts: readonly (MovedText & { readonly text: string })[]
  readonly added: readonly (AddedPage & { readonly text: string })[]
}

export const moveText: ChangeKind<MoveText, WriteMovedText> = {
  deepens: true,
  inMenus: ({ added, removed }) => added.length + removed.length > 0,
  shown: () => null,
  places: ({ places }) => places,
  title({ why, texts, added }, before) {
    if (why === 'files')
      return added.length === 1
        ? `making “${added[0]!.label}” of a file`
        : `making ${added.length} pages of files`
    const page = quoted(before, texts[0]?.pageId ?? '')
    return why === 'split' ? `splitting ${page}` : why === 'join' ? `joining a page to ${page}` : `moving a piece of ${page}` // prettier-ignore
  },
  question({ why, texts, added, removed }, before) {
    const page = quoted(before, texts[0]?.pageId ?? '')
    if (why === 'split')
      return {
        name: 'Split a page',
        what: `${page} is split, and ${added.length === 1 ? 'one page is' : `${added.length} pages are`} made of its parts`,
        go: 'Split it',
        leave: 'Leave it whole',
      }
    if (why === 'join')
      return {
        name: 'Join pages',
        what: `${quoted(before, removed[0] ?? '')} becomes a part of ${page}`,
        go: 'Join them',
        leave: 'Leave them apart',
      }
    return {
      name: 'Move a piece',
      what: `A piece goes from ${page} to another page`,
      go: 'Move it',
      leave: 'Leave it',
    }
  },
  apply(site, change) {
    const { texts, added, removed, parentId, after } = change
    const tree = treeOf(site)
    // Made already, its answer lost on the way.
    if (added.length > 0 && added.every(({ id }) => tree.byId.has(id))) return { site }
    for (const { pageId, slot, was } of texts) {
      const page = tree.byId.get(pageId)
      if (!page) return gone('The page')
      const held = slotOf(page, slot)
      if (held !== was) return elsewhere(`The text of “${page.label}”`, held)
    }
    let next = site
    if (added.length > 0) {
      const pages = added.map(({ id, label, language }) => ({ id, label: cleanLabel(label), language }))
      const made = addPages.apply(next, { parentId, after, pages, content: emptyHash })
      if ('refusal' in made) return made
      next = made.site
    }
    if (removed.length > 0) {
      const above = removed.find((id) => tree.childrenOf(id).length > 0)
      if (above)
        return refuse('invalid', `Other pages stand under ${quoted(site, above)}: put them elsewhere first.`)
      const made = removePages.apply(next, { pageIds: removed })
      if ('refusal' in made) return made
      next = made.site
    }
    const contents = new Map(added.map(({ id, content }) => [id, content]))
    const written = new Map<string, (typeof texts)[number][]>()
    for (const text of texts) written.set(text.pageId, [...(written.get(text.pageId) ?? []), text])
    return {
      site: {
        ...next,
        pages: next.pages.map((page) => {
          const content = contents.get(page.id)
          if (content !== undefined) return { ...page, content }
          return (written.get(page.id) ?? []).reduce(
            (one, text) => withSlot(one, text.slot, text.content),
            page,
          )
        }),
      },
    }
  },
}
