import { Form, redirectDocument, useNavigation } from 'react-router'
import {
  askForAddress,
  beginSecondStep,
  changePassword,
  confirmSecondStep,
  endOneSession,
  endOtherSessions,
  endSecondStep,
  endSession,
  leaveAccount,
  listSessions,
  secondStepState,
  setName,
} from '#server/accounts'
import { isSendingFor } from '#server/deliveries'
import { Problem } from '#core/problems'
import { config, pool } from '#server/platform'
import { listSites } from '#server/sites'
import {
  accountIntent,
  addressInput,
  endInput,
  leaveInput,
  nameInput,
  ownCodeInput,
  ownPasswordInput,
  passwordInput,
} from '../account-input.server'
import { checkInput, readForm, requireAccount, tellProblem } from '../owner.server'
import { OwnPassword } from '../account/own-password'
import { SecondStepSection } from '../account/second-step-section'
import { Button } from '../parts/button'
import { moment } from '../parts/format'
import { OutsideFrame } from '../parts/outside-frame'
import { Outcome, Refusal } from '../parts/notice'
import { sendOrSay } from '../parts/unless-offline'
import type { Route } from './+types/account'

export const meta: Route.MetaFunction = () => [{ title: 'Your account – Rubricant' }]

export async function loader({ request }: Route.LoaderArgs) {
  const account = await requireAccount(request)
  const [sessions, sites, secondStep] = await Promise.all([
    listSessions(account.id, request),
    listSites(pool(), account.id),
    secondStepState(account.id),
  ])
  return {
    email: account.email,
    name: account.name,
    secondStep,
    isSecondStepNeeded: config().isSecondStepNeeded,
    sessions: sessions.map((one) => ({ ...one, begun: moment(one.begunAt), seen: moment(one.seenAt) })),
    sites: sites.filter(({ role }) => role === 'owner').map(({ id, name }) => ({ id, name })),
  }
}

export async function action({ request }: Route.ActionArgs) {
  const account = await requireAccount(request)
  const form = await readForm(request)
  // Each of the forms shows what is its own.
  const { intent: asked } = form
  return tellProblem(
    async () => {
      const { intent } = checkInput(accountIntent, form)
      switch (intent) {
        case 'name':
          await setName(account.id, checkInput(nameInput, form).name)
          return { intent, done: 'Others see this name from now on.' }
        case 'address': {
          const { email, password } = checkInput(addressInput, form)
          await askForAddress(account, email, password, new URL(request.url).origin)
          return { intent, done: `A letter is on its way to ${email}. The link in it is good for an hour.` }
        }
        case 'password': {
          const { current, next } = checkInput(passwordInput, form)
          await changePassword(account, current, next, request)
          return { intent, done: 'Your password is changed. Everybody else who was signed in is signed out.' }
        }
        case 'second-begin': {
          const { password } = checkInput(ownPasswordInput, form)
          return { intent, setUp: await beginSecondStep(account, password) }
        }
        case 'second-confirm': {
          const codes = await confirmSecondStep(account.id, checkInput(ownCodeInput, form).code)
          return { intent, codes, done: 'From now on a code is asked for when you sign in.' }
        }
        case 'second-end':
          if (config().isSecondStepNeeded) throw new Problem('second-step-needed')
          await endSecondStep(account.id, checkInput(ownPasswordInput, form).password)
          return { intent, done: 'Your password alone lets you in from now on.' }
        case 'end': {
          const { end, password } = checkInput(endInput, form)
          if (end === 'others') await endOtherSessions(account.id, password, request)
          else await endOneSession(account.id, password, end)
          return {
            intent,
            done: end === 'others' ? 'Every other browser is signed out.' : 'That browser is signed out.',
          }
        }
        case 'leave': {
          const { password, typed } = checkInput(leaveInput, form)
          if (typed !== account.email) throw new Problem('not-this-address')
          await leaveAccount(account.id, password, isSendingFor)
          // As a whole document: what this one asks from now on would be asked in the name of nobody.
          return redirectDocument('/sign-in', { headers: { 'set-cookie': await endSession(request) } })
        }
      }
    },
    { intent: asked },
  )
}

export async function clientAction({ request, serverAction }: Route.ClientActionArgs) {
  const intent = (await request.clone().formData()).get('intent')
  return sendOrSay(() => serverAction(), { intent })
}

