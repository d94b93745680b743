import { Link, redirect } from 'react-router'
import { askForAccount, signUp } from '#server/accounts'
import { isForMany } from '#server/sites'
import { config } from '#server/platform'
import { askInput, signUpInput } from '../account-input.server'
import { requestContext } from '../edge/context'
import { checkInput, readForm, tellProblem } from '../owner.server'
import { AccountForm } from '../parts/account-form'
import { Outcome } from '../parts/notice'
import { OutsideFrame } from '../parts/outside-frame'
import { sendOrSay } from '../parts/unless-offline'
import type { Route } from './+types/sign-up'

export const meta: Route.MetaFunction = () => [{ title: 'Make an account – Rubricant' }]

/** The same answer whether the address had an account or not: nobody learns who has one here. */
export async function action({ request, context }: Route.ActionArgs) {
  const { remoteAddress } = context.get(requestContext)
  return tellProblem(async () => {
    const form = await readForm(request)
    if (config().signUp === 'confirmed') {
      const { email, next } = checkInput(askInput, form)
      await askForAccount(email, next, new URL(request.url).origin, remoteAddress, await isForMany(next))
      return { sent: email }
    }
    const input = checkInput(signUpInput, form)
    await signUp(input.email, input.password, remoteAddress, await isForMany(input.next))
    return redirect(`/sign-in?new&next=${encodeURIComponent(input.next)}`)
  })
}

export const clientAction = ({ serverAction }: Route.ClientActionArgs) => sendOrSay(() => serverAction())

export const loader = ({ request }: Route.LoaderArgs) => ({
  next: new URL(request.url).searchParams.get('next') ?? '',
  signUp: config().signUp,
})

export default function SignUp({ loaderData, actionData }: Route.ComponentProps) {
  const { next, signUp } = loaderData
  const problem = actionData && 'problem' in actionData ? actionData.problem : null
  return (
    <OutsideFrame email={null}>
      <div className="mx-auto max-w-sm px-4 sm:px-8 py-16">
        <h1 className="mb-6 text-3xl">Make an account</h1>
        {signUp === 'closed' ? (
          <p>Accounts of this server are made by whoever runs it. Ask them for a link.</p>
        ) : actionData && 'sent' in actionData ? (
          <Outcome>
            A letter is on its way to {actionData.sent}. The link in it makes the account and is good for a
            day.
          </Outcome>
        ) : signUp === 'confirmed' ? (
          <>
            <p className="mb-5 text-quiet">
              A letter with a link comes to this address; there you choose a password.
            </p>
            <AccountForm asks="email" submit="Send me the letter" next={next} problem={problem} />
          </>
        ) : (
          <AccountForm
            asks="email and new password"
            submit="Make the account"
            next={next}
            problem={problem}
          />
        )}
        <p className="mt-6 text-quiet">
          You have one?{' '}
          <Link className="link" to="/sign-in">
            Sign in
          </Link>
        </p>
      </div>
    </OutsideFrame>
  )
}
