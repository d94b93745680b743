import { data, Link, redirect } from 'react-router'
import { signUp } from '#server/accounts'
import { Problem } from '#core/problems'
import { signUpInput } from '../account-input.server'
import { requestContext } from '../edge/context'
import { checkInput, readForm } from '../owner.server'
import { AccountForm } from '../parts/account-form'
import { OutsideFrame } from '../parts/outside-frame'
import type { Route } from './+types/sign-up'

export const meta: Route.MetaFunction = () => [{ title: 'Make an account – Rubricant' }]

export async function action({ request, context }: Route.ActionArgs) {
  try {
    const input = checkInput(signUpInput, await readForm(request))
    // The same answer whether the address had an account or not: nobody learns who has one here.
    await signUp(input.email, input.password, context.get(requestContext).remoteAddress)
    return redirect(`/sign-in?new&next=${encodeURIComponent(input.next)}`)
  } catch (error) {
    if (error instanceof Problem)
      return data({ problem: { message: error.message } }, { status: error.status })
    throw error
  }
}

export const loader = ({ request }: Route.LoaderArgs) => ({
  next: new URL(request.url).searchParams.get('next') ?? '',
})

export default function SignUp({ loaderData, actionData }: Route.ComponentProps) {
  return (
    <OutsideFrame email={null}>
      <div className="mx-auto max-w-sm px-8 py-16">
        <h1 className="mb-6 text-3xl">Make an account</h1>
        <AccountForm
          action="/sign-up"
          submit="Make the account"
          next={loaderData.next}
          newPassword
          problem={actionData && 'problem' in actionData ? actionData.problem : null}
        />
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