export default function Account({ loaderData, actionData }: Route.ComponentProps) {
  const { email, name, sessions, sites, secondStep, isSecondStepNeeded } = loaderData
  const busy = useNavigation().state !== 'idle'
  const told = (intents: readonly string[]) => {
    if (!actionData || !intents.includes(String(actionData.intent))) return null
    if (!('problem' in actionData) && !('done' in actionData)) return null
    return 'problem' in actionData ? (
      <Refusal className="mb-4">{actionData.problem}</Refusal>
    ) : (
      <Outcome className="mb-4">{'done' in actionData && actionData.done}</Outcome>
    )
  }
  return (
    <OutsideFrame email={email}>
      <div className="mx-auto grid max-w-3xl grid-cols-[minmax(0,1fr)] gap-12 px-4 py-8 sm:px-8 sm:py-12">
        <h1 className="text-[34px]">Your account</h1>
        <section aria-labelledby="name">
          <h2 id="name" className="mb-3 text-[24px]">
            Name
          </h2>
          {told(['name'])}
          <Form method="post" className="flex max-w-md items-end gap-4">
            <label className="block flex-1">
              <span className="text-quiet">What those see whom you work with</span>
              <input
                className="field"
                name="name"
                defaultValue={name}
                maxLength={60}
                autoComplete="nickname"
              />
            </label>
            <Button type="submit" name="intent" value="name" disabled={busy}>
              Use it
            </Button>
          </Form>
        </section>
        <section aria-labelledby="address">
          <h2 id="address" className="mb-3 text-[24px]">
            E-mail address
          </h2>
          {told(['address'])}
          <Form method="post" className="grid max-w-md grid-cols-[minmax(0,1fr)] gap-4">
            <label className="block">
              <span className="wrap-anywhere text-quiet">The one to use from now on, instead of {email}</span>
              <input
                className="field"
                name="email"
                type="email"
                required
                maxLength={200}
                autoComplete="off"
              />
            </label>
            <OwnPassword />
            <span>
              <Button type="submit" name="intent" value="address" disabled={busy}>
                Send a letter there
              </Button>
            </span>
          </Form>
        </section>
        <section aria-labelledby="password">
          <h2 id="password" className="mb-3 text-[24px]">
            Password
          </h2>
          {told(['password'])}
          <Form
            method="post"
            className="grid max-w-md grid-cols-[minmax(0,1fr)] gap-4"
            key={actionData && 'done' in actionData ? 'done' : 'open'}
          >
            <input type="hidden" name="username" autoComplete="username" value={email} readOnly />
            <OwnPassword name="current" label="The one you have" />
            <OwnPassword
              name="next"
              label="The new one"
              autoComplete="new-password"
              minLength={10}
              hint="Ten characters or more. Every other browser is signed out."
            />
            <span>
              <Button type="submit" name="intent" value="password" look="go" disabled={busy}>
                Change the password
              </Button>
            </span>
          </Form>
        </section>
        <SecondStepSection
          state={secondStep}
          isNeeded={isSecondStepNeeded}
          setUp={(actionData && 'setUp' in actionData && actionData.setUp) || null}
          codes={(actionData && 'codes' in actionData && actionData.codes) || null}
          busy={busy}
          told={told(['second-begin', 'second-confirm', 'second-end'])}
        />
        <section aria-labelledby="signed-in">
          <h2 id="signed-in" className="mb-3 text-[24px]">
            Where you are signed in
          </h2>
          {told(['end'])}
          <Form method="post" key={actionData && 'done' in actionData ? 'done' : 'open'}>
            <input type="hidden" name="intent" value="end" />
            {/* In front of the others: what the Enter key presses in the field stands beside it. */}
            {sessions.length > 1 && (
              <div className="mb-5 flex max-w-xl flex-wrap items-end gap-4 sm:flex-nowrap">
                <OwnPassword label="Your password, before any is signed out" />
                <Button type="submit" name="end" value="others" disabled={busy}>
                  Sign out every other browser
                </Button>
              </div>
            )}
            <ul className="mb-4 border-t border-rule">
              {sessions.map(({ id, browser, begun, seen, isThis }) => (
                <li
                  key={id}
                  className="folds grid grid-cols-[minmax(0,1fr)_10rem_10rem_6rem] items-center gap-4 border-b border-rule py-2"
                >
                  <span className="truncate">{browser || 'A browser'}</span>
                  {/* The browser's clock may stand in another zone than the server's. */}
                  <span className="text-sm text-quiet" suppressHydrationWarning>
                    since {begun}
                  </span>
                  <span className="text-sm text-quiet" suppressHydrationWarning>
                    {isThis ? 'this one' : `seen ${seen}`}
                  </span>
                  {isThis ? (
                    <span />
                  ) : (
                    <button className="link text-sm" name="end" value={id} disabled={busy}>
                      Sign it out
                      <span className="sr-only">
                        : {browser || 'a browser'}, since {begun}
                      </span>
                    </button>
                  )}
                </li>
              ))}
            </ul>
          </Form>
        </section>
        <section aria-labelledby="leave">
          <h2 id="leave" className="mb-3 text-[24px]">
            Leave
          </h2>
          {told(['leave'])}
          <p className="mb-3 max-w-prose text-quiet">
            Your account goes with all that is in it: sites, texts, files, kits, hosts and keys. What stands
            at your hosts stays there. It cannot be undone.
            {sites.length > 0 && ' Take your sites first:'}
          </p>
          {sites.length > 0 && (
            <ul className="mb-4 flex flex-wrap gap-x-5 gap-y-1">
              {sites.map(({ id, name }) => (
                <li key={id}>
                  <a className="link" href={`/sites/${id}/archive.zip?versions=true`} download>
                    {name} as a ZIP
                  </a>
                </li>
              ))}
            </ul>
          )}
          <details>
            <summary className="cursor-pointer text-quiet hover:text-ink">Leave Rubricant…</summary>
            <Form method="post" className="mt-4 grid max-w-md grid-cols-[minmax(0,1fr)] gap-4">
              <label className="block">
                <span className="text-quiet">Your e-mail address, typed by hand</span>
                <input className="field" name="typed" type="email" required autoComplete="off" />
              </label>
              <OwnPassword />
              <span>
                <Button type="submit" name="intent" value="leave" look="remove" disabled={busy}>
                  Remove my account and all that is in it
                </Button>
              </span>
            </Form>
          </details>
        </section>
      </div>
    </OutsideFrame>
  )
}
