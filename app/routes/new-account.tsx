import { Link, redirect } from 'react-router'
import { askedAddress, beginSession, makeAccount } from '#server/accounts'
import { choosePasswordInput } from '../account-input.server'
import { checkInput, readForm, tellProblem } from '../owner.server'
import { AccountForm } from '../parts/account-form'
import { OutsideFrame } from '../parts/outside-frame'
import { sendOrSay } from '../parts/unless-offline'
import type { Route } from './+types/new-account'

export const meta: Route.MetaFunction = () => [
  { title: 'Your account – Rubricant' },
  { name: 'robots', content: 'noindex' },
]

export const loader = async ({ params }: Route.LoaderArgs) => ({ email: await askedAddress(params.token) })

/** Makes the account that the letter was for; whoever holds it is signed in with it. */
export async function action({ request, params }: Route.ActionArgs) {
  return tellProblem(async () => {
    const { password } = checkInput(choosePasswordInput, await readForm(request))
    const { account, next } = await makeAccount(params.token, password)
    return redirect(next, { headers: await beginSession(account, request) })
  })
}

export const clientAction = ({ serverAction }: Route.ClientActionArgs) => sendOrSay(() => serverAction())

export default function NewAccount({ loaderData: { email }, actionData }: Route.ComponentProps) {
  return (
    <OutsideFrame email={null}>
      <div className="mx-auto max-w-sm px-4 sm:px-8 py-16">
        <h1 className="mb-6 text-3xl">Your account</h1>
        {email !== null || actionData ? (
          <>
            {email !== null && (
              <p className="mb-5 break-words">
                You sign in as {email}, with a password that you choose here.
              </p>
            )}
            <AccountForm
              asks="new password"
              submit="Make the account"
              problem={actionData?.problem ?? null}
            />
          </>
        ) : (
          <p>
            This link has been used or has run out.{' '}
            <Link className="link" to="/sign-up">
              Ask for another one
            </Link>
          </p>
        )}
      </div>
    </OutsideFrame>
  )
}
