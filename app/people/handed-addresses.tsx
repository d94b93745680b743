import { Form } from 'react-router'
import { moment } from '../parts/format'

/** An address that was handed out and still gives something. */
export interface HandedAddress {
  readonly id: string
  /** For whom it is. */
  readonly label: string
  /** What it gives, or what came of it. */
  readonly about: string
  readonly endsAt: Date
}

/**
 * Addresses that were handed out, each with a way to withdraw it.
 * @param what what one of them is, for a screen reader
 * @param intent what the form that withdraws one asks for
 */
export function HandedAddresses({
  addresses,
  what,
  intent,
}: {
  addresses: readonly HandedAddress[]
  what: string
  intent: 'withdraw' | 'end-look'
}) {
  if (addresses.length === 0) return null
  return (
    <ul className="mt-4 border-t border-rule">
      {addresses.map(({ id, label, about, endsAt }) => (
        <li
          key={id}
          className="folds grid grid-cols-[minmax(0,1fr)_8rem_12rem_6rem] items-baseline gap-4 border-b border-rule py-2"
        >
          <span className="truncate">{label}</span>
          <span className="text-sm text-quiet">{about}</span>
          <span className="text-sm text-quiet" suppressHydrationWarning>
            until {moment(endsAt)}
          </span>
          <Form method="post">
            <input type="hidden" name="id" value={id} />
            <button className="link text-sm" name="intent" value={intent}>
              Withdraw
              <span className="sr-only">
                {' '}
                the {what} for {label}
              </span>
            </button>
          </Form>
        </li>
      ))}
    </ul>
  )
}
