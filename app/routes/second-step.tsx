import { data, Form, Link, redirect, useNavigation } from 'react-router'
import {
  accountWaiting,
  beginSession,
  secondStepCookie,
  secondStepOf,
  takeSecondStep,
} from '#server/accounts'
import { codeInput } from '../account-input.server'
import { checkInput, readForm, tellProblem } from '../owner.server'
import { Button } from '../parts/button'
import { Refusal } from '../parts/notice'
import { OutsideFrame } from '../parts/outside-frame'
import { sendOrSay } from '../parts/unless-offline'
import type { Route } from './+types/second-step'

export const meta: Route.MetaFunction = () => [{ title: 'The second step – Rubricant' }]

export const loader = ({ request }: Route.LoaderArgs) => ({
  next: new URL(request.url).searchParams.get('next') ?? '',
  isWaiting: accountWaiting(secondStepOf(request)) !== null,
})

export async function action({ request }: Route.ActionArgs) {
  const form = await readForm(request)
  const accountId = accountWaiting(secondStepOf(request))
  if (!accountId) return data({ problem: 'That took too long. Type your password again.' }, { status: 422 })
  return tellProblem(async () => {
    const { code, next } = checkInput(codeInput, form)
    await takeSecondStep(accountId, code)
    const headers = await beginSession({ id: accountId }, request)
    headers.append('set-cookie', secondStepCookie(null))
    return redirect(next, { headers })
  })
}

export const clientAction = ({ serverAction }: Route.ClientActionArgs) => sendOrSay(() => serverAction())

export default function SecondStep({ loaderData, actionData }: Route.ComponentProps) {
  const busy = useNavigation().state !== 'idle'
  return (
    <OutsideFrame email={null}>
      <div className="mx-auto max-w-sm px-4 sm:px-8 py-16">
        <h1 className="mb-6 text-3xl">The second step</h1>
        {loaderData.isWaiting || actionData ? (
          <Form method="post" className="grid gap-5">
            <input type="hidden" name="next" value={loaderData.next} />
            {actionData && <Refusal>{actionData.problem}</Refusal>}
            <div>
              <label className="block">
                Code
                <input
                  className="field font-mono"
                  name="code"
                  autoComplete="one-time-code"
                  autoFocus
                  required
                  maxLength={20}
                  aria-describedby="code-hint"
                />
              </label>
              <span id="code-hint" className="block text-sm text-quiet">
                The one that the app on your phone shows now, or a spare one.
              </span>
            </div>
            <div>
              <Button type="submit" look="go" disabled={busy}>
                Sign in
              </Button>
            </div>
          </Form>
        ) : (
          <p>Type your password first: the second step comes after it.</p>
        )}
        <p className="mt-6 text-quiet">
          Phone and spare codes lost? Whoever runs this server can help.{' '}
          <Link className="link" to="/sign-in">
            Back
          </Link>
        </p>
      </div>
    </OutsideFrame>
  )
}
