import { data, Form, Link, useNavigation } from 'react-router'
import { forgotPassword } from '#server/accounts'
import { Problem } from '#core/problems'
import { forgottenInput } from '../account-input.server'
import { requestContext } from '../edge/context'
import { checkInput, readForm } from '../owner.server'
import { Button } from '../parts/button'
import { OutsideFrame } from '../parts/outside-frame'
import type { Route } from './+types/forgotten'

export const meta: Route.MetaFunction = () => [{ title: 'A forgotten password – Rubricant' }]

export async function action({ request, context }: Route.ActionArgs) {
  try {
    const { email } = checkInput(forgottenInput, await readForm(request))
    const { remoteAddress } = context.get(requestContext)
    await forgotPassword(email, new URL(request.url).origin, remoteAddress)
    return { sent: true }
  } catch (error) {
    if (error instanceof Problem) return data({ problem: error.message }, { status: error.status })
    throw error
  }
}

export default function Forgotten({ actionData }: Route.ComponentProps) {
  const busy = useNavigation().state !== 'idle'
  return (
    <OutsideFrame email={null}>
      <div className="mx-auto max-w-sm px-8 py-16">
        <h1 className="mb-6 text-3xl">A forgotten password</h1>
        {actionData && 'sent' in actionData ? (
          <p role="status" className="border-l-3 border-verdigris bg-verdigris-wash px-3 py-2">
            If this address has an account here, a letter is on its way to it. The link in it is good for an
            hour.
          </p>
        ) : (
          <Form method="post" className="grid gap-5">
            {actionData && 'problem' in actionData && (
              <p role="alert" className="border-l-3 border-rubric bg-rubric-wash px-3 py-2">
                {actionData.problem}
              </p>
            )}
            <label className="block">
              E-mail address
              <input
                className="field"
                type="email"
                name="email"
                autoComplete="username"
                required
                maxLength={200}
              />
            </label>
            <div>
              <Button type="submit" look="go" disabled={busy}>
                Send me a link
              </Button>
            </div>
          </Form>
        )}
        <p className="mt-6">
          <Link className="link" to="/sign-in">
            Back to signing in
          </Link>
        </p>
      </div>
    </OutsideFrame>
  )
}
