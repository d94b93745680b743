import { nearestPath } from '#core/links'
import { relativeReference, resolveReference } from '#core/links'
import { encodePath } from '#core/markup'
import { namesOf } from '#core/naming'
import { treeOf } from '#core/plan'
import { type Hash, textsOfPage } from '#core/site'
import { homeFileOf } from '#core/template'
import type { SiteWords } from '../parts/editor/site-words'
import { useStableActions } from '../parts/use-stable-actions'
import { useSite } from './site-context'
import { useLinkTargets } from './use-link-targets'
import { fetchText } from './use-text'

/**
 * All that an editor knows of the site.
 * @param from path of what holds the text, which relative addresses start from; '' for a template
 */
export function useSiteWords(from: string): SiteWords {
  const { store } = useSite()
  const links = useLinkTargets()
  /** Those that can be had: completion goes on without the others. */
  const textsOf = async (hashes: readonly Hash[]): Promise<readonly string[]> => {
    const { site } = store.get()
    const read = await Promise.allSettled(hashes.map((hash) => fetchText(site.id, hash)))
    return read.flatMap((one) => (one.status === 'fulfilled' ? [one.value] : []))
  }
  return useStableActions<SiteWords>({
    links,
    lost(href) {
      const { site } = store.get()
      const names = namesOf(site)
      const target = resolveReference(href, from, names, homeFileOf(site))
      const tree = treeOf(site)
      if (target.kind === 'page' && tree.placeOf.get(target.id)?.trial)
        return {
          words: `${href} leads to “${tree.byId.get(target.id)!.label}”, which is a trial page and is never sent.`,
          near: null,
        }
      if (target.kind !== 'missing') return null
      const path = nearestPath(names, target.path)
      const isRooted = from === '' || href.startsWith('/')
      const near = path && (isRooted ? `/${encodePath(path)}` : relativeReference(from, path)) + target.suffix
      return { words: `${href} leads to no page or file of this site.`, near }
    },
    textsAt(href) {
      const { site } = store.get()
      const target = resolveReference(href, from, namesOf(site), homeFileOf(site))
      const page = target.kind === 'page' ? treeOf(site).byId.get(target.id) : undefined
      return textsOf(page ? textsOfPage(page).map(({ hash }) => hash) : [])
    },
    styles: () =>
      textsOf(store.get().site.files.flatMap((file) => (file.kind === 'style' ? [file.hash] : []))),
    templates: () => textsOf(store.get().site.templates.map(({ source }) => source)),
  })
}
