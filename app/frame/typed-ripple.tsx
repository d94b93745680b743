import type { ChangeRequest } from '#core/change'
import type { RippleView } from '#server/sites'
import { useSite } from '../document/site-context'
import { Path } from '../parts/path'
import { RippleLines } from '../parts/ripple-details'
import { rippleWords } from '../parts/ripple-words'

export type Relabel = Extract<ChangeRequest, { kind: 'setPageText' }>

/** What a label would touch, while it is being typed: Enter makes it, so it is shown before. */
export function TypedRipple({ change, ripple }: { change: Relabel; ripple: RippleView }) {
  const { names, tree } = useSite()
  const path = names.pages.get(change.pageId)?.path ?? ''
  const own = ripple.moved.find((one) => one.id === change.pageId)
  const isKept = !own && (tree.byId.get(change.pageId)?.addresses.includes(path) ?? false)
  const more = ripple.movedCount > 1 || ripple.linkCount > 0
  return (
    <div
      role="status"
      className="border-t border-rule bg-vellum px-4 py-2.5"
      // Looking here does not end the typing.
      onMouseDown={(event) => event.preventDefault()}
    >
      <p className="mb-1">
        <b className="font-semibold">Ripple.</b>{' '}
        {isKept
          ? 'The address stays as it is, since it is published.'
          : `With this label ${rippleWords(ripple)}; menus follow.`}
      </p>
      {own && !more && (
        <p className="flex min-w-0 items-baseline gap-2 text-sm">
          <Path path={own.from} className="min-w-0 text-quiet" /> <span aria-hidden>→</span>
          <span className="sr-only">becomes</span> <Path path={own.to} className="min-w-0" />
        </p>
      )}
      {more && <RippleLines ripple={ripple} className="max-h-28" />}
    </div>
  )
}
