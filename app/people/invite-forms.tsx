import { Form } from 'react-router'
import { Button } from '../parts/button'

const inline = 'mx-1 rounded-none border-b border-ink bg-transparent px-1 py-0.5'
const days = { 1: 'a day', 7: 'a week', 14: 'two weeks', 30: 'a month', 90: 'three months', 365: 'a year' }

function Days({ value }: { value: keyof typeof days }) {
  return (
    <select name="days" defaultValue={value} aria-label="How long the address is good for" className={inline}>
      {Object.entries(days).map(([number, words]) => (
        <option key={number} value={number}>
          {words}
        </option>
      ))}
    </select>
  )
}

/** Invites one person, in a sentence. */
export function InviteForm({ busy }: { busy: boolean }) {
  return (
    <Form method="post" className="grid gap-3">
      <p className="leading-9">
        An address for
        <input
          name="label"
          aria-label="For whom"
          placeholder="somebody"
          maxLength={100}
          autoComplete="off"
          className={`${inline} w-40`}
        />
        to take part as
        <select name="gives" defaultValue="writer" aria-label="As what" className={inline}>
          <option value="writer">a writer: the plan, its pages and files</option>
          <option value="partner">a partner: everything but removing the site</option>
        </select>
        , good once and for
        <Days value={14} />.
      </p>
      <span>
        <Button type="submit" name="intent" value="invite" look="go" disabled={busy}>
          Make the address
        </Button>
      </span>
    </Form>
  )
}

/** Hands the site out as a start for many. */
export function HandOutForm({ busy }: { busy: boolean }) {
  return (
    <Form method="post" className="grid gap-3">
      <p className="leading-9">
        One address for all of
        <input
          name="label"
          aria-label="For which group"
          placeholder="a class"
          maxLength={100}
          autoComplete="off"
          className={`${inline} w-48`}
        />
        , good for
        <Days value={90} />. Whoever opens it, signed in, gets a copy of the site as it is then.
      </p>
      <span>
        <Button type="submit" name="intent" value="hand-out" disabled={busy}>
          Hand it out
        </Button>
      </span>
    </Form>
  )
}
