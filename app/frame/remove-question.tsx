import { useEffect, useRef } from 'react'
import { branchOf } from '#core/plan'
import { useSelection, useSite } from '../document/site-context'
import { useRipple } from '../document/use-ripple'
import { Button } from '../parts/button'
import { count } from '../parts/format'

/** Asks before pages are removed, saying what goes with them and what links to them. */
export function RemoveQuestion({ pageIds, onEnd }: { pageIds: readonly string[]; onEnd: () => void }) {
  const { site, tree, store } = useSite()
  const { select } = useSelection()
  const button = useRef<HTMLButtonElement>(null)
  const links = useRipple({ kind: 'removePages', pageIds })?.brokenCount ?? null
  const first = tree.byId.get(pageIds[0]!)
  const branch = pageIds.flatMap((id) => branchOf(tree, id))
  useEffect(() => button.current?.focus(), [])
  if (!first) return null

  function remove() {
    const siblings = tree.childrenOf(first!.parentId)
    const at = siblings.findIndex((page) => page.id === first!.id)
    const next = siblings[at + 1] ?? siblings[at - 1]
    if (!('refusal' in store.change({ kind: 'removePages', pageIds })))
      select(next?.id ?? first!.parentId ?? site.homeId)
    onEnd()
  }
  return (
    <div
      className="border-t border-rule bg-vellum px-4 py-3"
      role="group"
      aria-label="Remove"
      onKeyDown={(event) => {
        event.stopPropagation()
        if (event.key === 'Escape') onEnd()
      }}
    >
      <p className="mb-2.5">
        <b className="font-semibold">Ripple.</b> “{first.label}”
        {branch.length > 1 ? ` and ${count(branch.length - 1, 'page')} below it leave` : ' leaves'} the site
        and every menu.{' '}
        {links === null
          ? ''
          : links === 0
            ? 'No other page’s text links there.'
            : `${count(links, 'link')} in other pages will lead nowhere.`}
      </p>
      <div className="flex gap-3">
        <Button ref={button} look="remove" onClick={remove}>
          Remove {branch.length > 1 ? count(branch.length, 'page') : 'it'}
        </Button>
        <Button onClick={onEnd}>Keep {branch.length > 1 ? 'them' : 'it'}</Button>
      </div>
    </div>
  )
}
