import type { ReactNode } from 'react'
import { Form } from 'react-router'
import type { StepToSetUp } from '#server/accounts'
import { Button } from '../parts/button'
import { Caution } from '../parts/notice'
import { OwnPassword } from './own-password'

interface Props {
  /** Not used; a secret was made and no code typed yet; or asked for with every signing in. */
  readonly state: 'off' | 'begun' | 'on'
  /** What was just made for an app to be set up. */
  readonly setUp: StepToSetUp | null
  /** Spare codes that were just made: they are shown this once. */
  readonly codes: readonly string[] | null
  /** Whether nobody may go without. */
  readonly isNeeded: boolean
  readonly busy: boolean
  /** What came of the last thing that was asked for here. */
  readonly told: ReactNode
}

/** The second step of signing in: off, being set up, on. */
export function SecondStepSection({ state, setUp, codes, isNeeded, busy, told }: Props) {
  return (
    <section aria-labelledby="second-step">
      <h2 id="second-step" className="mb-3 text-[24px]">
        A second step
      </h2>
      {told}
      {isNeeded && state !== 'on' && (
        <Caution className="mb-4">
          Whoever runs this server wants everybody to sign in with a second step. Set it up here, and your
          sites open again.
        </Caution>
      )}
      {codes && (
        <div className="mb-5">
          <p className="mb-2 max-w-prose">
            Keep these spare codes on paper or in your password manager. Each lets you in once when your phone
            is away. They are not shown again.
          </p>
          <ul
            aria-label="Spare codes"
            className="grid max-w-md grid-cols-2 gap-x-8 bg-vellum px-4 py-3 font-mono"
          >
            {codes.map((code) => (
              <li key={code}>{code}</li>
            ))}
          </ul>
        </div>
      )}
      {state === 'on' ? (
        <>
          <p className="mb-3 max-w-prose text-quiet">
            To sign in, your password is asked for and then a code that an app on your phone shows.
          </p>
          {!isNeeded && (
            <Form method="post" className="flex max-w-md items-end gap-4" key="on">
              <OwnPassword />
              <Button type="submit" name="intent" value="second-end" disabled={busy}>
                Turn it off
              </Button>
            </Form>
          )}
        </>
      ) : (
        <>
          <p className="mb-3 max-w-prose text-quiet">
            With a second step nobody signs in with your password alone: a code is asked for, too, which an
            authenticator app on your phone shows and which changes every half minute (RFC 6238).
          </p>
          {setUp && (
            <div className="mb-4 grid gap-4 sm:grid-cols-[11rem_1fr]">
              <img
                className="size-44 bg-white"
                alt="The secret as a QR code"
                src={`data:image/svg+xml;utf8,${encodeURIComponent(setUp.picture)}`}
              />
              <p className="max-w-prose self-center">
                Look at this with the app, or type the secret into it:
                <br />
                <span className="font-mono break-words select-all">{setUp.secret}</span>
              </p>
            </div>
          )}
          {state === 'begun' && (
            <Form method="post" className="mb-5 flex max-w-md items-end gap-4" key="begun">
              <label className="block flex-1">
                <span className="text-quiet">The code that the app shows now</span>
                <input
                  className="field font-mono"
                  name="code"
                  inputMode="numeric"
                  autoComplete="one-time-code"
                  required
                  maxLength={20}
                />
              </label>
              <Button type="submit" name="intent" value="second-confirm" look="go" disabled={busy}>
                Use it from now on
              </Button>
            </Form>
          )}
          {!setUp && (
            <Form method="post" className="flex max-w-md items-end gap-4" key="off">
              <OwnPassword />
              <Button type="submit" name="intent" value="second-begin" disabled={busy}>
                {state === 'begun' ? 'Begin anew' : 'Set it up'}
              </Button>
            </Form>
          )}
        </>
      )}
    </section>
  )
}
