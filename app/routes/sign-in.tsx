import { Form, Link, redirect } from 'react-router'
import {
  accountOf,
  beginSession,
  knownBrowserOf,
  secondStepCookie,
  secondStepState,
  signIn,
  waitForSecondStep,
} from '#server/accounts'
import { config } from '#server/platform'
import { nextInput, signInInput } from '../account-input.server'
import { requestContext } from '../edge/context'
import { checkInput, readForm, tellProblem } from '../owner.server'
import { AccountForm } from '../parts/account-form'
import { OutsideFrame } from '../parts/outside-frame'
import { Button } from '../parts/button'
import { Outcome } from '../parts/notice'
import { sendOrSay } from '../parts/unless-offline'
import type { Route } from './+types/sign-in'

export const meta: Route.MetaFunction = () => [{ title: 'Sign in – Rubricant' }]

/** The demo account has no password of anybody's: it is for whoever sits at this computer. */
function isHere(request: Request, context: Route.LoaderArgs['context']): boolean {
  const { hostname } = new URL(request.url)
  const { remoteAddress } = context.get(requestContext)
  return /^(127\.|localhost$|\[::1\]$)/.test(hostname) && /^(::ffff:)?127\.|^::1$/.test(remoteAddress)
}

export async function loader({ request, context }: Route.LoaderArgs) {
  const { searchParams } = new URL(request.url)
  // Whoever signs in again may have another account's session meanwhile, which that ends.
  if (!searchParams.has('again') && (await accountOf(request))) throw redirect('/sites')
  return {
    next: searchParams.get('next') ?? '',
    isNew: searchParams.has('new'),
    isChosen: searchParams.has('chosen'),
    demo: config().demo !== null && isHere(request, context),
  }
}

export async function action({ request, context }: Route.ActionArgs) {
  const form = await readForm(request)
  return tellProblem(async () => {
    if (form.demo !== undefined && config().demo && isHere(request, context)) {
      const { demoAccount } = await import('../../demo/load')
      const { next } = checkInput(nextInput, form)
      return redirect(next, { headers: await beginSession(await demoAccount(), request) })
    }
    const input = checkInput(signInInput, form)
    const { remoteAddress } = context.get(requestContext)
    const account = await signIn(input.email, input.password, remoteAddress, knownBrowserOf(request))
    if ((await secondStepState(account.id)) === 'on')
      return redirect(`/sign-in/second?next=${encodeURIComponent(input.next)}`, {
        headers: { 'set-cookie': secondStepCookie(waitForSecondStep(account.id)) },
      })
    return redirect(input.next, { headers: await beginSession(account, request) })
  })
}

export const clientAction = ({ serverAction }: Route.ClientActionArgs) => sendOrSay(() => serverAction())

export default function SignIn({ loaderData, actionData }: Route.ComponentProps) {
  const { next, isNew, isChosen, demo } = loaderData
  return (
    <OutsideFrame email={null}>
      <div className="mx-auto grid max-w-4xl gap-x-20 gap-y-12 px-4 sm:px-8 py-16 md:grid-cols-[1fr_20rem]">
        <div>
          <h1 className="mb-5 text-[40px] leading-[1.15] text-balance">
            From a list of pages to a live site, every name and link in place.
          </h1>
          <p className="mb-8 max-w-prose text-[17px] text-quiet">
            Type the plan. Rubricant works out folder and file names, puts your template round every page,
            keeps each menu and link right when something moves, and sends what changed to your server.
          </p>
          {demo && (
            <Form method="post" className="border-t border-rule pt-6">
              <input type="hidden" name="next" value={next} />
              <h2 className="mb-2 text-2xl">Have a look first</h2>
              <p className="mb-4 max-w-prose text-quiet">
                Marrow Skerry Light is an invented lighthouse trust with twenty-one pages, ready to change and
                to upload to the practice host on this computer.
              </p>
              <Button type="submit" look="go" name="demo" value="1">
                Open the demo account
              </Button>
            </Form>
          )}
        </div>
        <div>
          <h2 className="mb-5 text-2xl">Sign in</h2>
          {isNew && (
            <Outcome className="mb-5">
              Your address has an account now, if it had none before. Sign in with the password you chose.
            </Outcome>
          )}
          {isChosen && <Outcome className="mb-5">Your new password is set. Sign in with it.</Outcome>}
          <AccountForm
            action="/sign-in"
            submit="Sign in"
            next={next}
            asks="email and password"
            problem={actionData && 'problem' in actionData ? actionData.problem : null}
          />
          <p className="mt-6 text-quiet">
            New here?{' '}
            <Link className="link" to={`/sign-up?next=${encodeURIComponent(next)}`}>
              Make an account
            </Link>
          </p>
          <p className="mt-2 text-quiet">
            <Link className="link" to="/forgotten">
              Forgotten your password?
            </Link>
          </p>
        </div>
      </div>
    </OutsideFrame>
  )
}
