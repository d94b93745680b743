import { Form, useNavigation } from 'react-router'
import { EmailField, PasswordField } from './account-fields'
import { Button } from './button'
import { Refusal } from './notice'

interface Props {
  /** Where it is sent; the address it stands at, otherwise. */
  readonly action?: string
  readonly submit: string
  readonly next?: string
  readonly problem: string | null
  /** What is asked for: with a password that is known or to be chosen, or without one. */
  readonly asks: 'email' | 'email and password' | 'email and new password' | 'new password'
  readonly hint?: string
}

/** E-mail address, password or both: for signing in, for a new account, and where either is chosen anew. */
export function AccountForm({
  action,
  submit,
  next,
  problem,
  asks,
  hint = 'Ten characters or more.',
}: Props) {
  const busy = useNavigation().state !== 'idle'
  return (
    <Form method="post" action={action} className="grid gap-5">
      {next !== undefined && <input type="hidden" name="next" value={next} />}
      {problem && <Refusal>{problem}</Refusal>}
      {asks !== 'new password' && <EmailField />}
      {asks !== 'email' && (
        <PasswordField label="Password" name="password" hint={asks === 'email and password' ? null : hint} />
      )}
      <div>
        <Button type="submit" look="go" disabled={busy}>
          {submit}
        </Button>
      </div>
    </Form>
  )
}
