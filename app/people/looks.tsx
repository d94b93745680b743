import { Form } from 'react-router'
import { count, moment } from '../parts/format'

/** Addresses at which the site can be looked at. */
export function Looks({
  looks,
}: {
  looks: readonly {
    readonly id: string
    readonly label: string
    readonly endsAt: Date
    readonly noteCount: number
  }[]
}) {
  if (looks.length === 0) return null
  return (
    <ul className="mt-4 border-t border-rule">
      {looks.map(({ id, label, endsAt, noteCount }) => (
        <li
          key={id}
          className="grid grid-cols-[minmax(0,1fr)_8rem_12rem_6rem] items-baseline gap-4 border-b border-rule py-2"
        >
          <span className="truncate">{label || 'Somebody'}</span>
          <span className="text-sm text-quiet">{count(noteCount, 'note')}</span>
          <span className="text-sm text-quiet" suppressHydrationWarning>
            until {moment(endsAt)}
          </span>
          <Form method="post">
            <input type="hidden" name="id" value={id} />
            <button className="link text-sm" name="intent" value="end-look">
              Withdraw<span className="sr-only"> the look for {label || 'somebody'}</span>
            </button>
          </Form>
        </li>
      ))}
    </ul>
  )
}
