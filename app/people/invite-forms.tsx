import { useState } from 'react'
import { Form } from 'react-router'
import { Button } from '../parts/button'
import { Pick } from '../parts/picks/pick'
import { roleWords } from './role-words'

const inline = 'field !inline-block !w-44 !py-0 !leading-7'
const spans = [
  { value: '1', words: 'a day' },
  { value: '7', words: 'a week' },
  { value: '14', words: 'two weeks' },
  { value: '30', words: 'a month' },
  { value: '90', words: 'three months' },
  { value: '365', words: 'a year' },
] as const
export type Days = (typeof spans)[number]['value']

/** How long an address is good for, as a word of a sentence and a field of its form. */
export function DaysPick({
  value,
  onPick,
  after,
}: {
  value: Days
  onPick: (days: Days) => void
  after: string
}) {
  return (
    <>
      <input type="hidden" name="days" value={value} />
      <Pick label="Good for" value={value} options={spans} onPick={onPick} after={after} />
    </>
  )
}

/** Invites one person, in a sentence. */
export function InviteForm({ busy }: { busy: boolean }) {
  const [gives, setGives] = useState<'writer' | 'partner'>('writer')
  const [days, setDays] = useState<Days>('14')
  return (
    <Form method="post" className="grid gap-3">
      <p className="font-serif text-[19px] leading-[2]">
        An address for{' '}
        <input
          name="label"
          aria-label="For whom"
          placeholder="somebody"
          maxLength={100}
          autoComplete="off"
          className={inline}
        />{' '}
        to take part as <input type="hidden" name="gives" value={gives} />
        <Pick
          label="As what"
          value={gives}
          options={(['writer', 'partner'] as const).map((value) => ({
            value,
            words: `a ${value}`,
            hint: roleWords[value].means,
          }))}
          onPick={setGives}
          after=","
        />{' '}
        good once and for <DaysPick value={days} onPick={setDays} after="." />
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
  const [days, setDays] = useState<Days>('90')
  return (
    <Form method="post" className="grid gap-3">
      <p className="font-serif text-[19px] leading-[2]">
        One address for all of{' '}
        <input
          name="label"
          aria-label="For which group"
          placeholder="a class"
          maxLength={100}
          autoComplete="off"
          className={inline}
        />
        , good for <DaysPick value={days} onPick={setDays} after="." /> Whoever opens it, signed in, gets a
        copy of the site as it is then.
      </p>
      <span>
        <Button type="submit" name="intent" value="hand-out" disabled={busy}>
          Hand it out
        </Button>
      </span>
    </Form>
  )
}

/** Shows the site to somebody without an account. */
export function LookForm({ busy }: { busy: boolean }) {
  const [days, setDays] = useState<Days>('30')
  return (
    <Form method="post" className="grid gap-3">
      <p className="font-serif text-[19px] leading-[2]">
        Show the site as it comes out to{' '}
        <input
          name="label"
          aria-label="Who looks"
          placeholder="somebody"
          maxLength={100}
          autoComplete="off"
          className={inline}
        />{' '}
        for <DaysPick value={days} onPick={setDays} after="." /> No account is needed to look, or to leave a
        note.
      </p>
      <span>
        <Button type="submit" name="intent" value="look" disabled={busy}>
          Make an address to look
        </Button>
      </span>
    </Form>
  )
}
