import { useEffect } from 'react'
import { Link } from 'react-router'
import { requireAccount } from '../owner.server'
import { OutsideFrame } from '../parts/outside-frame'
import type { Route } from './+types/signed-in-again'

export const meta: Route.MetaFunction = () => [{ title: 'Signed in again – Rubricant' }]

export const loader = async ({ request }: Route.LoaderArgs) => ({
  email: (await requireAccount(request)).email,
})

/** Where signing in again ends, in the tab that a window opened for it: the window goes on by itself. */
export default function SignedInAgain({ loaderData: { email } }: Route.ComponentProps) {
  useEffect(() => {
    // Browsers close a tab that a window opened, and leave any other.
    window.close()
  }, [])
  return (
    <OutsideFrame email={email}>
      <div className="mx-auto max-w-xl px-4 py-16 sm:px-8">
        <h1 className="mb-3 text-3xl">You are signed in again</h1>
        <p className="mb-6 text-quiet">
          Close this tab and go back to the one that you came from: it goes on where you were.
        </p>
        <Link className="link" to="/sites">
          Go to your sites
        </Link>
      </div>
    </OutsideFrame>
  )
}
