import { Link } from 'react-router'
import { sentenceOf } from '#core/problems'
import type { CopyOf } from '#server/sites'
import { useSite } from '../document/site-context'
import { rightForView, type View } from './views'

/** Says what somebody cannot do in a view, before they try. */
export function RoleNotice({ view, copy }: { view: View; copy: CopyOf | null }) {
  const { store } = useSite()
  const right = store.may('write') ? (rightForView[view] ?? 'write') : 'write'
  if (store.may(right)) return null
  return (
    <p role="status" className="flex flex-wrap gap-x-4 border-b border-rule bg-vellum px-5 py-2 text-sm">
      <span>
        {copy && `This is what ${copy.by} makes of “${copy.fromName}”. `}
        {sentenceOf('no-right', { right })}
      </span>
      {copy && (
        <Link className="link" to={`/sites/${copy.fromId}/people`}>
          All who took a copy
        </Link>
      )}
    </p>
  )
}
