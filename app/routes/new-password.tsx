import { data, Form, Link, redirect, useNavigation } from 'react-router'
import { choosePassword, isPasswordLink } from '#server/accounts'
import { Problem } from '#core/problems'
import { newPasswordInput } from '../account-input.server'
import { checkInput, readForm } from '../owner.server'
import { Button } from '../parts/button'
import { OutsideFrame } from '../parts/outside-frame'
import type { Route } from './+types/new-password'

export const meta: Route.MetaFunction = () => [
  { title: 'A new password – Rubricant' },
  { name: 'robots', content: 'noindex' },
]

export const loader = async ({ params }: Route.LoaderArgs) => ({ isGood: await isPasswordLink(params.token) })

export async function action({ request, params }: Route.ActionArgs) {
  try {
    const { next } = checkInput(newPasswordInput, await readForm(request))
    await choosePassword(params.token, next)
    return redirect('/sign-in?chosen')
  } catch (error) {
    if (error instanceof Problem) return data({ problem: error.message }, { status: error.status })
    throw error
  }
}

export default function NewPassword({ loaderData, actionData }: Route.ComponentProps) {
  const busy = useNavigation().state !== 'idle'
  return (
    <OutsideFrame email={null}>
      <div className="mx-auto max-w-sm px-8 py-16">
        <h1 className="mb-6 text-3xl">A new password</h1>
        {loaderData.isGood || actionData ? (
          <Form method="post" className="grid gap-5">
            {actionData && (
              <p role="alert" className="border-l-3 border-rubric bg-rubric-wash px-3 py-2">
                {actionData.problem}
              </p>
            )}
            <label className="block">
              The new one
              <input
                className="field"
                type="password"
                name="next"
                autoComplete="new-password"
                required
                minLength={10}
                maxLength={200}
              />
              <span className="block text-sm text-quiet">
                Ten characters or more. Every browser that is signed in is signed out.
              </span>
            </label>
            <div>
              <Button type="submit" look="go" disabled={busy}>
                Use this password
              </Button>
            </div>
          </Form>
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
