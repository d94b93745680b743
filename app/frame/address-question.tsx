import { nameLabel } from '#core/naming'
import { useSite } from '../document/site-context'
import { useRipple } from '../document/use-ripple'
import { Button } from '../parts/button'
import { count } from '../parts/format'

/** After a page that is out in the world was renamed: whether its address is to change as well. */
export function AddressQuestion({ pageId, onEnd }: { pageId: string; onEnd: () => void }) {
  const { site, tree, names, store } = useSite()
  const page = tree.byId.get(pageId)
  const path = names.pages.get(pageId)?.path ?? ''
  const wanted = page ? nameLabel(page.label, site.scheme, site.language).name : ''
  const isSettled = !page || page.keptName === null || page.keptName === wanted
  const ripple = useRipple(isSettled ? null : { kind: 'releaseNames', pageIds: [pageId] })
  if (!page || isSettled) return null
  return (
    <div
      className="border-t border-rule bg-vellum px-4 py-3"
      role="group"
      aria-label="Address"
      onKeyDown={(event) => event.stopPropagation()}
    >
      <p className="mb-2.5">
        <b className="font-semibold">Ripple.</b> “{page.label}” keeps its address{' '}
        <span className="font-mono text-[13px]">{path}</span>, which is out in the world.{' '}
        {ripple &&
          `Changing it renames ${count(ripple.movedCount, 'file')}, rewrites ${count(ripple.linkCount, 'link')} and leaves a forwarding page.`}
      </p>
      <div className="flex gap-3">
        <Button
          onClick={() => {
            store.change({ kind: 'releaseNames', pageIds: [pageId] })
            onEnd()
          }}
        >
          Change the address too
        </Button>
        <Button look="go" onClick={onEnd}>
          Keep the address
        </Button>
      </div>
    </div>
  )
}
