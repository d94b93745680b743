import { encodePath } from '#core/markup'
import { namesOf } from '#core/naming'
import { realPlaces, treeOf } from '#core/plan'
import { useStableActions } from '../parts/use-stable-actions'
import type { LinkTarget } from '../parts/editor/link-completion'
import { useSite } from './site-context'

/** All that a text of the site can link to, worked out when it is asked for. */
export function useLinkTargets(): () => readonly LinkTarget[] {
  const { store } = useSite()
  const { list } = useStableActions({
    list(): readonly LinkTarget[] {
      const { site } = store.get()
      const names = namesOf(site)
      const pages = realPlaces(treeOf(site)).map(({ page }) => ({
        label: page.label,
        address: `/${encodePath(names.pages.get(page.id)!.path)}`,
        isPicture: false,
        isPage: true,
      }))
      const files = site.files.map((file) => ({
        label: file.label,
        address: `/${encodePath(names.files.get(file.id)!)}`,
        isPicture: file.kind === 'image',
        isPage: false,
      }))
      return [...pages, ...files]
    },
  })
  return list
}
