import { Form } from 'react-router'
import { moment } from '../parts/format'

export interface ShownInvitation {
  readonly id: string
  readonly gives: 'writer' | 'partner' | 'copy'
  readonly label: string
  readonly endsAt: Date
  readonly hasEnded: boolean
}

/** Addresses that were handed out and still give something. */
export function Invitations({ invitations }: { invitations: readonly ShownInvitation[] }) {
  const open = invitations.filter(({ hasEnded }) => !hasEnded)
  if (open.length === 0) return null
  return (
    <ul className="mt-4 border-t border-rule">
      {open.map(({ id, gives, label, endsAt }) => (
        <li
          key={id}
          className="grid grid-cols-[minmax(0,1fr)_8rem_12rem_6rem] items-baseline gap-4 border-b border-rule py-2"
        >
          <span className="truncate">{label || (gives === 'copy' ? 'A start for many' : 'Somebody')}</span>
          <span className="text-sm text-quiet">{gives === 'copy' ? 'takes a copy' : `as ${gives}`}</span>
          <span className="text-sm text-quiet" suppressHydrationWarning>
            until {moment(endsAt)}
          </span>
          <Form method="post">
            <input type="hidden" name="id" value={id} />
            <button className="link text-sm" name="intent" value="withdraw">
              Withdraw<span className="sr-only"> the address for {label || 'somebody'}</span>
            </button>
          </Form>
        </li>
      ))}
    </ul>
  )
}
