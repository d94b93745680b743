import { type ReactNode, useState } from 'react'
import { Form } from 'react-router'
import { Button } from '../parts/button'
import { Pick } from '../parts/picks/pick'
import { roleWords } from './role-words'

const spans = [
  { value: '1', words: 'a day' },
  { value: '7', words: 'a week' },
  { value: '14', words: 'two weeks' },
  { value: '30', words: 'a month' },
  { value: '90', words: 'three months' },
  { value: '365', words: 'a year' },
] as const
type Days = (typeof spans)[number]['value']

/** How long an address is good for, as a word of a sentence and a field of its form. */
function DaysPick({ first, after }: { first: Days; after: string }) {
  const [days, setDays] = useState<Days>(first)
  return (
    <>
      <input type="hidden" name="days" value={days} />
      <Pick label="Good for" value={days} options={spans} onPick={setDays} after={after} />
    </>
  )
}

/** For whom an address is, as a word of a sentence. */
const ForWhom = ({ label, placeholder }: { label: string; placeholder: string }) => (
  <input
    name="label"
    aria-label={label}
    placeholder={placeholder}
    maxLength={100}
    autoComplete="off"
    className="field !inline-block !w-44 !py-0 !leading-7"
  />
)

/** A form that is one sentence and makes an address to hand out. */
const AddressForm = ({
  intent,
  words,
  look,
  busy,
  children,
}: {
  intent: 'invite' | 'hand-out' | 'look'
  /** On its button. */
  words: string
  look?: 'go'
  busy: boolean
  children: ReactNode
}) => (
  <Form method="post" className="grid gap-3">
    <p className="font-serif text-[19px] leading-[2]">{children}</p>
    <span>
      <Button type="submit" name="intent" value={intent} look={look} disabled={busy}>
        {words}
      </Button>
    </span>
  </Form>
)

/** Invites one person, in a sentence. */
export function InviteForm({ busy }: { busy: boolean }) {
  const [gives, setGives] = useState<'writer' | 'partner'>('writer')
  return (
    <AddressForm intent="invite" words="Make the address" look="go" busy={busy}>
      An address for <ForWhom label="For whom" placeholder="somebody" /> to take part as{' '}
      <input type="hidden" name="gives" value={gives} />
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
      good once and for <DaysPick first="14" after="." />
    </AddressForm>
  )
}

/** Hands the site out as a start for many. */
export const HandOutForm = ({ busy }: { busy: boolean }) => (
  <AddressForm intent="hand-out" words="Hand it out" busy={busy}>
    One address for all of <ForWhom label="For which group" placeholder="a class" />, good for{' '}
    <DaysPick first="90" after="." /> Whoever opens it, signed in, gets a copy of the site as it is then.
  </AddressForm>
)

/** Shows the site to somebody without an account. */
export const LookForm = ({ busy }: { busy: boolean }) => (
  <AddressForm intent="look" words="Make an address to look" busy={busy}>
    Show the site as it comes out to <ForWhom label="Who looks" placeholder="somebody" /> for{' '}
    <DaysPick first="30" after="." /> No account is needed to look, or to leave a note.
  </AddressForm>
)
