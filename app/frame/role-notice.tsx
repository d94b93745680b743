import { sentenceOf } from '#core/problems'
import { useSite } from '../document/site-context'
import { rightForView, type View } from './views'

/** Says what somebody cannot do in a view, before they try. */
export function RoleNotice({ view }: { view: View }) {
  const { store } = useSite()
  const right = store.may('write') ? (rightForView[view] ?? 'write') : 'write'
  if (store.may(right)) return null
  return (
    <p role="status" className="border-b border-rule bg-vellum px-5 py-2 text-sm">
      {sentenceOf('no-right', { right })}
    </p>
  )
}
