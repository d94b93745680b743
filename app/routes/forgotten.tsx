import { Link } from 'react-router'
import { forgotPassword } from '#server/accounts'
import { forgottenInput } from '../account-input.server'
import { requestContext } from '../edge/context'
import { checkInput, readForm, tellProblem } from '../owner.server'
import { AccountForm } from '../parts/account-form'
import { Outcome } from '../parts/notice'
import { OutsideFrame } from '../parts/outside-frame'
import { sendOrSay } from '../parts/unless-offline'
import type { Route } from './+types/forgotten'

export const meta: Route.MetaFunction = () => [{ title: 'A forgotten password – Rubricant' }]

export async function action({ request, context }: Route.ActionArgs) {
  return tellProblem(async () => {
    const { email } = checkInput(forgottenInput, await readForm(request))
    const { remoteAddress } = context.get(requestContext)
    await forgotPassword(email, new URL(request.url).origin, remoteAddress)
    return { sent: true }
  })
}

export const clientAction = ({ serverAction }: Route.ClientActionArgs) => sendOrSay(() => serverAction())

export default function Forgotten({ actionData }: Route.ComponentProps) {
  return (
    <OutsideFrame email={null}>
      <div className="mx-auto max-w-sm px-4 sm:px-8 py-16">
        <h1 className="mb-6 text-3xl">A forgotten password</h1>
        {actionData && 'sent' in actionData ? (
          <Outcome>
            If this address has an account here, a letter is on its way to it. The link in it is good for an
            hour.
          </Outcome>
        ) : (
          <AccountForm asks="email" submit="Send me a link" problem={actionData?.problem ?? null} />
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
