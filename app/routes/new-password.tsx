import { Link, redirect } from 'react-router'
import { choosePassword, isPasswordLink } from '#server/accounts'
import { choosePasswordInput } from '../account-input.server'
import { checkInput, readForm, tellProblem } from '../owner.server'
import { AccountForm } from '../parts/account-form'
import { OutsideFrame } from '../parts/outside-frame'
import { sendOrSay } from '../parts/unless-offline'
import type { Route } from './+types/new-password'

export const meta: Route.MetaFunction = () => [
  { title: 'A new password – Rubricant' },
  { name: 'robots', content: 'noindex' },
]

export const loader = async ({ params }: Route.LoaderArgs) => ({ isGood: await isPasswordLink(params.token) })

export async function action({ request, params }: Route.ActionArgs) {
  return tellProblem(async () => {
    const { password } = checkInput(choosePasswordInput, await readForm(request))
    await choosePassword(params.token, password)
    return redirect('/sign-in?chosen')
  })
}

export const clientAction = ({ serverAction }: Route.ClientActionArgs) => sendOrSay(() => serverAction())

export default function NewPassword({ loaderData, actionData }: Route.ComponentProps) {
  return (
    <OutsideFrame email={null}>
      <div className="mx-auto max-w-sm px-4 sm:px-8 py-16">
        <h1 className="mb-6 text-3xl">A new password</h1>
        {loaderData.isGood || actionData ? (
          <AccountForm
            asks="new password"
            submit="Use this password"
            hint="Ten characters or more. Every browser that is signed in is signed out."
            problem={actionData?.problem ?? null}
          />
        ) : (
          <p>
            This link has been used or has run out.{' '}
            <Link className="link" to="/forgotten">
              Ask for another one
            </Link>
          </p>
        )}
      </div>
    </OutsideFrame>
  )
}
