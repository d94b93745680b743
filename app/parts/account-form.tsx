import { Form, useNavigation } from 'react-router'
import { Button } from './button'

interface Props {
  readonly action: string
  readonly submit: string
  readonly next: string
  readonly newPassword: boolean
  readonly problem: { message: string } | null
}

/** E-mail address and password, for signing in and for a new account. */
export function AccountForm({ action, submit, next, newPassword, problem }: Props) {
  const busy = useNavigation().state !== 'idle'
  return (
    <Form method="post" action={action} className="grid gap-5">
      <input type="hidden" name="next" value={next} />
      {problem && (
        <p role="alert" className="border-l-3 border-rubric bg-rubric-wash px-3 py-2">
          {problem.message}
        </p>
      )}
      <label className="block">
        E-mail address
        <input className="field" type="email" name="email" autoComplete="username" required maxLength={200} />
      </label>
      <label className="block">
        Password
        <input
          className="field"
          type="password"
          name="password"
          autoComplete={newPassword ? 'new-password' : 'current-password'}
          required
          minLength={newPassword ? 10 : undefined}
          maxLength={200}
          aria-describedby={newPassword ? 'password-hint' : undefined}
        />
        {newPassword && (
          <span id="password-hint" className="text-sm text-quiet">
            Ten characters or more.
          </span>
        )}
      </label>
      <div>
        <Button type="submit" look="go" disabled={busy}>
          {submit}
        </Button>
      </div>
    </Form>
  )
}
