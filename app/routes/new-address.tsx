import { Form, useNavigation } from 'react-router'
import { takeAddress } from '#server/accounts'
import { tellProblem } from '../owner.server'
import { Button } from '../parts/button'
import { OutsideFrame } from '../parts/outside-frame'
import { Outcome, Refusal } from '../parts/notice'
import { sendOrSay } from '../parts/unless-offline'
import type { Route } from './+types/new-address'

export const meta: Route.MetaFunction = () => [
  { title: 'A new address – Rubricant' },
  { name: 'robots', content: 'noindex' },
]

/** Takes the address that the link was sent to. Nothing is taken by looking: mail programs look at every address. */
export async function action({ params }: Route.ActionArgs) {
  return tellProblem(async () => {
    return { taken: await takeAddress(params.token) }
  })
}

export const clientAction = ({ serverAction }: Route.ClientActionArgs) => sendOrSay(() => serverAction())

export default function NewAddress({ actionData }: Route.ComponentProps) {
  const busy = useNavigation().state !== 'idle'
  return (
    <OutsideFrame email={null}>
      <div className="mx-auto max-w-md px-4 sm:px-8 py-16">
        <h1 className="mb-6 text-3xl">A new address</h1>
        {actionData && 'taken' in actionData ? (
          <Outcome>
            Sign in with {actionData.taken} from now on.{' '}
            <a className="link" href="/sites">
              Go to your sites
            </a>
          </Outcome>
        ) : (
          <>
            {actionData && <Refusal className="mb-5">{actionData.problem}</Refusal>}
            <p className="mb-5">Your account uses this address from now on, to sign in and for letters.</p>
            <Form method="post">
              <Button type="submit" look="go" disabled={busy}>
                Take the new address
              </Button>
            </Form>
          </>
        )}
      </div>
    </OutsideFrame>
  )
}
