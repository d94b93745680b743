import { Form, redirect, useNavigation } from 'react-router'
import { lookAtInvitation, takeInvitation } from '#server/sites'
import { requireAccount, tellProblem } from '../owner.server'
import { Button } from '../parts/button'
import { OutsideFrame } from '../parts/outside-frame'
import { roleWords } from '../people/role-words'
import { Refusal } from '../parts/notice'
import { sendOrSay } from '../parts/unless-offline'
import type { Route } from './+types/invitation'

export const meta: Route.MetaFunction = () => [{ title: 'An invitation – Rubricant' }]

/** What an address that was handed out gives. Nothing is taken by looking: mail programs look at every address. */
export async function loader({ request, params }: Route.LoaderArgs) {
  const { email } = await requireAccount(request)
  const held = await lookAtInvitation(params.token)
  return { email, held: held && { from: held.from, siteName: held.siteName, gives: held.gives } }
}

export async function action({ request, params }: Route.ActionArgs) {
  const account = await requireAccount(request)
  return tellProblem(async () => {
    return redirect(`/sites/${await takeInvitation(params.token, account.id)}/plan`)
  })
}

export const clientAction = ({ serverAction }: Route.ClientActionArgs) => sendOrSay(() => serverAction())

export default function Invitation({ loaderData, actionData }: Route.ComponentProps) {
  const { email, held } = loaderData
  const busy = useNavigation().state !== 'idle'
  return (
    <OutsideFrame email={email}>
      <div className="mx-auto max-w-xl px-4 sm:px-8 py-16">
        {held ? (
          <>
            <h1 className="mb-4 text-[34px]">{held.siteName}</h1>
            <p className="mb-6 text-[17px]">
              {held.gives === 'copy'
                ? `${held.from} hands this site out as a start. You get a copy of your own, and ${held.from} may look at how it goes on.`
                : `${held.from} invites you to take part as a ${held.gives}: ${roleWords[held.gives].means}.`}
            </p>
            {actionData && <Refusal className="mb-6">{actionData.problem}</Refusal>}
            <Form method="post">
              <Button type="submit" look="go" disabled={busy}>
                {held.gives === 'copy' ? 'Take a copy' : 'Take part'}
              </Button>
            </Form>
          </>
        ) : (
          <>
            <h1 className="mb-4 text-[34px]">This invitation gives nothing</h1>
            <p className="text-[17px] text-quiet">
              It has been taken, has run out, or was withdrawn. Ask whoever sent it for another one.
            </p>
          </>
        )}
      </div>
    </OutsideFrame>
  )
}
