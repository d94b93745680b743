import { Form, useSubmit } from 'react-router'
import { type GivenRole, givenRoles, type Role } from '#core/site'
import { moment } from '../parts/format'
import { roleWords } from './role-words'

export interface ShownPerson {
  readonly accountId: string
  readonly name: string
  readonly email: string
  readonly role: Role
  readonly since: Date | null
  readonly isYou: boolean
}

/** Everybody who takes part, with what they may do. */
export function PeopleList({ people, manages }: { people: readonly ShownPerson[]; manages: boolean }) {
  const submit = useSubmit()
  const setRole = (id: string, role: GivenRole) =>
    void submit({ intent: 'role', id, role }, { method: 'post' })
  return (
    <ul className="border-t border-rule">
      {people.map(({ accountId, name, email, role, since, isYou }) => (
        <li
          key={accountId}
          className="folds grid grid-cols-[minmax(0,1fr)_9rem_12rem_7rem] items-baseline gap-4 border-b border-rule py-2"
        >
          <span className="truncate">
            {name}
            <span className="ml-2 text-sm text-quiet">{isYou ? 'you' : email}</span>
          </span>
          {manages && role !== 'owner' && !isYou ? (
            <select
              aria-label={`What ${name} may do`}
              className="border-b border-rule bg-transparent py-0.5"
              value={role}
              onChange={(event) => setRole(accountId, event.target.value as GivenRole)}
            >
              {givenRoles.map((one) => (
                <option key={one} value={one}>
                  {roleWords[one].word}
                </option>
              ))}
            </select>
          ) : (
            <span title={roleWords[role].means}>{roleWords[role].word}</span>
          )}
          <span className="text-sm text-quiet" suppressHydrationWarning>
            {since ? `since ${moment(since)}` : roleWords[role].means}
          </span>
          {role !== 'owner' && (manages || isYou) ? (
            <Form method="post">
              <input type="hidden" name="id" value={accountId} />
              <button className="link text-sm" name="intent" value={isYou ? 'leave' : 'remove'}>
                {isYou ? 'Leave' : 'Remove'}
                <span className="sr-only">{isYou ? ' this site' : ` ${name}`}</span>
              </button>
            </Form>
          ) : (
            <span />
          )}
        </li>
      ))}
    </ul>
  )
}
